import { writeFileSync } from "node:fs";
import {
  checkSentence,
  nameIn,
  OUTCOME_WORDS,
  RunError,
  run,
  traceCsv,
  traceJsonLines,
  verdicts,
} from "@perceptum/core/world";
import { InputError, openDocument, wholeNumber } from "./input";

export interface RunOptions {
  course: string;
  start?: string;
  light?: string;
  seed?: string;
  trace?: string;
  json?: boolean;
}

/** One run with its checks. Exit code 1 if a check does not hold. */
export function runCommand(projectFile: string, options: RunOptions): { text: string; code: number } {
  const { document } = openDocument(projectFile);
  const trace = runOf(document, options);
  if (options.trace !== undefined) {
    const text = /\.csv$/i.test(options.trace) ? traceCsv(trace) : traceJsonLines(trace);
    if (options.trace === "-") process.stdout.write(text);
    else writeTo(options.trace, text);
  }
  const name = nameIn(document);
  const checks = verdicts(trace, name).map(({ check, verdict }) => ({ check: checkSentence(check, name), ...verdict }));
  const code = checks.every((c) => c.outcome === "holds") ? 0 : 1;
  const { ending, endMs, start, light, seed } = trace;
  if (options.json)
    return {
      text: `${JSON.stringify({ course: trace.course.id, start, light, seed, ending, endMs, checks }, null, 2)}\n`,
      code,
    };
  const lines = checks.map(
    (c) =>
      `${OUTCOME_WORDS[c.outcome].padEnd(11)}  ${c.check}  (${c.figure}${c.t === undefined ? "" : `, at ${c.t / 1000} s`})${c.why === undefined ? "" : `\n             ${c.why}`}`,
  );
  return { text: `${[`${ending} after ${endMs / 1000} s`, ...lines].join("\n")}\n`, code };
}

function runOf(document: Parameters<typeof run>[0], { course, start, light, seed = "1" }: RunOptions) {
  const number = wholeNumber("seed", seed, 0, 2_147_483_647);
  try {
    return run(document, {
      course,
      seed: number,
      ...(start !== undefined && { start }),
      ...(light !== undefined && { light }),
    });
  } catch (error) {
    if (error instanceof RunError) throw new InputError(error.message);
    throw error;
  }
}

export function writeTo(file: string, text: string): void {
  try {
    writeFileSync(file, text);
  } catch (error) {
    throw new InputError(`${file} cannot be written: ${(error as Error).message}`);
  }
}
