import * as z from "zod";
import { type ModeId, ModeIdSchema } from "../../names";
import { pushReplay, writeDown } from "../engine/pushed";
import { stepKind } from "./StepKind";

const jotSchema = z.strictObject({ step: z.literal("jot"), list: z.string() });

/** Writes the target that fired onto a list. */
export const jot = stepKind<z.infer<typeof jotSchema>>({
  key: "jot",
  schema: jotSchema,
  opening: "jot",
  templates: ["jot to {lists}"],
  parse(reader) {
    reader.take("to");
    return { step: "jot", list: reader.takeName("lists") };
  },
  print: ({ list }) => `jot to ${list}`,
  tell: ({ list }) => `add the target just seen to the list ${list}`,
  acts: { jot: { takes: ["list"], begin: writeDown } },
  row: ({ list }, to) => ({ act: "jot", args: [to.list(list)] }),
  named: (step, visit) => ({ ...step, list: visit("list", step.list, "list") }),
  facts: ({ list }) => ({ changes: list }),
});

const replaySchema = z.strictObject({ step: z.literal("replay"), list: z.string(), mode: ModeIdSchema });

/** For each jotted target, in order, the steps of its arrival response in a mode. */
export const replay = stepKind<z.infer<typeof replaySchema>>({
  key: "replay",
  schema: replaySchema,
  opening: "replay",
  templates: ["replay {lists} in {modes}"],
  parse(reader) {
    const list = reader.takeName("lists");
    reader.take("in");
    return { step: "replay", list, mode: reader.takeName("modes") as ModeId };
  },
  print: ({ list, mode }) => `replay ${list} in ${mode}`,
  tell: ({ list, mode }, name) => `do, for each thing on the list ${list}, what ${name(mode)} does about it`,
  acts: { replay: { takes: ["list", "mode"], begin: pushReplay } },
  row: ({ list, mode }, to) => ({ act: "replay", args: [to.list(list), to.mode(mode)] }),
  guides: true,
  named: ({ list, mode, ...rest }, visit) => ({
    ...rest,
    list: visit("list", list, "list"),
    mode: visit("mode", mode, "mode"),
  }),
  facts: ({ mode }) => ({ replays: mode }),
});
