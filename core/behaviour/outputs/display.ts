import * as z from "zod";
import type { int } from "../../arithmetic";
import { PICTURE_NAMES, type PictureName } from "../pictures";
import { outputKind } from "./OutputKind";

declare module "../engine/Engine" {
  interface RobotSide {
    show(words: string): void;
    picture(picture: int): void;
  }
}

/** Writes words on the display. */
export const show = outputKind<{ kind: "show"; text: string }, { show: string }>({
  key: "show",
  schema: z.object({ show: z.string() }),
  line: ({ text }) => ({ show: text }),
  command: ({ show: text }) => ({ kind: "show", text }),
  heard: (_, text: string) => ({ kind: "show", text }),
  print: ({ text }) => `show ${text}`,
  tell: ({ text }) => `shows “${text}”`,
  lasts: () => "display",
  shows({ text }, _, face) {
    face.display = text;
    face.picture = null;
  },
  fn: `fn robot_show(words: text)
  "Writes on the display."`,
  told: `fn tell_show(words: text)
  robot_show(words)`,
  on: {
    python: `def robot_show(words):
    """Writes on the display."""
    tell({"show": words})`,
    c: `/* Writes on the display. */
static inline void robot_show(const char *words) {
  printf("{\\"show\\": ");
  print_words(words);
  printf("}\\n");
}`,
    javascript: `/** Writes on the display. */
function robotShow(words) {
  tell({ show: words });
}`,
  },
});

/** Shows a picture on the display. */
export const picture = outputKind<{ kind: "picture"; picture: PictureName }, { picture: string }>({
  key: "picture",
  schema: z.object({ picture: z.string() }),
  line: ({ picture }) => ({ picture }),
  command: ({ picture }) => ({ kind: "picture", picture: picture as PictureName }),
  heard: (_, picture: number) => ({ kind: "picture", picture: PICTURE_NAMES[picture] }),
  print: ({ picture }) => `picture ${picture}`,
  tell: ({ picture }) => `shows the picture of a ${picture}`,
  lasts: () => "display",
  shows({ picture }, _, face) {
    face.display = "";
    face.picture = picture;
  },
  fn: `fn robot_picture(picture: text)
  "Shows a picture on the display."`,
  told: `fn tell_picture(picture: int)
  robot_picture(PICTURES[picture])`,
  on: {
    python: `def robot_picture(picture):
    """Shows a picture on the display."""
    tell({"picture": picture})`,
    c: `/* Shows a picture on the display. */
static inline void robot_picture(const char *picture) {
  printf("{\\"picture\\": \\"%s\\"}\\n", picture);
}`,
    javascript: `/** Shows a picture on the display. */
function robotPicture(picture) {
  tell({ picture });
}`,
  },
});
