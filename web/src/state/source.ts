import { type DidSpan, didSpans } from "@perceptum/core/behaviour";
import type { LightId, Mark, SensorId, TapeId } from "@perceptum/core/project";
import { blockOf, type RawReadings, type ReadingBlock } from "@perceptum/core/readings";
import { type SeenSpan, spansOf } from "@perceptum/core/teaching";
import { tapeOfRun } from "@perceptum/core/world";
import { useMemo } from "react";
import { did, judged, lastRun } from "./judged";
import { usePublished } from "./Published";
import { useProject } from "./project";
import { readingStore, useReadingsVersion } from "./readings";
import { useAppSelector } from "./store";
import type { Source } from "./view";

/** What lies under the playhead, whole: a tape or the last run. */
export interface SourceView {
  source: Source;
  name: string;
  raw: RawReadings;
  block: ReadingBlock;
  marks: readonly Mark[];
  labels: Uint8Array;
  seen: Uint8Array;
  spans: readonly SeenSpan[];
  did: readonly DidSpan[];
  sensor: SensorId;
  light: LightId | undefined;
  /** In ms. */
  length: number;
}

const NONE = new Uint8Array();

/** The tape (or run) that lies below now; null where the project has none. */
export function useSource(): SourceView | null {
  const project = useProject();
  const version = useReadingsVersion();
  const tape = useAppSelector((state) => state.view.tape);
  const runBelow = useAppSelector((state) => state.view.runBelow);
  const run = usePublished(lastRun);
  const judgement = usePublished(judged);
  const rehearsed = usePublished(did);
  const head = project.tapes.find((t) => t.id === tape);
  const sensor = project.sensors.find((s) => s.id === head?.sensor) ?? project.sensors[0];

  const tapeBlock = useMemo(() => {
    void version;
    const raw = head && readingStore.get(head.id);
    return raw && { raw, block: blockOf(raw, sensor) };
  }, [version, head, sensor]);

  const ofRun = useMemo((): SourceView | null => {
    if (run === null) return null;
    const [eye] = run.trace.eyes;
    const runSensor = run.project.sensors.find((s) => s.id === eye.sensor) ?? run.project.sensors[0];
    return {
      source: "run",
      name: `Run: ${run.trace.course.name}, seed ${run.trace.seed}`,
      raw: eye.readings,
      block: blockOf(eye.readings, runSensor),
      marks: tapeOfRun(run.trace, "run" as TapeId, "run").head.marks,
      labels: eye.labels,
      seen: eye.seen,
      spans: spansOf(eye.seen),
      did: didSpans(run.trace.notes, run.trace.endMs),
      sensor: eye.sensor,
      light: run.trace.light,
      length: run.trace.endMs,
    };
  }, [run]);

  return useMemo(() => {
    if (runBelow && ofRun !== null) return ofRun;
    if (head === undefined || tapeBlock === undefined) return null;
    const own = judgement.tapes.get(head.id);
    const { block, raw } = tapeBlock;
    return {
      source: head.id,
      name: head.name,
      raw,
      block,
      marks: head.marks,
      labels: own?.labels ?? NONE,
      seen: own?.seen ?? NONE,
      spans: own?.spans ?? [],
      did: rehearsed.tape === head.id ? rehearsed.spans : [],
      sensor: head.sensor,
      light: head.marks[0]?.light,
      length: block.length === 0 ? 0 : block.t[block.length - 1],
    };
  }, [runBelow, ofRun, head, tapeBlock, judgement, rehearsed]);
}

/** The playhead on a source, in ms. */
export function usePlayhead(source: Source | undefined): number {
  return useAppSelector((state) => (source === undefined ? 0 : (state.view.playheads[source] ?? 0)));
}
