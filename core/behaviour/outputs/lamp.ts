import * as z from "zod";
import type { int, num } from "../../arithmetic";
import { outputKind } from "./OutputKind";

declare module "../engine/Engine" {
  interface RobotSide {
    /** Lights a lamp in a colour 0xRRGGBB; −1 switches it off. */
    lamp(lamp: int, colour: int, blinkHz: num): void;
  }
}

/** The lamp that every robot has; its name is not said. */
export const MAIN_LAMP = "main";

/** Lights a lamp in a colour, or puts it out. */
export const lamp = outputKind<
  { kind: "lamp"; lamp: string; colour: string | null; blinkHz: number },
  { lamp: string; rgb: string | null; blink: number }
>({
  key: "lamp",
  schema: z.object({ lamp: z.string(), rgb: z.string().nullable(), blink: z.number() }),
  line: ({ lamp, colour, blinkHz }) => ({ lamp, rgb: colour, blink: blinkHz }),
  command: ({ lamp, rgb, blink }) => ({ kind: "lamp", lamp, colour: rgb, blinkHz: blink }),
  heard: ({ naming }, lamp: number, colour: number, blinkHz: number) => ({
    kind: "lamp",
    lamp: naming.lamps[lamp],
    colour: colour < 0 ? null : `#${colour.toString(16).padStart(6, "0")}`,
    blinkHz,
  }),
  print: ({ lamp, colour, blinkHz }) => `lamp ${lamp} ${colour ?? "off"}${blinkHz > 0 ? ` ${blinkHz} Hz` : ""}`,
  tell: ({ lamp, colour }) => `lamp ${lamp === MAIN_LAMP ? "" : `${lamp} `}${colour === null ? "off" : "on"}`,
  lasts: ({ lamp }) => `lamp ${lamp}`,
  shows({ lamp, colour, blinkHz }, at, { lamps }, { t, mostBlinkHz }) {
    const isLit = blinkHz === 0 || blinkHz > mostBlinkHz || Math.floor(((t - at) / 1000) * blinkHz * 2) % 2 === 0;
    lamps.set(lamp, isLit ? colour : null);
  },
  fn: `fn robot_lamp(lamp: text, colour: text, blink_hz: num)
  "Lights a lamp in a colour like #e4573d, or with an empty one switches it off; 0 does not blink."`,
  told: `fn tell_lamp(lamp: int, colour: int, blink_hz: num)
  robot_lamp(IDS_OF_LAMPS[lamp], colour_text(colour), blink_hz)`,
  on: {
    python: `def robot_lamp(lamp, colour, blink_hz):
    """Lights a lamp in a colour like #e4573d; an empty one switches it off."""
    tell({"lamp": lamp, "rgb": colour or None, "blink": blink_hz})`,
    c: `/* Lights a lamp in a colour like #e4573d; an empty one switches it off. */
static inline void robot_lamp(const char *lamp, const char *colour, double blink_hz) {
  printf("{\\"lamp\\": \\"%s\\", \\"rgb\\": ", lamp);
  if (colour[0] == 0) printf("null"); else print_words(colour);
  printf(", \\"blink\\": %.17g}\\n", blink_hz);
}`,
    javascript: `/** Lights a lamp in a colour like #e4573d; an empty one switches it off. */
function robotLamp(lamp, colour, blinkHz) {
  tell({ lamp, rgb: colour || null, blink: blinkHz });
}`,
  },
});
