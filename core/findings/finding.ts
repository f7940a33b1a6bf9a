import type { CourseId, LightId, ModeId, ResponseId, RuleId, RuleSetId, SensorId, TapeId, TargetId } from "../names";
import type { ProjectDocument } from "../project";
import type { Feature } from "../readings";
import { type Labels, type RuleSet, rulesOfBlock } from "../rules";
import { type MarkedTape, type Sample, type Spread, sampleOf, spreadOf } from "../teaching";
import type { FrameFacts } from "../vision";
import type { FixChange } from "./fix";

export type FindingCode =
  | "background-taken"
  | "band-is-point"
  | "band-loose"
  | "band-tight"
  | "clips"
  | "code-not-mapped"
  | "codes-exchanged"
  | "crate-nobody-sends-to"
  | "drives-backwards"
  | "feature-not-reported"
  | "far-taken"
  | "few-readings"
  | "fires-again"
  | "fringe"
  | "pictures-not-linear"
  | "gate-closes-early"
  | "gate-too-late"
  | "gate-waits"
  | "hue-on-grey"
  | "mode-unreachable"
  | "mode-without-exit"
  | "never-counted"
  | "never-reached"
  | "no-background"
  | "no-otherwise"
  | "off-course"
  | "order-looks-swapped"
  | "one-light-only"
  | "other-height"
  | "pieces-too-close"
  | "red-not-wrapped"
  | "references-miss"
  | "reject-small"
  | "rejoin-swallows"
  | "reverses-at-once"
  | "rule-names-missing-target"
  | "rule-shadowed"
  | "sensor-not-mounted"
  | "servo-beyond-range"
  | "settings-of-another-sensor"
  | "shared-unlike"
  | "stays-on-plate"
  | "step-not-for-robot"
  | "strip-misses"
  | "swings-off"
  | "target-without-response"
  | "target-without-rule"
  | "targets-overlap"
  | "too-dark"
  | "too-fast"
  | "two-blobs"
  | "under-dead-band"
  | "waits-for-itself"
  | "wrong-order";
export type Level = "error" | "warning" | "hint";

/** Where a finding lies: a stage, and in it perhaps a rule or a target. */
export interface FindingPlace {
  stage: "sense" | "decide" | "act" | "prove" | "ship";
  target?: TargetId;
  /** The set that the rule is in, or whose method and steadying it is about. */
  ruleSet?: RuleSetId;
  rule?: RuleId;
  mode?: ModeId;
  response?: ResponseId;
  /** The routine whose steps it is about. */
  routine?: string;
  course?: CourseId;
  /** What it is about, where several of a kind lie in one place: a motor, a sensor, a counter, the end of a band. */
  about?: string;
  /** A reading that shows it. */
  reading?: { tape: TapeId; t: number };
}

/** Something that will go wrong, in the student's own numbers. */
export interface Finding {
  code: FindingCode;
  level: Level;
  title: string;
  sentence: string;
  place: FindingPlace;
  fix?: { label: string; change: FixChange };
  /** Whether a person put it aside on purpose. */
  aside?: true;
}

/** What two findings must share to be the same one: what it is and where, not its figures. */
export const keyOf = ({ code, place: { reading: _, ...place } }: Finding): string => JSON.stringify([code, place]);

/** What findings are drawn from; what several of them need is worked out once. */
export interface FindingScene {
  project: ProjectDocument;
  tapes: readonly MarkedTape[];
  /** What the frames of cameras' tapes show, as far as they were looked at. */
  frames: readonly FrameFacts[];
  /** The tapes that one rule set judges. */
  tapesOf(ruleSet: RuleSetId): readonly MarkedTape[];
  /** Their marked readings. */
  sample(ruleSet: RuleSetId): Sample;
  /** Which rule takes each reading of these tapes, from 1 in the order of the rules; 0 where none does. */
  ruleLabels(ruleSet: RuleSet): readonly Labels[];
  /** How a target's marked readings spread; from at most `MOST_VALUES` of them, evenly picked. */
  spread(ruleSet: RuleSetId, target: TargetId, feature: Feature): Spread | undefined;
  /** How many readings of each target are marked, in the targets' order. */
  marked(ruleSet: RuleSetId): readonly number[];
}

/** One kind of finding. A new one is one more file and one more entry in the list. */
export interface FindingKind {
  code: FindingCode;
  find(scene: FindingScene): Finding[];
}

const MOST_VALUES = 2000;

function memo<K extends string, V>(make: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>();
  return (key) => {
    if (!known.has(key)) known.set(key, make(key));
    return known.get(key) as V;
  };
}

/** A project with its tapes, made ready for findings. */
export function sceneOf(
  project: ProjectDocument,
  tapes: readonly MarkedTape[],
  frames: readonly FrameFacts[] = [],
): FindingScene {
  const tapesOf = memo((ruleSet: RuleSetId) => tapes.filter((tape) => tape.sensor.ruleSet === ruleSet));
  const sample = memo((ruleSet: RuleSetId) => sampleOf(project, tapes, ruleSet));
  const marked = memo((ruleSet: RuleSetId) => {
    const counts = project.targets.map(() => 0);
    const { truth } = sample(ruleSet);
    for (let i = 0; i < truth.length; i++) counts[truth[i] - 1]++;
    return counts;
  });
  /** Evenly picked readings of each target, by its place among the targets. */
  const picked = memo((ruleSet: RuleSetId) => {
    const { truth } = sample(ruleSet);
    const every = marked(ruleSet).map((n) => Math.max(1, Math.ceil(n / MOST_VALUES)));
    const seen = every.map(() => 0);
    const indices: number[][] = every.map(() => []);
    for (let i = 0; i < truth.length; i++) {
      const t = truth[i] - 1;
      if (seen[t]++ % every[t] === 0) indices[t].push(i);
    }
    return indices;
  });
  const spread = memo((key: string) => {
    const [ruleSet, target, feature] = key.split(" ") as [RuleSetId, TargetId, Feature];
    const own = picked(ruleSet)[project.targets.findIndex((t) => t.id === target)] ?? [];
    if (!sample(ruleSet).features.includes(feature) || own.length === 0) return undefined;
    const source = sample(ruleSet).column(feature);
    return spreadOf(feature, Float64Array.from(own.map((i) => source[i])));
  });
  const labels = new Map<RuleSet, readonly Labels[]>();
  return {
    project,
    tapes,
    frames,
    tapesOf,
    sample,
    marked,
    spread: (ruleSet, target, feature) => spread(`${ruleSet} ${target} ${feature}`),
    ruleLabels(ruleSet) {
      const known = labels.get(ruleSet);
      if (known) return known;
      const made = tapesOf(ruleSet.id).map(({ block }) => rulesOfBlock(ruleSet, block));
      labels.set(ruleSet, made);
      return made;
    },
  };
}

/** The rule sets that judge by bands: findings about rules have nothing to say of the others. */
export function bandSets({ project }: FindingScene): RuleSet[] {
  return project.ruleSets.filter((set) => set.method === "bands");
}

/** Name of a sensor. */
export function sensorName(project: ProjectDocument, sensor: SensorId): string {
  return project.sensors.find((s) => s.id === sensor)?.name ?? sensor;
}

/** Name of a target. */
export function nameOf(project: ProjectDocument, target: TargetId): string {
  return project.targets.find((t) => t.id === target)?.name ?? target;
}

/** `all in Noon sun`, or `12 in Noon sun, 3 in Dusk`; empty where no light is noted. */
export function byLight(project: ProjectDocument, readings: readonly { tape: MarkedTape; index: number }[]): string {
  const counts = new Map<LightId | undefined, number>();
  for (const { tape, index } of readings) {
    const light = tape.head.marks[tape.mark[index] - 1]?.light;
    counts.set(light, (counts.get(light) ?? 0) + 1);
  }
  const name = (id: LightId | undefined) => project.lights.find((l) => l.id === id)?.name ?? "an unnoted light";
  if (counts.size === 1) return `all in ${name([...counts.keys()][0])}`;
  return [...counts].map(([light, n]) => `${n} in ${name(light)}`).join(", ");
}
