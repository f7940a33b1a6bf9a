import { applyFix, findAll, findProven } from "@perceptum/core/findings";
import { judgeTapes, markedTapes } from "@perceptum/core/teaching";
import { run, verdicts } from "@perceptum/core/world";
import { type Drawn, drawProject, type Variant } from "./drawnProject";
import { FAULTS, faulty } from "./faultySet";
import type { Row } from "./table";

const HEALTHY = 40;
const VARIANTS: readonly Variant[] = ["usual", "nearest", "no white", "hsv", "reflected"];
const EACH = 2;

const tellingOf = ({ project, readings }: Drawn) => findProven(project, readings);
const shareOf = ({ project, readings }: Drawn) => {
  const { marked, right } = judgeTapes(project, markedTapes(project, readings)).score;
  return marked === 0 ? 1 : right / marked;
};
/** How many checks of the first course hold, in the first light. */
const holding = ({ project }: Drawn) =>
  verdicts(run(project, { course: project.courses[0].id })).filter((v) => v.verdict.outcome === "holds").length;

/** What findings tell of faulty and of healthy projects, and whether their fixes mend. */
export function benchTold(first = 7000): Row[] {
  let [told, all, offered, mends] = [0, 0, 0, 0];
  const missed: string[] = [];
  const unmended: string[] = [];
  FAULTS.forEach((fault, k) => {
    for (let i = 0; i < EACH; i++) {
      const seed = first + 10 * k + i;
      const { before, after } = faulty(fault, seed);
      const findings = tellingOf(after);
      const finding = findings.find((f) => fault.codes.includes(f.code));
      all++;
      if (finding === undefined) missed.push(`${fault.name} (${seed}): ${findings.map((f) => f.code).join(", ")}`);
      else told++;
      if (finding?.fix === undefined) continue;
      offered++;
      const project = applyFix(after.project, finding.fix.change);
      const mended = { ...after, project };
      const gone = !findAll({ project, tapes: markedTapes(project, after.readings) }).some(
        (f) => f.code === finding.code && f.title === finding.title,
      );
      // Mended: as much is judged rightly and holds as before the fault, or more than with it where that cannot be.
      const well =
        shareOf(mended) >= Math.min(shareOf(before), Math.max(shareOf(after), 0.97)) - 0.01 &&
        holding(mended) >= Math.min(holding(before), holding(after));
      if (gone && well) mends++;
      else unmended.push(`${fault.name} (${seed})`);
    }
  });
  const wronged: string[] = [];
  for (let i = 0; i < HEALTHY; i++) {
    const drawn = drawProject(first + 1000 + i, VARIANTS[i % VARIANTS.length]);
    const pressing = tellingOf(drawn).filter((f) => f.level !== "hint");
    if (pressing.length > 0)
      wronged.push(
        `${first + 1000 + i}, ${VARIANTS[i % VARIANTS.length]}: ${[...new Set(pressing.map((f) => f.code))].join(", ")}`,
      );
  }
  for (const [what, list] of [
    ["not told", missed],
    ["not mended", unmended],
    ["healthy and warned", wronged],
  ] as const)
    for (const line of list) process.stderr.write(`  ${what}: ${line}\n`);
  const percent = (n: number, of: number) => `${((100 * n) / Math.max(1, of)).toFixed(1)} %`;
  return [
    {
      what: `faults told under a code that names the cause (${FAULTS.length} kinds, ${all} projects)`,
      measured: `${told} of ${all}, ${percent(told, all)}`,
      budget: "≥ 95 %",
      met: told >= 0.95 * all,
    },
    {
      what: `healthy projects with a warning or an error (${HEALTHY})`,
      measured: `${wronged.length}, ${percent(wronged.length, HEALTHY)}`,
      budget: "≤ 5 %",
      met: wronged.length <= 0.05 * HEALTHY,
    },
    {
      what: "fixes offered that mend",
      measured: `${mends} of ${offered}, ${percent(mends, offered)}`,
      budget: "≥ 90 %",
      met: mends >= 0.9 * offered,
    },
  ];
}
