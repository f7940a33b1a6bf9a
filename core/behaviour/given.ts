import * as z from "zod";
import { Id } from "../names";
import { InputKind, NO_NAMES, parsePhrase, takeInput } from "../phrases";

/** The value in its usual form, or what is wrong with it; a target is looked for elsewhere. */
export function inputValue(kind: InputKind, value: string): { value: string } | { problem: string } {
  const read = parsePhrase(value, { ...NO_NAMES, targets: [value] }, (reader) => takeInput(reader, kind));
  return "problem" in read ? { problem: read.problem.message } : read;
}

/** The fields of a value: its kind, and as a phrase has it. */
const VALUE = { kind: InputKind, value: z.string().min(1).max(220) };
const canBe = (context: z.core.ParsePayload<{ kind: InputKind; value: string }>) => {
  const { kind, value } = context.value;
  const read = inputValue(kind, value);
  if ("problem" in read) context.issues.push({ code: "custom", message: read.problem, path: ["value"], input: value });
};

/** An input of a routine: a name that its steps say in the place of a value, and the value that it starts from. */
export const InputSchema = z.strictObject({ name: Id, ...VALUE }).check(canBe);

/** A value that a routine is given for one of its inputs. */
export const Given = z.strictObject({ input: Id, ...VALUE }).check(canBe);
export type Given = z.infer<typeof Given>;
