import * as z from "zod";
import { speak } from "../engine/outputs";
import { stepKind } from "./StepKind";

const schema = z.strictObject({
  step: z.literal("say"),
  text: z
    .string()
    .max(200)
    .regex(/^[^"\n]*$/, "a text holds no quotes and no line ends"),
});

/** Speaks a word or plays a stored sound of that name. */
export const say = stepKind<z.infer<typeof schema>>({
  key: "say",
  schema,
  opening: "say",
  templates: ['say "{text thirsty}"'],
  parse: (reader) => ({ step: "say", text: reader.takeText("a text in quotes") }),
  print: ({ text }) => `say "${text}"`,
  tell: ({ text }) => `say “${text}”`,
  acts: { say: { takes: ["text"], begin: (e, text) => speak(e, e.p.names.texts[text]) } },
  row: ({ text }, to) => ({ act: "say", args: [to.text(text)] }),
});
