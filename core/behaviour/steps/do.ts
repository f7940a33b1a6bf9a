import * as z from "zod";
import { INPUT_KINDS, type PhraseReader, takeInput } from "../../phrases";
import { pushRoutine } from "../engine/pushed";
import { Given } from "../given";
import { stepKind } from "./StepKind";

const schema = z.strictObject({
  step: z.literal("do"),
  routine: z.string(),
  times: z.number().int().min(2).max(1000).optional(),
  with: z.array(Given).min(1).max(20).optional(),
});

/** Takes values for what a routine takes, each once; they are kept in the routine's own order. */
function parseGiven(reader: PhraseReader, routine: string): Given[] {
  const inputs = reader.takes(routine);
  const given = new Map<string, Given>();
  do {
    const input = inputs.find(({ name }) => !given.has(name) && reader.skip(name));
    if (input === undefined) {
      const left = inputs
        .filter(({ name }) => !given.has(name))
        .map(({ name, kind }) => `“${name}”, ${INPUT_KINDS[kind]}`);
      return left.length > 0 ? reader.fail(left.join(", or ")) : reader.failSaying(`${routine} takes nothing more`);
    }
    const { name, kind } = input;
    given.set(name, { input: name, kind, value: takeInput(reader, kind) });
  } while (reader.skip(","));
  return inputs.flatMap(({ name }) => given.get(name) ?? []);
}

const printGiven = (given: readonly Given[] = []): string =>
  given.length === 0 ? "" : ` with ${given.map(({ input, value }) => `${input} ${value}`).join(", ")}`;

/** A routine's steps, once or several times. */
export const doRoutine = stepKind<z.infer<typeof schema>>({
  key: "do",
  schema,
  opening: "do",
  templates: ["do {routines}", "do {routines} {n 3} times"],
  parse(reader) {
    const routine = reader.takeName("routines");
    const isCounted = reader.peekIs("number");
    const times = isCounted ? reader.takeCount("how many times", 1000) : 1;
    if (isCounted) reader.take("times");
    const given = reader.takes(routine).length > 0 && reader.skip("with") ? parseGiven(reader, routine) : undefined;
    return { step: "do", routine, ...(times > 1 && { times }), ...(given && { with: given }) };
  },
  print: ({ routine, times, with: given }) =>
    `do ${routine}${times === undefined ? "" : ` ${times} times`}${printGiven(given)}`,
  tell: ({ routine, times, with: given = [] }, name) => {
    const told = given.map((one) => (one.kind === "target" ? { ...one, value: name(one.value) } : one));
    return `do the routine ${routine}${times === undefined ? "" : ` ${times} times`}${printGiven(told)}`;
  },
  acts: { do: { takes: ["routine", "times"], begin: pushRoutine } },
  row: ({ routine, times = 1, with: given }, to) => ({ act: "do", args: [to.routine(routine, given), times] }),
  guides: true,
  named: (step, visit) => ({
    ...step,
    routine: visit("routine", step.routine, "routine"),
    ...(step.with && {
      with: step.with.map((given) =>
        given.kind === "target" ? { ...given, value: visit("target", given.value, "with") } : given,
      ),
    }),
  }),
  facts: ({ routine }) => ({ does: routine }),
});
