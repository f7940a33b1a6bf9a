import type { Finding } from "@perceptum/core/findings";
import type { ProjectDocument } from "@perceptum/core/project";
import type { Verdict } from "@perceptum/core/world";

/** The working screens, in the order of the job. */
export const STAGES = [
  { id: "sense", name: "Sense" },
  { id: "decide", name: "Decide" },
  { id: "act", name: "Act" },
  { id: "prove", name: "Prove" },
  { id: "ship", name: "Ship" },
] as const;
export type StageId = (typeof STAGES)[number]["id"];

export function isStage(word: string | undefined): word is StageId {
  return STAGES.some((stage) => stage.id === word);
}

/** How far a stage is; `findings` stands over the others. */
export type Progress = "empty" | "begun" | "ready" | "findings";

/** How far each stage is, from what is there; `judgedWell`: nearly all marked readings are judged rightly. */
export function stageProgress(
  project: ProjectDocument,
  findings: readonly Finding[],
  judgedWell: boolean,
  verdicts: readonly Verdict[],
): Record<StageId, Progress> {
  const pressing = new Set(findings.filter((f) => f.level !== "hint" && !f.aside).map((f) => f.place.stage));
  const backgrounds = new Set<string>(project.targets.filter((t) => t.kind === "background").map((t) => t.id));
  const marks = project.tapes.flatMap((t) => [...t.marks, ...(t.boxes ?? [])]);
  const progress = (stage: StageId, begun: boolean, ready: boolean): Progress =>
    pressing.has(stage) ? "findings" : ready ? "ready" : begun ? "begun" : "empty";
  const rules = project.ruleSets.some((set) =>
    set.method === "bands" ? set.rules.length > 0 : set.nearest.references.length > 0,
  );
  const responses = project.behaviour.modes.some((m) => m.responses.length > 0 || m.entering.length > 0);
  const outcomes = verdicts.map((v) => v.outcome);
  const proved = outcomes.length > 0 && outcomes.every((o) => o === "holds");
  const decide = progress("decide", rules, rules && judgedWell);
  return {
    sense: progress(
      "sense",
      project.tapes.length > 0,
      marks.some((m) => backgrounds.has(m.target)) && marks.some((m) => !backgrounds.has(m.target)),
    ),
    decide,
    act: progress("act", responses, responses),
    prove: outcomes.includes("does not")
      ? "findings"
      : progress(
          "prove",
          project.courses.some((c) => c.checks.length > 0),
          proved,
        ),
    ship: progress("ship", decide === "ready", decide === "ready" && proved),
  };
}
