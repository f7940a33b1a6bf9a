import type { LightId, RuleId, RuleSetId, TargetId } from "../project/ids";
import type { ProjectDocument } from "../project/schema";
import type { Feature } from "../readings";
import type { Change } from "../rules";
import { type MarkedTape, valuesOfTarget } from "../teaching";

export type FindingCode =
  | "background-taken"
  | "hue-on-grey"
  | "band-is-point"
  | "target-without-response"
  | "no-background";
export type Level = "error" | "warning" | "hint";

/** Where a finding lies: a stage, and in it perhaps a rule or a target. */
export interface Place {
  stage: "sense" | "decide" | "act" | "prove" | "ship";
  target?: TargetId;
  rule?: RuleId;
  /** A reading that shows it. */
  reading?: { tape: string; t: number };
}

/** Something that will go wrong, in the student's own numbers. */
export interface Finding {
  code: FindingCode;
  level: Level;
  title: string;
  sentence: string;
  place: Place;
  fix?: { label: string; change: Change };
}

/** What findings are drawn from. */
export interface FindingScene {
  project: ProjectDocument;
  tapes: readonly MarkedTape[];
}

/** One kind of finding. A new one is one more file and one more entry in the list. */
export interface FindingKind {
  code: FindingCode;
  find(scene: FindingScene): Finding[];
}

/** Name of a target. */
export function nameOf(project: ProjectDocument, target: TargetId): string {
  return project.targets.find((t) => t.id === target)?.name ?? target;
}

/** The tapes that one rule set judges. */
export function tapesOf({ project, tapes }: FindingScene, ruleSet: RuleSetId): MarkedTape[] {
  const sensors = new Set(project.sensors.filter((s) => s.ruleSet === ruleSet).map((s) => s.id));
  return tapes.filter((tape) => sensors.has(tape.head.sensor));
}

/** All values of a feature at one target's marked readings, as far as one rule set judges them. */
export function valuesOf(scene: FindingScene, target: TargetId, ruleSet: RuleSetId, feature: Feature): Float64Array {
  const number = scene.project.targets.findIndex((t) => t.id === target) + 1;
  const parts = tapesOf(scene, ruleSet).map((tape) => valuesOfTarget(tape.block.column(feature), tape.truth, number));
  const all = new Float64Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
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
