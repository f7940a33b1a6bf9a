import * as z from "zod";
import { Id, ModeIdSchema, type Path, ResponseIdSchema } from "../names";
import type { Input } from "../phrases";
import { ConditionSchema, namedCondition } from "./conditions";
import { InputSchema } from "./given";
import { DoneRoutines } from "./routines";
import { factsOf, ListedStep, namedStep } from "./steps";
import { namedTrigger, Trigger } from "./triggers";
import type { NameVisitor } from "./Visitor";

const Steps = z.array(ListedStep).max(200);
const Name = z.string().trim().min(1, "a name is needed").max(80);

/** Trigger, guard, steps, next mode. */
export const Response = z.strictObject({
  id: ResponseIdSchema,
  when: Trigger,
  guard: ConditionSchema.optional(),
  steps: Steps,
  then: z.union([z.literal("finish"), ModeIdSchema]).optional(),
  fires: z.enum(["once per visit", "while present"]),
  restMs: z.number().min(0).max(3_600_000).optional(),
  busy: z.enum(["let it finish", "take over"]),
  on: z.boolean(),
});

/** A state of the behaviour; in it a set of responses holds. */
export const Mode = z.strictObject({
  id: ModeIdSchema,
  name: Name,
  entering: Steps,
  responses: z.array(Response).max(500),
});

/** A named sequence of steps, with what it takes from who does it. */
export const Routine = z.strictObject({
  id: Id,
  name: Name,
  inputs: z.array(InputSchema).min(1).max(20).optional(),
  steps: Steps,
});

export const Behaviour = z
  .strictObject({
    start: ModeIdSchema,
    modes: z.array(Mode).min(1).max(50),
    counters: z.array(Id).max(50),
    lists: z.array(Id).max(50).default([]),
    routines: z.array(Routine).max(100).default([]),
  })
  .superRefine((behaviour, context) => {
    const { routines } = behaviour;
    const circle = routineCircle(routines);
    if (circle !== undefined)
      context.addIssue({
        code: "custom",
        message: `the routine reaches itself: ${circle.join(" does ")}`,
        path: ["routines", routines.findIndex((r) => r.id === circle[0]), "steps"],
      });
    else
      for (const { message, path } of wrongInputs(behaviour))
        context.addIssue({ code: "custom", message, path: [...path] });
  });

/** Finds what routines wrongly take and are given. */
function wrongInputs({ modes, routines }: Pick<Behaviour, "modes" | "routines">): { message: string; path: Path }[] {
  const found: { message: string; path: Path }[] = [];
  const look = (steps: readonly ListedStep[], inputs: readonly Input[], path: Path) =>
    steps.forEach((step, i) => {
      const wrong = (message: string) => found.push({ message, path: [...path, i] });
      for (const name of Object.values(step.takes ?? {}))
        if (!inputs.some((input) => input.name === name)) wrong(`nothing here takes “${name}”`);
      if (step.step !== "do") return;
      const takes = routines.find(({ id }) => id === step.routine)?.inputs ?? [];
      for (const { input, kind } of step.with ?? [])
        if (!takes.some((own) => own.name === input && own.kind === kind))
          wrong(`the routine ${step.routine} takes no ${kind} “${input}”`);
    });
  modes.forEach(({ entering, responses }, m) => {
    look(entering, [], ["modes", m, "entering"]);
    responses.forEach(({ steps }, r) => void look(steps, [], ["modes", m, "responses", r, "steps"]));
  });
  routines.forEach(({ steps, inputs = [] }, i) => {
    look(steps, inputs, ["routines", i, "steps"]);
    inputs.forEach(({ name }, k) => {
      if (inputs.findIndex((input) => input.name === name) < k)
        found.push({ message: `“${name}” is there twice`, path: ["routines", i, "inputs", k, "name"] });
    });
  });
  if (found.length > 0) return found;
  const { problem } = new DoneRoutines({ modes, routines });
  if (problem === undefined) return [];
  const at = routines.findIndex(({ id }) => id === problem.routine);
  return [{ message: problem.message, path: ["routines", at, "steps"] }];
}

/** The routines that lead from one back to itself, it at both ends; undefined where none does. */
export function routineCircle(routines: readonly Pick<Routine, "id" | "steps">[]): string[] | undefined {
  const done = (id: string) =>
    (routines.find((r) => r.id === id)?.steps ?? []).flatMap((step) => factsOf(step).does ?? []);
  const safe = new Set<string>();
  const visit = (id: string, path: readonly string[]): string[] | undefined => {
    const at = path.indexOf(id);
    if (at >= 0) return [...path.slice(at), id];
    if (safe.has(id)) return undefined;
    for (const next of done(id)) {
      const circle = visit(next, [...path, id]);
      if (circle !== undefined) return circle;
    }
    safe.add(id);
    return undefined;
  };
  for (const { id } of routines) {
    const circle = visit(id, []);
    if (circle !== undefined) return circle;
  }
  return undefined;
}

export type Response = z.infer<typeof Response>;
export type Mode = z.infer<typeof Mode>;
export type Routine = z.infer<typeof Routine>;
export type Behaviour = z.infer<typeof Behaviour>;

/** The same behaviour with every name in its triggers, conditions and steps as the visitor of each place gives it. */
export function namedBehaviour(behaviour: Behaviour, at: (path: Path) => NameVisitor): Behaviour {
  const steps = (list: readonly ListedStep[], path: Path) => list.map((step, i) => namedStep(step, at([...path, i])));
  return {
    ...behaviour,
    start: at([])("mode", behaviour.start, "start"),
    modes: behaviour.modes.map((mode, m) => ({
      ...mode,
      entering: steps(mode.entering, ["modes", m, "entering"]),
      responses: mode.responses.map((response, r) => {
        const path: Path = ["modes", m, "responses", r];
        const { guard, then } = response;
        return {
          ...response,
          when: namedTrigger(response.when, at([...path, "when"])),
          ...(guard !== undefined && { guard: namedCondition(guard, at([...path, "guard"])) }),
          steps: steps(response.steps, [...path, "steps"]),
          ...(then !== undefined && { then: then === "finish" ? then : at(path)("mode", then, "then") }),
        };
      }),
    })),
    routines: behaviour.routines.map((routine, i) => ({
      ...routine,
      ...(routine.inputs && {
        inputs: routine.inputs.map((input, k) =>
          input.kind === "target"
            ? { ...input, value: at(["routines", i, "inputs", k])("target", input.value, "value") }
            : input,
        ),
      }),
      steps: steps(routine.steps, ["routines", i, "steps"]),
    })),
  };
}
