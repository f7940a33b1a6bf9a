import * as z from "zod";
import { Id } from "../names";
import { InputKind } from "../phrases";

/** A value that a routine is given for one of its inputs, as a phrase has it. */
export const Given = z.strictObject({ input: Id, kind: InputKind, value: z.string().min(1).max(220) });
export type Given = z.infer<typeof Given>;
