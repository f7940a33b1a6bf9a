import * as z from "zod";
import { spoken } from "../engine/saying";
import { PICTURE_NAMES, takePicture } from "../pictures";
import { stepKind } from "./StepKind";
import { namedSaying, parseSaying, printSaying, Saying, sayingArgs, tellSaying } from "./saying";

const Picture = z.strictObject({ picture: z.enum(PICTURE_NAMES, `a picture is one of ${PICTURE_NAMES.join(", ")}`) });
const schema = z.strictObject({ step: z.literal("show"), what: z.union([Saying, Picture]) });

/** Writes on the robot's display, or shows one of its pictures. */
export const show = stepKind<z.infer<typeof schema>>({
  key: "show",
  schema,
  opening: "show",
  templates: [
    'show "{text bay 2}"',
    "show seen",
    "show {counters}",
    `show picture {picture ${PICTURE_NAMES.join("|")}}`,
  ],
  parse: (reader) => ({
    step: "show",
    what: reader.skip("picture") ? { picture: takePicture(reader) } : parseSaying(reader),
  }),
  print: ({ what }) => `show ${"picture" in what ? `picture ${what.picture}` : printSaying(what)}`,
  tell: ({ what }) => `show ${"picture" in what ? `the picture of a ${what.picture}` : tellSaying(what)}`,
  acts: {
    show: {
      takes: ["which", "what", "eye"],
      begin: (e, which, what, eye) => e.robot.show(spoken(e, which, what, eye)),
    },
    picture: { takes: ["picture"], begin: (e, picture) => e.robot.picture(picture) },
  },
  row: ({ what }, to) =>
    "picture" in what
      ? { act: "picture", args: [PICTURE_NAMES.indexOf(what.picture)] }
      : { act: "show", args: sayingArgs(what, to) },
  facts: ({ what }) => ("seen" in what ? { saysSeen: true } : {}),
  named: (step, visit) => ("picture" in step.what ? step : { ...step, what: namedSaying(step.what, visit) }),
});
