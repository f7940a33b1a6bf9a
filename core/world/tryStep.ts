import { outputOf, type Step, stepIsEndless } from "../behaviour";
import { type CourseId, type LightId, numbered } from "../names";
import { courseKindOf, emptyCourse } from "./courses";
import { RunError } from "./RunError";
import { robotKindOf } from "./robots";
import { run } from "./run";
import type { Simulated } from "./Simulated";

/** What a step alone did: how long it took, the way and the turn of the robot, and what it showed. */
export interface Tried {
  /** Whether it came to an end by itself. */
  ended: boolean;
  ms: number;
  /** Straight distance between where the robot's middle was and where it came to rest, in mm. */
  mm: number;
  degrees: number;
  outputs: string[];
  slipped: boolean;
}

/** Steps without an end are looked at after so long. */
const TRY_MS = 10_000;
/** So long the robot is given to come to rest. */
const REST_MS = 400;

/** One step alone, from a standing start on bare ground. @throws RunError where there is no ground or no light */
export function tryStep(project: Simulated, step: Step, light?: LightId): Tried {
  const ground = project.targets.find((t) => t.kind === "background") ?? project.targets[0];
  if (ground === undefined) throw new RunError("there is no ground to try it on; add a background");
  const [first, ...modes] = project.behaviour.modes;
  const endless = stepIsEndless(step);
  const alone: Step[] = endless ? [step] : [step, { step: "wait", ms: REST_MS }, { step: "finish" }];
  const { course: kind } = robotKindOf(project.robot);
  const bare = emptyCourse("bare" as CourseId, "Bare ground", ground.id, kind);
  const course = courseKindOf(bare).roomy?.(bare) ?? bare;
  const trace = run(
    {
      ...project,
      courses: [course],
      behaviour: {
        ...project.behaviour,
        start: first.id,
        modes: [{ ...first, entering: numbered("step", alone), responses: [] }, ...modes],
      },
    },
    { course: course.id, limitMs: TRY_MS, ...(light !== undefined && { light }) },
  );
  const last = trace.x.length - 1;
  const rest = trace.notes.filter((n) => n.kind === "step").at(-2);
  const ended = trace.ending === "finished";
  return {
    ended,
    ms: ended && rest ? rest.t : trace.endMs,
    mm: Math.sqrt((trace.x[last] - trace.x[0]) ** 2 + (trace.y[last] - trace.y[0]) ** 2),
    degrees: trace.heading[last] - trace.heading[0],
    outputs: [...new Set(trace.outputs.flatMap(({ command }) => outputOf(command).tell?.(command) ?? []))],
    slipped: trace.slipping.includes(1),
  };
}
