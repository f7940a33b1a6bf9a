import type { ProjectDocument } from "@perceptum/core/project";
import { REPORT_KINDS } from "@perceptum/core/readings";
import type { Verdict } from "@perceptum/core/world";
import { STAGES, type StageId } from "../model/stages";
import { amount } from "../ui/amount";

/** A way on, as a button: to a stage, to something that a stage opens, to a field, or into an empty project. */
export type Way =
  | { to: StageId }
  | { opens: "suggestion" | "checks" | "sweep" | "run"; text: string }
  | { field: string; text: string }
  | { begins: "bench" | "file" | "demo"; text: string };

/** What comes next at a stage, in a line, and the buttons that do it. */
export interface NextStep {
  text: string;
  ways: readonly Way[];
}

const BENCH: Way = { begins: "bench", text: "Record on the bench" };

/** What is known of an open project beside its document. */
export interface KnownProgress {
  project: ProjectDocument;
  /** The share of marked readings that is judged rightly; null where none is marked. */
  right: number | null;
  /** Of the course that is looked at: how many checks it has, and how they came out if it was run. */
  checks: number;
  verdicts: readonly Verdict[] | null;
  /** The last sweep of this project and course: the runs in which every check held, and all of them. */
  swept: { passed: number; runs: number } | null;
  /** Whether Prove shows one run, where it can be made. */
  runShown: boolean;
}

export const stageName = (stage: StageId) => STAGES.find(({ id }) => id === stage)?.name ?? stage;

/** Every sensor reports codes, and codes stand for targets: nothing need be recorded, marked or ruled. */
const isCoded = ({ sensors }: ProjectDocument) =>
  sensors.length > 0 &&
  sensors.every(({ reports }) => REPORT_KINDS.get(reports).coded) &&
  sensors.some(({ codes }) => Object.keys(codes ?? {}).length > 0);

const NEXT: Record<StageId, (standing: KnownProgress) => NextStep> = {
  sense({ project }) {
    const backgrounds = new Set<string>(project.targets.filter((t) => t.kind === "background").map((t) => t.id));
    const marks = project.tapes.flatMap((tape) => [...tape.marks, ...(tape.boxes ?? [])]);
    const floor = marks.some((mark) => backgrounds.has(mark.target));
    const others = marks.some((mark) => !backgrounds.has(mark.target));
    if (project.tapes.length === 0 && isCoded(project))
      return {
        text: "What the codes stand for is said. Next: what does the robot do?",
        ways: [{ to: "act" }],
      };
    if (project.tapes.length === 0)
      return {
        text: "Nothing is recorded yet. Begin with a sensor on the bench, with readings or pictures from files, or with a demo to change.",
        ways: [
          BENCH,
          { begins: "file", text: "Readings from a file" },
          { begins: "file", text: "Pictures of a camera" },
          { begins: "demo", text: "A demo to change" },
        ],
      };
    if (marks.length === 0 && project.tapes.every((tape) => tape.frames !== undefined))
      return { text: "Nothing is boxed yet. Drag over a thing on the frame, and say what it is.", ways: [] };
    if (marks.length === 0)
      return {
        text: "Nothing is marked yet. Hold a number key while the tape plays, or while you record: it says what lies under the sensor.",
        ways: [BENCH],
      };
    if (!floor) return { text: "Mark the floor, too: nothing is known about it yet.", ways: [BENCH] };
    if (!others) return { text: "Only backgrounds are marked. Record something to recognise, too.", ways: [BENCH] };
    return { text: "Targets and backgrounds are marked. Next: what is a reading taken for?", ways: [{ to: "decide" }] };
  },

  decide({ project, right }) {
    const ruled = project.ruleSets.some((set) =>
      set.method === "bands" ? set.rules.length > 0 : set.nearest.references.length > 0,
    );
    if (right === null && isCoded(project))
      return {
        text: "Codes need no rules: a code is taken for what it stands for in Sense. Next: what does the robot do?",
        ways: [{ to: "act" }],
      };
    if (right === null) return { text: "Nothing is marked yet, so no rule can be tried.", ways: [{ to: "sense" }] };
    if (!ruled)
      return {
        text: "There are no rules yet: everything is unknown.",
        ways: [{ opens: "suggestion", text: "Suggest rules" }],
      };
    if (right < 0.99)
      return {
        text: `${(100 * right).toFixed(1)} % of the marked readings are judged rightly. See under Score what is mistaken, or let rules be suggested.`,
        ways: [{ opens: "suggestion", text: "Suggest rules" }],
      };
    return {
      text: "Nearly all marked readings are judged rightly. Next: what does the robot do?",
      ways: [{ to: "act" }],
    };
  },

  act({ project }) {
    if (project.behaviour.modes.every((mode) => mode.responses.length === 0 && mode.entering.length === 0))
      return {
        text: "The robot does nothing yet. Say what can happen, for example that a target arrives, and then what the robot does.",
        ways: [{ field: "Add a row", text: "Add a row" }],
      };
    return { text: "The robot knows what to do. Next: does it do that on a course?", ways: [{ to: "prove" }] };
  },

  prove({ checks, verdicts, swept, runShown }) {
    if (checks === 0)
      return { text: "This course has no checks yet.", ways: [{ opens: "checks", text: "Add the first check" }] };
    if (swept !== null && swept.passed < swept.runs)
      return {
        text: `In the sweep every check held in ${swept.passed} of ${amount(swept.runs, "run")}. The worst conditions come first there; Open shows a run that failed.`,
        ways: runShown ? [{ opens: "sweep", text: "To the sweep" }] : [],
      };
    if (verdicts === null)
      return {
        text: `This course has ${amount(checks, "check")}. ${checks === 1 ? "Does it" : "Do they"} hold? A run shows it.`,
        ways: runShown ? [] : [{ opens: "run", text: "To the run" }],
      };
    const failing = verdicts.filter(({ outcome }) => outcome === "does not").length;
    const open = verdicts.filter(({ outcome }) => outcome === "not reached").length;
    if (failing > 0)
      return {
        text: `${failing} of ${amount(checks, "check")} ${failing === 1 ? "fails" : "fail"}. Each says why; press it to see the moment.`,
        ways: [],
      };
    if (open > 0)
      return {
        text: `${open} of ${amount(checks, "check")} could not be decided. Each says why; press it to see the moment.`,
        ways: [],
      };
    if (swept !== null)
      return {
        text: `All checks hold in this run and in all ${swept.runs} of the sweep. Next: the code for the robot.`,
        ways: [{ to: "ship" }],
      };
    return {
      text: "All checks hold in this run. Next: do they hold in other lights, at other speeds, from other starts?",
      ways: [{ opens: "sweep", text: "Try a sweep" }, { to: "ship" }],
    };
  },

  ship(standing) {
    const { right, verdicts, project } = standing;
    if (right === null ? !isCoded(project) : right < 0.99)
      return { text: "The rules are not ready yet. You can take the code all the same.", ways: [{ to: "decide" }] };
    if (verdicts === null || verdicts.length === 0 || verdicts.some(({ outcome }) => outcome !== "holds"))
      return {
        text: "Not every check has held in a run yet. You can take the code all the same.",
        ways: [{ to: "prove" }],
      };
    return { text: "All is ready: take the code, or the project as a file.", ways: [] };
  },
};

export const nextStep = (stage: StageId, standing: KnownProgress): NextStep => NEXT[stage](standing);
