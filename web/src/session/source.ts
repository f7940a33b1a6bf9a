import { type DidSpan, didSpans } from "@perceptum/core/behaviour";
import type { SensorId, TapeId } from "@perceptum/core/names";
import type { Mark, Sensor } from "@perceptum/core/readings";
import { blockOf, byColour, type Channel, type ReadingBlock } from "@perceptum/core/readings";
import { classifyBlock, ruleSetOf, steadyBlock } from "@perceptum/core/rules";
import { type SeenSpan, spansOf } from "@perceptum/core/teaching";
import { type Trace, tapeOfRun } from "@perceptum/core/world";
import { useMemo } from "react";
import { useAppSelector } from "../state/store";
import type { Source } from "../state/view";
import { useReadingsVersion, useSession } from "./context";
import { usePublished, usePublishedPart } from "./Published";
import { useSettledProject } from "./project";

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
  /** Where labels differ from those of the rules that are kept to compare with; `target` is the kind of flip. */
  flips: readonly SeenSpan[];
  sensor: SensorId;
  /** In ms. */
  length: number;
}

/** The tape (or run) that lies below now; null where the project has none. */
export function useSource(): SourceView | null {
  const project = useSettledProject();
  const { readings, judging, mentor } = useSession();
  const version = useReadingsVersion();
  const tape = useAppSelector((state) => state.view.tape);
  const runBelow = useAppSelector((state) => state.view.runBelow);
  const run = usePublished(mentor.lastRun);
  const judgement = usePublished(judging.judged);
  const rehearsed = usePublished(mentor.did);
  const head = project.tapes.find((t) => t.id === tape);
  const sensor = project.sensors.find((s) => s.id === head?.sensor) ?? project.sensors[0];

  const tapeBlock = useMemo(() => {
    void version;
    const raw = head && readings.get(head.id);
    return raw && { raw: byColour(raw.channels, sensor), block: blockOf(raw, sensor) };
  }, [readings, version, head, sensor]);

  const ofLive = useLiveSource();

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
      flips: [],
      sensor: eye.sensor,
      length: run.trace.endMs,
    };
  }, [run]);

  return useMemo(() => {
    if (ofLive !== null) return ofLive;
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
      flips: judgement.before?.flips.get(head.id) ?? [],
      sensor: head.sensor,
      length: lengthOf(block),
    };
  }, [ofLive, runBelow, ofRun, head, tapeBlock, judgement, rehearsed]);
}

/** What is being recorded, judged as it comes; null while nothing is. */
function useLiveSource(): SourceView | null {
  const recording = usePublishedPart(useSession().bench.live, (l) => l.recording);
  const sensor = usePublishedPart(useSession().bench.live, (l) => l.sensor);
  const ruleSets = useAppSelector((state) => state.document.present?.ruleSets);
  const targets = useAppSelector((state) => state.document.present?.targets);
  return useMemo(() => {
    if (recording === null || sensor === null || ruleSets === undefined || targets === undefined) return null;
    const block = blockOf(recording.readings, sensor);
    const ruleSet = ruleSetOf({ ruleSets }, sensor);
    const labels = classifyBlock(
      ruleSet,
      block,
      targets.map((t) => t.id),
    );
    return {
      source: "live",
      name: "Recording",
      raw: byColour(recording.readings.channels, sensor),
      block,
      marks: recording.marks,
      spans: spansOf(steadyBlock(labels, ruleSet.steady)),
      did: [],
      flips: [],
      sensor: sensor.id,
      length: lengthOf(block),
    };
  }, [recording, sensor, ruleSets, targets]);
}

const nameOfRun = (trace: Trace) => `Run: ${trace.course.name}, seed ${trace.seed}`;
const lengthOf = (block: ReadingBlock) => (block.length === 0 ? 0 : block.t[block.length - 1]);

/** The readings under the playhead alone; what is made of them does not touch those who use only this. */
export function useCurrentBlock(): {
  source: Source;
  sensor: Sensor;
  block: ReadingBlock;
  raw: RawColumns;
  name: string;
  length: number;
} | null {
  const { readings, bench, mentor } = useSession();
  const version = useReadingsVersion();
  const tape = useAppSelector((state) => state.view.tape);
  const runBelow = useAppSelector((state) => state.view.runBelow);
  const tapes = useAppSelector((state) => state.document.present?.tapes);
  const sensors = useAppSelector((state) => state.document.present?.sensors);
  const run = usePublished(mentor.lastRun);
  const recording = usePublishedPart(useSession().bench.live, (l) => l.recording);
  return useMemo(() => {
    void version;
    const streaming = bench.live.get().sensor;
    if (recording !== null && streaming !== null) {
      const block = blockOf(recording.readings, streaming);
      const raw = byColour(recording.readings.channels, streaming);
      return { source: "live", sensor: streaming, raw, block, name: "Recording", length: lengthOf(block) };
    }
    if (runBelow && run !== null) {
      const [eye] = run.trace.eyes;
      const sensor = run.project.sensors.find((s) => s.id === eye.sensor) ?? run.project.sensors[0];
      return {
        source: "run",
        sensor,
        raw: byColour(eye.readings.channels, sensor),
        block: blockOf(eye.readings, sensor),
        name: nameOfRun(run.trace),
        length: run.trace.endMs,
      };
    }
    const head = tapes?.find((t) => t.id === tape);
    const sensor = sensors?.find((s) => s.id === head?.sensor);
    const raw = head && readings.get(head.id);
    if (head === undefined || sensor === undefined || raw === undefined) return null;
    const block = blockOf(raw, sensor);
    return {
      source: head.id,
      sensor,
      raw: byColour(raw.channels, sensor),
      block,
      name: head.name,
      length: lengthOf(block),
    };
  }, [readings, bench, version, tape, runBelow, tapes, sensors, run, recording]);
}

/** The playhead on a source, in ms; on what is being recorded it is the last reading. */
export function usePlayhead(source: Source | undefined): number {
  const t = useAppSelector((state) => (source === undefined ? 0 : (state.view.playheads[source] ?? 0)));
  const end = usePublishedPart(useSession().bench.live, (l) =>
    source === "live" ? (l.recording?.readings.t.at(-1) ?? 0) : 0,
  );
  return source === "live" ? end : t;
}

/** The reading that is looked at now: the live one while the bench is watched, else the one hovered or at the playhead. */
export function useNow(): { sensor: Sensor; block: ReadingBlock; raw: RawColumns; index: number } | null {
  const current = useCurrentBlock();
  const hover = useAppSelector((state) => state.view.hover);
  const playhead = usePlayhead(current?.source);
  const sensor = usePublishedPart(useSession().bench.live, (l) => l.sensor);
  const readings = usePublishedPart(useSession().bench.live, (l) => l.readings);
  return useMemo(() => {
    if (sensor !== null && readings.t.length > 0) {
      const block = blockOf(readings, sensor);
      return { sensor, block, raw: byColour(readings.channels, sensor), index: block.length - 1 };
    }
    if (current === null) return null;
    const t = hover !== null && hover.source === current.source ? hover.t : playhead;
    const index = current.block.indexAt(t);
    return index < 0 ? null : { sensor: current.sensor, block: current.block, raw: current.raw, index };
  }, [sensor, readings, current, hover, playhead]);
}
