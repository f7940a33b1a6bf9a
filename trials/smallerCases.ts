import {
  advance,
  type EngineInput,
  printCondition,
  printStep,
  printTrigger,
  startState,
} from "@perceptum/core/behaviour";
import { ProjectDocument } from "@perceptum/core/project";
import type { Blob } from "@perceptum/core/vision";
import { programOf } from "@perceptum/core/world";
import fc from "fast-check";
import { camerasOf, commandLine, type DrawnCase, drawnCase, type Moment, noteLine, seenLine } from "./drawnBehaviour";
import { Happens } from "./runBehaviour";

/** Parts a script into its moments. */
function momentsIn(script: readonly string[]): string[][] {
  const moments: string[][] = [[]];
  for (const line of script) {
    (moments.at(-1) as string[]).push(line);
    if (Number(line) === Happens.ends) moments.push([]);
  }
  return moments.filter((lines) => lines.length > 0);
}

/** Has a script happen to a project; gives what the core tells, the same as when it was drawn. */
export function toldByCore(project: ProjectDocument, script: readonly string[]): Moment[] {
  const program = programOf(project);
  const state = startState(program);
  const pressed = new Set<string>();
  const cameras = camerasOf(program);
  let last = 0;
  return momentsIn(script).map((lines) => {
    const readings: { eye: number; raw: number[] }[] = [];
    const found = new Map<number, Map<never, Blob>>();
    let [t, left, right] = [last, 0, 0];
    for (const line of lines) {
      const [what, ...cells] = line.split(" ").map(Number);
      if (what === Happens.begins) [t, left, right] = cells;
      else if (what === Happens.presses) pressed[cells[1] === 1 ? "add" : "delete"](project.robot.buttons[cells[0]]);
      else if (what === Happens.reads) readings.push({ eye: cells[0], raw: cells.slice(1) });
      else if (what === Happens.blob) {
        const [place, area, width, height, x, y, error, halfFrame] = cells;
        const of = place - program.eyes.length;
        const eye = cameras[Math.floor(of / program.targets.length)];
        const seen = found.get(eye) ?? new Map<never, Blob>();
        found.set(eye, seen);
        if (area > 0)
          seen.set(program.targets[of % program.targets.length] as never, {
            area,
            width,
            height,
            x,
            y,
            error,
            halfFrame,
          });
      }
    }
    const looked = lines.flatMap((line) => (line.startsWith(`${Happens.looks} `) ? [Number(line.split(" ")[1])] : []));
    const blobs = looked.map((eye) => ({ eye, blobs: found.get(eye) ?? new Map<never, Blob>() }));
    const input: EngineInput = {
      readings,
      travel: { left, right },
      ...(pressed.size > 0 && { pressed: [...pressed] }),
      ...(blobs.length > 0 && { blobs }),
    };
    const { commands, notes } = advance(state, input, t - last);
    last = t;
    return { commands: commands.map(commandLine), notes: notes.map(noteLine), seen: seenLine(state) };
  });
}

/** Smaller cases: without some of the moments, a response, a guard, a step, a routine's step, a mode's first steps. */
export function* smallerCases({ project, script }: DrawnCase): Generator<DrawnCase> {
  const { behaviour } = project;
  const as = (changed: Partial<typeof behaviour>, with_ = script): DrawnCase[] => {
    const smaller = { ...project, behaviour: { ...behaviour, ...changed } };
    return ProjectDocument.safeParse(smaller).success
      ? [{ project: smaller, script: [...with_], wanted: toldByCore(smaller, with_) }]
      : [];
  };
  const moments = momentsIn(script);
  for (const part of [2, 4, 8, moments.length - 1])
    if (part > 1 && part < moments.length)
      yield* as({}, moments.slice(0, Math.ceil((moments.length * (part - 1)) / part)).flat());
  for (const [m, mode] of behaviour.modes.entries()) {
    const with_ = (changed: Partial<typeof mode>) => as({ modes: behaviour.modes.with(m, { ...mode, ...changed }) });
    yield* as({ modes: behaviour.modes.toSpliced(m, 1) });
    for (const i of mode.entering.keys()) yield* with_({ entering: mode.entering.toSpliced(i, 1) });
    for (const [r, response] of mode.responses.entries()) {
      yield* with_({ responses: mode.responses.toSpliced(r, 1) });
      const { guard, restMs: _, ...rest } = response;
      if (guard !== undefined) yield* with_({ responses: mode.responses.with(r, rest) });
      for (const i of response.steps.keys())
        yield* with_({ responses: mode.responses.with(r, { ...response, steps: response.steps.toSpliced(i, 1) }) });
    }
  }
  for (const [r, routine] of behaviour.routines.entries())
    for (const i of routine.steps.keys())
      yield* as({ routines: behaviour.routines.with(r, { ...routine, steps: routine.steps.toSpliced(i, 1) }) });
}

/** Cases as they are drawn from a seed, made smaller one thing after the other where one fails. */
class ArbitraryCases extends fc.Arbitrary<DrawnCase> {
  generate(random: fc.Random): fc.Value<DrawnCase> {
    return new fc.Value(drawnCase(random.nextInt(0, 2 ** 30)), undefined);
  }
  canShrinkWithoutContext(value: unknown): value is DrawnCase {
    return typeof value === "object";
  }
  shrink(value: DrawnCase): fc.Stream<fc.Value<DrawnCase>> {
    return fc.stream(smallerCases(value)).map((smaller) => new fc.Value(smaller, undefined));
  }
}
export const arbitraryCases = new ArbitraryCases();

/** A case as people read it: its modes with their phrases, and what happens. */
export const tellCase = ({ project, script }: DrawnCase): string =>
  [
    ...project.behaviour.modes.flatMap(({ id, entering, responses }) => [
      `mode ${id}: ${entering.map(printStep).join("; ")}`,
      ...responses.map(
        ({ when, guard, steps, then }) =>
          `  ${printTrigger(when)}${guard ? ` only if ${printCondition(guard)}` : ""}: ${steps.map(printStep).join("; ")}${then ? ` then ${then}` : ""}`,
      ),
    ]),
    ...project.behaviour.routines.map(({ id, steps }) => `routine ${id}: ${steps.map(printStep).join("; ")}`),
    ...script,
  ].join("\n");
