import { joinProject, type ProjectDocument, writeProject } from "@perceptum/core/project";
import { applyChange } from "@perceptum/core/rules";
import {
  compareMethods,
  type LightTrial,
  leaveOneLightOut,
  type MethodsCompared,
  markedTapes,
  nearestFromMarks,
  sampleOf,
  suggest,
  withSuggested,
} from "@perceptum/core/teaching";
import { openTaught } from "./frames";
import { InputError } from "./input";
import { writeTo } from "./run";

/** Rules suggested from the marks, in words; with `write` the project with these rules goes to a file. */
export function suggestCommand(projectFile: string, { write }: { write?: string } = {}): string {
  const { document, readings, frames, taught } = openTaught(projectFile);
  const tapes = markedTapes(taught.project, taught.readings);
  let changed: ProjectDocument = document;
  const lines: string[] = [];
  for (const set of document.ruleSets) {
    const sample = sampleOf(document, tapes, set.id);
    if (sample.count === 0) continue;
    if (document.ruleSets.length > 1) lines.push(`${set.name}:`);
    const suggestion = suggest(sample);
    const trials = leaveOneLightOut(sample);
    const methods = compareMethods(sample, suggestion, trials);
    lines.push(...inWords(document, suggestion, trials, methods));
    if (suggestion.rules.length > 0) {
      changed = applyChange(changed, { ruleSet: set.id, rules: withSuggested(set.rules, suggestion) });
      const ruleSets = changed.ruleSets.map((s) =>
        s.id !== set.id
          ? s
          : methods.better === "nearest"
            ? nearestFromMarks(s, sample)
            : { ...s, method: "bands" as const },
      );
      changed = { ...changed, ruleSets };
    }
  }
  if (lines.length === 0) throw new InputError(`${projectFile}: no reading is marked, so nothing can be suggested`);
  if (write === undefined) return `${lines.join("\n")}\n`;
  const file = writeProject(joinProject(changed, readings, frames));
  if (write === "-") {
    process.stderr.write(`${lines.join("\n")}\n`);
    return file;
  }
  writeTo(write, file);
  return `${lines.join("\n")}\n`;
}

function inWords(
  document: ProjectDocument,
  suggestion: ReturnType<typeof suggest>,
  trials: readonly LightTrial[],
  { bands, nearest, leftOut, better }: MethodsCompared,
): string[] {
  const name = (id: string) => document.targets.find((t) => t.id === id)?.name ?? id;
  const { rules, inseparable, refused, unmarked } = suggestion;
  return [
    ...rules.flatMap((r) => [
      `${r.target.name}: ${r.sentence} It takes ${r.found} of ${r.of}.`,
      ...r.bands.map((b) => `  ${b.sentence}`),
    ]),
    ...inseparable.map(
      (p) => `No bands keep ${name(p.other)} from ${name(p.target)}: ${p.taken} of ${p.of} readings lie where it does.`,
    ),
    ...refused.map((id) => `No rule is suggested for ${name(id)}: it would take most readings of something else.`),
    ...(unmarked.length > 0 ? [`Nothing is marked of ${unmarked.map(name).join(", ")}.`] : []),
    ...trials.map((trial) => {
      const light = document.lights.find((l) => l.id === trial.light)?.name ?? "the light that is not noted";
      return `Made without ${light} and tried in it: ${trial.right} of ${trial.readings} right, ${trial.missed} missed, ${trial.confused} confused, ${trial.grounds} background readings taken for a target.`;
    }),
    ...(better === "nearest"
      ? [
          `Nearest references judge ${percent(nearest)} rightly, the bands ${percent(bands)}${leftOut ? ", each in a light that was left out" : ""}: references are taken.`,
        ]
      : []),
  ];
}

const percent = (share: number) => `${(100 * share).toFixed(1)} %`;
