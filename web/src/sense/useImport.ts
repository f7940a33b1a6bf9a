import { capital } from "@perceptum/core/phrases";
import { type ImportPlan, type Light, MAX_FILE_BYTES, type Report, type TableError } from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import type { Labelled } from "@perceptum/core/teaching";
import { proxy } from "comlink";
import { useEffect, useState } from "react";
import { useSession } from "../hooks/context";
import { WorkerGone, WorkerLink } from "../model/WorkerLink";
import type { ImportResult, ImportWorker, Preview } from "../workers/import.worker";

/** Where readings come from: a file, or text that was pasted. */
export type ImportText = { name: string } & ({ file: File } | { text: string });

/** What the sensor that is worked on reports and how often: the first guess of what a text holds. */
interface Expected {
  reports: Report;
  periodMs: number;
}

/** A large file on a slow machine takes so long at most. */
const LIMIT_MS = 120_000;

/** Reads a text in a worker: what it looks like, then, by a plan, what it holds. What goes wrong is a sentence. */
export function useImport(
  source: ImportText,
  expected: Expected,
  names: { targets: readonly Target[]; lights: readonly Light[] },
) {
  const [link, setLink] = useState<WorkerLink<ImportWorker>>();
  const [preview, setPreview] = useState<Preview>();
  const [plan, setPlan] = useState<ImportPlan>();
  const [result, setResult] = useState<ImportResult>();
  const [wrong, setWrong] = useState<string>();
  const [progress, setProgress] = useState<{ share: number; began: number } | null>({
    share: 0,
    began: performance.now(),
  });
  const { targets, lights } = names;
  const { startWorker } = useSession().surroundings;

  // A text is opened once, by what was worked on then.
  useEffect(() => {
    const made = new WorkerLink<ImportWorker>(() => startWorker("import"), { limitMs: LIMIT_MS });
    const fail = (sentence: string) => {
      setWrong(`${sentence} Nothing was changed.`);
      setProgress(null);
    };
    const open = async () => {
      if ("file" in source && source.file.size > MAX_FILE_BYTES)
        return fail(`${source.name} has ${Math.round(source.file.size / 1_048_576)} MB; at most 50 MB are read.`);
      const text = "file" in source ? await source.file.text() : source.text;
      const opened = await made.ask(
        async (remote): Promise<Preview | TableError> => remote.open(text, expected.reports, expected.periodMs),
      );
      if ("error" in opened) return fail(`${source.name}, line ${opened.line}: ${opened.error}.`);
      setLink(made);
      setPreview(opened);
      setPlan(opened.plan);
    };
    open().catch((error: Error) => {
      if (!(error instanceof WorkerGone && error.wanted)) fail(`${source.name} cannot be read: ${error.message}.`);
    });
    return () => made.end();
  }, []);

  useEffect(() => {
    if (plan === undefined || link === undefined) return;
    let last = true;
    const began = performance.now();
    setProgress({ share: 0, began });
    setWrong(undefined);
    const told = proxy((share: number) => last && setProgress({ share, began }));
    const done = (read: ImportResult | undefined, sentence?: string) => {
      if (!last) return;
      setProgress(null);
      setResult(read);
      setWrong(sentence);
    };
    link
      .ask(async (remote): Promise<ImportResult | TableError> => remote.read(plan, targets, lights, told))
      .then(
        (read) =>
          "error" in read
            ? done(undefined, `${capital(read.error)}${read.line > 0 ? ` (line ${read.line})` : ""}.`)
            : done(read),
        (error: Error) => done(undefined, `It cannot be read: ${error.message}. Nothing was changed.`),
      );
    return () => {
      last = false;
    };
  }, [link, plan, targets, lights]);

  return {
    preview,
    plan,
    setPlan,
    result,
    wrong,
    progress,
    /** The mean raw values of the readings with each label. */
    meansOf: (words: readonly string[]): Promise<number[][]> =>
      link === undefined ? Promise.resolve([]) : link.ask((remote) => remote.means(words)),
    /** The marks that the labels give for other targets. */
    marksFor: (of: readonly Target[]): Promise<Labelled | null> =>
      link === undefined ? Promise.resolve(null) : link.ask((remote) => remote.marks(of, lights)),
  };
}
