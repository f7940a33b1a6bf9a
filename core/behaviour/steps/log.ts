import * as z from "zod";
import { spoken } from "../engine/saying";
import { stepKind } from "./StepKind";
import { namedSaying, parseSaying, printSaying, Saying, sayingArgs, tellSaying } from "./saying";

const schema = z.strictObject({ step: z.literal("log"), what: Saying });

/** Writes a line into the run's log. */
export const log = stepKind<z.infer<typeof schema>>({
  key: "log",
  schema,
  opening: "log",
  templates: ['log "{text at the bay}"', "log seen", "log {counters}", "log {feature hue|sat|val|light|chroma}"],
  parse: (reader) => ({ step: "log", what: parseSaying(reader) }),
  print: ({ what }) => `log ${printSaying(what)}`,
  tell: ({ what }) => `write ${tellSaying(what)} into the log`,
  acts: {
    log: { takes: ["which", "what", "eye"], begin: (e, which, what, eye) => e.robot.log(spoken(e, which, what, eye)) },
  },
  row: ({ what }, to) => ({ act: "log", args: sayingArgs(what, to) }),
  facts: ({ what }) => ("seen" in what ? { saysSeen: true } : {}),
  named: (step, visit) => ({ ...step, what: namedSaying(step.what, visit) }),
});
