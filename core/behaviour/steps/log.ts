import * as z from "zod";
import { stepKind } from "./StepKind";
import { parseSaying, printSaying, Saying, spoken } from "./saying";

const schema = z.strictObject({ step: z.literal("log"), what: Saying });

/** Writes a line into the run's log. */
export const log = stepKind<z.infer<typeof schema>>({
  step: "log",
  schema,
  opening: "log",
  example: 'log "at the bay"',
  parse: (reader) => ({ step: "log", what: parseSaying(reader) }),
  print: ({ what }) => `log ${printSaying(what)}`,
  begin: ({ what }, scene) => scene.log(spoken(what, scene)),
});
