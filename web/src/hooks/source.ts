import type { DidSpan } from "@perceptum/core/behaviour";
import type { TapeId } from "@perceptum/core/names";
import {
  type Blocks,
  byColour,
  type Channel,
  type Mark,
  type RawReadings,
  type ReadingBlock,
  type Sensor,
  type TapeHead,
} from "@perceptum/core/readings";
import { classifyBlock, ruleSetOf, type SeenSpan, spansOf, steadyBlock } from "@perceptum/core/rules";
import { type EyeTrace, tapeOfRun } from "@perceptum/core/world";
import { useMemo } from "react";
import type { LastRun } from "../model/judging/Mentor";
import type { Recording } from "../model/live/live";
import { eyeName, eyeOfRun } from "../model/runs/runEye";
import type { ProjectSession } from "../model/session/ProjectSession";
import type { AppState } from "../model/store/store";
import type { Source } from "../model/store/view";
import { useReadingsVersion, useSession } from "./context";
import { useSettledProject } from "./project";
import { useAppSelector } from "./store";
import { usePublished, usePublishedPart } from "./usePublished";

/** Raw values, each with the channel that they are of. */
export type RawColumns = readonly { channel: Channel; values: Float64Array }[];

/** Readings that lie under the playhead: of a tape, of the last run or of what is being recorded. */
export interface SourceBlock {
  source: Source;
  name: string;
  sensor: Sensor;
  /** Raw values by colour. */
  raw: RawColumns;
  block: ReadingBlock;
  /** In ms. */
  length: number;
}

/** The same with what was made of them. */
export interface SourceView extends SourceBlock {
  marks: readonly Mark[];
  spans: readonly SeenSpan[];
  did: readonly DidSpan[];
  /** The other sensors of a run's robot with what they saw, on times of their own. */
  others: readonly { name: string; t: ArrayLike<number>; spans: readonly SeenSpan[] }[];
  /** Where labels differ from those of the rules that are kept to compare with; `target` is the kind of flip. */
  flips: readonly SeenSpan[];
}

function sourceBlock(blocks: Blocks, source: Source, name: string, sensor: Sensor, readings: RawReadings): SourceBlock {
  const block = blocks.of(readings, sensor);
  const length = block.length === 0 ? 0 : block.t[block.length - 1];
  return { source, name, sensor, raw: byColour(readings.channels, sensor), block, length };
}

const ofRecording = (blocks: Blocks, { readings }: Recording, sensor: Sensor) =>
  sourceBlock(blocks, "live", "Recording", sensor, readings);

function ofRun(blocks: Blocks, run: LastRun, eye: EyeTrace): SourceBlock {
  const { trace, project } = run;
  const sensor = project.sensors.find((s) => s.id === eye.sensor) ?? project.sensors[0];
  const name = `Run: ${trace.course.name}, seed ${trace.seed}`;
  return { ...sourceBlock(blocks, "run", name, sensor, eye.readings), length: trace.endMs };
}

/** The tape (or run) that lies below now; null where the project has none. */
export function useSource(): SourceView | null {
  const project = useSettledProject();
  const { readings, judging, mentor, blocks } = useSession();
  const version = useReadingsVersion();
  const tape = useAppSelector((state) => state.view.tape);
  const runBelow = useAppSelector((state) => state.view.runBelow);
  const runEye = useAppSelector((state) => state.view.runEye);
  const run = usePublished(mentor.lastRun);
  const judgement = usePublished(judging.judged);
  const rehearsed = usePublished(mentor.did);
  const head = project.tapes.find((t) => t.id === tape);
  const sensor = project.sensors.find((s) => s.id === head?.sensor) ?? project.sensors[0];
  const [headId, headName] = [head?.id, head?.name ?? ""];

  const tapeBlock = useMemo(() => {
    void version;
    const raw = headId && readings.get(headId);
    return headId && raw && sourceBlock(blocks, headId, headName, sensor, raw);
  }, [blocks, readings, version, headId, headName, sensor]);
  const live = useLiveSource();
  const made = useMemo((): SourceView | null => {
    if (run === null) return null;
    const eye = eyeOfRun(run, runEye);
    return {
      ...ofRun(blocks, run, eye),
      marks: tapeOfRun(run.trace, "run" as TapeId, "run", eye).head.marks,
      // Of a camera each target has a row of its own.
      spans: eye.frames === undefined ? spansOf(eye.seen) : [],
      did: run.did,
      others: run.trace.eyes
        .filter((other) => other !== eye && other.frames === undefined)
        .map((other) => ({ name: eyeName(run, other.sensor), t: other.readings.t, spans: spansOf(other.seen) })),
      flips: [],
    };
  }, [blocks, run, runEye]);

  return useMemo(() => {
    if (live !== null) return live;
    if (runBelow && made !== null) return made;
    if (head === undefined || !tapeBlock) return null;
    // Of a camera's tape pixels are judged; what is seen in its frames is worked out by who shows them.
    const framed = head.frames !== undefined;
    return {
      ...tapeBlock,
      marks: head.marks,
      spans: framed ? [] : (judgement.tapes.get(head.id)?.spans ?? []),
      did: rehearsed.tape === head.id ? rehearsed.spans : [],
      others: [],
      flips: framed ? [] : (judgement.before?.flips.get(head.id) ?? []),
    };
  }, [live, runBelow, made, head, tapeBlock, judgement, rehearsed]);
}

/** What is being recorded, judged as it comes; null while nothing is. */
function useLiveSource(): SourceView | null {
  const { bench, blocks } = useSession();
  const recording = usePublishedPart(bench.live, (l) => l.recording);
  const sensor = usePublishedPart(bench.live, (l) => l.sensor);
  const ruleSets = useAppSelector((state) => state.document.present?.ruleSets);
  const targets = useAppSelector((state) => state.document.present?.targets);
  return useMemo(() => {
    if (recording === null || sensor === null || ruleSets === undefined || targets === undefined) return null;
    const own = ofRecording(blocks, recording, sensor);
    const ruleSet = ruleSetOf({ ruleSets }, sensor);
    const labels = classifyBlock(
      ruleSet,
      own.block,
      targets.map((t) => t.id),
    );
    return {
      ...own,
      marks: recording.marks,
      spans: spansOf(steadyBlock(labels, ruleSet.steady)),
      did: [],
      others: [],
      flips: [],
    };
  }, [blocks, recording, sensor, ruleSets, targets]);
}

/** The part of the state that says which readings lie under the playhead. */
type Below = Pick<AppState["view"], "tape" | "runBelow" | "runEye"> & {
  tapes: readonly TapeHead[] | undefined;
  sensors: readonly Sensor[] | undefined;
};

function blockBelow({ readings, bench, mentor, blocks }: ProjectSession, below: Below): SourceBlock | null {
  const { tape, runBelow, runEye, tapes, sensors } = below;
  const { recording, sensor: streaming } = bench.live.get();
  if (recording !== null && streaming !== null) return ofRecording(blocks, recording, streaming);
  const run = mentor.lastRun.get();
  if (runBelow && run !== null) return ofRun(blocks, run, eyeOfRun(run, runEye));
  const head = tapes?.find((t) => t.id === tape);
  const sensor = sensors?.find((s) => s.id === head?.sensor);
  const raw = head && readings.get(head.id);
  if (head === undefined || sensor === undefined || raw === undefined) return null;
  return sourceBlock(blocks, head.id, head.name, sensor, raw);
}

/** The readings under the playhead as they are when it is asked. */
export const currentBlock = (session: ProjectSession, { view, document: { present } }: AppState): SourceBlock | null =>
  blockBelow(session, { ...view, tapes: present?.tapes, sensors: present?.sensors });

/** The readings under the playhead alone; what is made of them does not touch those who use only this. */
export function useCurrentBlock(): SourceBlock | null {
  const session = useSession();
  const version = useReadingsVersion();
  const tape = useAppSelector((state) => state.view.tape);
  const runBelow = useAppSelector((state) => state.view.runBelow);
  const runEye = useAppSelector((state) => state.view.runEye);
  const tapes = useAppSelector((state) => state.document.present?.tapes);
  const sensors = useAppSelector((state) => state.document.present?.sensors);
  const run = usePublished(session.mentor.lastRun);
  const recording = usePublishedPart(session.bench.live, (l) => l.recording);
  return useMemo(() => {
    void [version, run, recording];
    return blockBelow(session, { tape, runBelow, runEye, tapes, sensors });
  }, [session, version, tape, runBelow, runEye, tapes, sensors, run, recording]);
}

/** The playhead on a source as it is when it is asked, in ms; on what is being recorded it is the last reading. */
export const playheadOn = (source: Source, { bench }: ProjectSession, { view }: AppState): number =>
  source === "live" ? (bench.live.get().recording?.readings.t.at(-1) ?? 0) : (view.playheads[source] ?? 0);

/** The playhead on a source, kept up to date. */
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
  const session = useSession();
  const sensor = usePublishedPart(session.bench.live, (l) => l.sensor);
  const readings = usePublishedPart(session.bench.live, (l) => l.readings);
  const probe = usePublished(session.probe);
  return useMemo(() => {
    // Of a frame a reading is the pixel that is looked at.
    if (probe !== null) {
      const block = session.blocks.of(probe.raw, probe.sensor);
      return { sensor: probe.sensor, block, raw: byColour(probe.raw.channels, probe.sensor), index: 0 };
    }
    if (current?.block.features.length === 0) return null;
    if (sensor !== null && readings.t.length > 0) {
      const block = session.blocks.of(readings, sensor);
      return { sensor, block, raw: byColour(readings.channels, sensor), index: block.length - 1 };
    }
    if (current === null) return null;
    const t = hover !== null && hover.source === current.source ? hover.t : playhead;
    const index = current.block.indexAt(t);
    return index < 0 ? null : { sensor: current.sensor, block: current.block, raw: current.raw, index };
  }, [session, probe, sensor, readings, current, hover, playhead]);
}
