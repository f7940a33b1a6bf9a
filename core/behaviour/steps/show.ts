import * as z from "zod";
import { stepKind } from "./StepKind";
import { parseSaying, printSaying, Saying, spoken } from "./saying";

const schema = z.strictObject({ step: z.literal("show"), what: Saying });

/** Writes on the robot's display. */
export const show = stepKind<z.infer<typeof schema>>({
  step: "show",
  schema,
  opening: "show",
  example: 'show "bay 2"',
  parse: (reader) => ({ step: "show", what: parseSaying(reader) }),
  print: ({ what }) => `show ${printSaying(what)}`,
  begin: ({ what }, scene) => scene.show(spoken(what, scene)),
});
