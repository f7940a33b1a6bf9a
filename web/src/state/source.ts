import { type DidSpan, didSpans } from "@perceptum/core/behaviour";
import type { Mark, SensorId, TapeId } from "@perceptum/core/project";
import { blockOf, byColour, type Channel, type ReadingBlock } from "@perceptum/core/readings";
import { type SeenSpan, spansOf } from "@perceptum/core/teaching";
import { type Trace, tapeOfRun } from "@perceptum/core/world";
import { useMemo } from "react";
import { did, judged, lastRun } from "./judged";
import { usePublished } from "./Published";
import { useSettledProject } from "./project";
import { readingStore, useReadingsVersion } from "./readings";
import { useAppSelector } from "./store";
import type { Source } from "./view";

/** Raw values, each with the channel that they are of. */
export type RawColumns = readonly { channel: Channel; values: Float64Array }[];

/** What lies under the playhead, whole: a tape or the last run. */
export interface SourceView {
  source: Source;
  name: string;
  /** Raw values by colour. */
  raw: RawColumns;
  block: ReadingBlock;
  marks: readonly Mark[];
  spans: readonly SeenSpan[];
  did: readonly DidSpan[];
  sensor: SensorId;
  /** In ms. */
  length: number;
}

/** The tape (or run) that lies below now; null where the project has none. */
export function useSource(): SourceView | null {
  const project = useSettledProject();
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
    return raw && { raw: byColour(raw.channels, sensor), block: blockOf(raw, sensor) };
  }, [version, head, sensor]);

  const ofRun = useMemo((): SourceView | null => {
    if (run === null) return null;
    const [eye] = run.trace.eyes;
    const runSensor = run.project.sensors.find((s) => s.id === eye.sensor) ?? run.project.sensors[0];
    return {
      source: "run",
      name: nameOfRun(run.trace),
      raw: byColour(eye.readings.channels, runSensor),
      block: blockOf(eye.readings, runSensor),
      marks: tapeOfRun(run.trace, "run" as TapeId, "run").head.marks,
      spans: spansOf(eye.seen),
      did: didSpans(run.trace.notes, run.trace.endMs),
      sensor: eye.sensor,
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
      spans: own?.spans ?? [],
      did: rehearsed.tape === head.id ? rehearsed.spans : [],
      sensor: head.sensor,
      length: lengthOf(block),
    };
  }, [runBelow, ofRun, head, tapeBlock, judgement, rehearsed]);
}

const nameOfRun = (trace: Trace) => `Run: ${trace.course.name}, seed ${trace.seed}`;
const lengthOf = (block: ReadingBlock) => (block.length === 0 ? 0 : block.t[block.length - 1]);

/** The readings under the playhead alone; what is made of them does not touch those who use only this. */
export function useCurrentBlock(): {
  source: Source;
  block: ReadingBlock;
  raw: RawColumns;
  name: string;
  length: number;
} | null {
  const version = useReadingsVersion();
  const tape = useAppSelector((state) => state.view.tape);
  const runBelow = useAppSelector((state) => state.view.runBelow);
  const tapes = useAppSelector((state) => state.document.present?.tapes);
  const sensors = useAppSelector((state) => state.document.present?.sensors);
  const run = usePublished(lastRun);
  return useMemo(() => {
    void version;
    if (runBelow && run !== null) {
      const [eye] = run.trace.eyes;
      const sensor = run.project.sensors.find((s) => s.id === eye.sensor) ?? run.project.sensors[0];
      return {
        source: "run",
        raw: byColour(eye.readings.channels, sensor),
        block: blockOf(eye.readings, sensor),
        name: nameOfRun(run.trace),
        length: run.trace.endMs,
      };
    }
    const head = tapes?.find((t) => t.id === tape);
    const sensor = sensors?.find((s) => s.id === head?.sensor);
    const raw = head && readingStore.get(head.id);
    if (head === undefined || sensor === undefined || raw === undefined) return null;
    const block = blockOf(raw, sensor);
    return {
      source: head.id,
      raw: byColour(raw.channels, sensor),
      block,
      name: head.name,
      length: lengthOf(block),
    };
  }, [version, tape, runBelow, tapes, sensors, run]);
}

/** The playhead on a source, in ms. */
export function usePlayhead(source: Source | undefined): number {
  return useAppSelector((state) => (source === undefined ? 0 : (state.view.playheads[source] ?? 0)));
}
