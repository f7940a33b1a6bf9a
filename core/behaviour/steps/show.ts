import * as z from "zod";
import { stepKind } from "./StepKind";
import { namedSaying, parseSaying, printSaying, Saying, spoken, tellSaying } from "./saying";

const Icon = z.strictObject({
  icon: z
    .string()
    .max(40)
    .regex(/^[A-Za-z][A-Za-z0-9#]*(-[a-z0-9]+)*$/, "an icon is named by words joined by hyphens"),
});
const schema = z.strictObject({ step: z.literal("show"), what: z.union([Saying, Icon]) });

/** Writes on the robot's display, or shows an icon by its name. */
export const show = stepKind<z.infer<typeof schema>>({
  key: "show",
  schema,
  opening: "show",
  templates: ['show "{text bay 2}"', "show seen", "show {counters}", "show icon {icon drop}"],
  parse: (reader) => ({
    step: "show",
    what: reader.skip("icon") ? { icon: reader.takeAnyWord("the icon's name") } : parseSaying(reader),
  }),
  print: ({ what }) => `show ${"icon" in what ? `icon ${what.icon}` : printSaying(what)}`,
  tell: ({ what }) => `show ${"icon" in what ? `the icon ${what.icon}` : tellSaying(what)}`,
  begin: ({ what }, scene) => ("icon" in what ? scene.showIcon(what.icon) : scene.show(spoken(what, scene))),
  named: (step, visit) => ("icon" in step.what ? step : { ...step, what: namedSaying(step.what, visit) }),
});
