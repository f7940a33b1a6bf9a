import * as z from "zod";
import type { int, num } from "../../arithmetic";
import { outputKind } from "./OutputKind";

declare module "../engine/Engine" {
  interface RobotSide {
    tone(hertz: num, ms: num): void;
    /** Plays `count` tones: pairs of hertz and ms, from a cell on. */
    tune(at: int, count: int): void;
    say(words: string): void;
  }
}

/** A tone as it is shown. */
const note = (hertz: number) => (hertz === 0 ? "♪ rest" : `♪ ${Math.round(hertz)} Hz`);

/** So long a spoken word is shown, in ms. */
const SPOKEN_MS = 1200;

/** Sounds a tone. */
export const tone = outputKind<{ kind: "tone"; hertz: number; ms: number }, { tone: number; ms: number }>({
  key: "tone",
  schema: z.object({ tone: z.number(), ms: z.number() }),
  line: ({ hertz, ms }) => ({ tone: hertz, ms }),
  command: ({ tone, ms }) => ({ kind: "tone", hertz: tone, ms }),
  heard: (_, hertz: number, ms: number) => ({ kind: "tone", hertz, ms }),
  print: ({ hertz, ms }) => `tone ${hertz} ${ms}`,
  tell: ({ hertz }) => `a tone of ${Math.round(hertz)} Hz`,
  shows({ hertz, ms }, at, face, { t }) {
    face.sound = t - at < ms ? note(hertz) : "";
  },
  fn: `fn robot_tone(hertz: num, ms: num)
  "Sounds a tone."`,
  told: `fn tell_tone(hertz: num, ms: num)
  robot_tone(hertz, ms)`,
  on: {
    python: `def robot_tone(hertz, ms):
    """Sounds a tone; the behaviour goes on meanwhile."""
    tell({"tone": hertz, "ms": ms})`,
    c: `/* Sounds a tone; the behaviour goes on meanwhile. */
static inline void robot_tone(double hertz, double ms) {
  printf("{\\"tone\\": %.17g, \\"ms\\": %.17g}\\n", hertz, ms);
}`,
    javascript: `/** Sounds a tone; the behaviour goes on meanwhile. */
function robotTone(hertz, ms) {
  tell({ tone: hertz, ms });
}`,
  },
});

/** Plays tones one after the other; 0 hertz is a rest. */
export const tune = outputKind<
  { kind: "tune"; tones: readonly { hertz: number; ms: number }[] },
  { tune: [number, number][] }
>({
  key: "tune",
  schema: z.object({ tune: z.array(z.tuple([z.number(), z.number()])) }),
  line: ({ tones }) => ({ tune: tones.map(({ hertz, ms }): [number, number] => [hertz, ms]) }),
  command: ({ tune }) => ({ kind: "tune", tones: tune.map(([hertz, ms]) => ({ hertz, ms })) }),
  heard: ({ rows: { rows } }, at: number, count: number) => ({
    kind: "tune",
    tones: Array.from({ length: count }, (_, i) => ({ hertz: rows[at + 2 * i], ms: rows[at + 2 * i + 1] })),
  }),
  print: ({ tones }) => `tune ${tones.map(({ hertz, ms }) => `${hertz} ${ms}`).join(", ")}`,
  tell: ({ tones }) => `plays ${tones.length} notes`,
  shows({ tones }, at, face, { t }) {
    let end = at;
    const now = tones.find(({ ms }) => {
      end += ms;
      return t < end;
    });
    face.sound = now === undefined ? "" : note(now.hertz);
  },
  fn: `fn robot_tune(first: int, count: int)
  "Plays tones one after the other: pairs of hertz and ms in ROWS, from first on; 0 hertz is a rest."`,
  told: `fn tell_tune(at: int, count: int)
  robot_tune(at, count)`,
  on: {
    python: `def robot_tune(first, count):
    """Plays tones one after the other; 0 hertz is a rest."""
    tell({"tune": [[ROWS[first + 2 * i], ROWS[first + 2 * i + 1]] for i in range(count)]})`,
    c: `/* Plays tones one after the other; 0 hertz is a rest. */
static inline void robot_tune(int first, int count) {
  printf("{\\"tune\\": [");
  for (int i = 0; i < count; i++)
    printf("%s[%.17g, %.17g]", i == 0 ? "" : ", ", ROWS[first + 2 * i], ROWS[first + 2 * i + 1]);
  printf("]}\\n");
}`,
    javascript: `/** Plays tones one after the other; 0 hertz is a rest. */
function robotTune(first, count) {
  tell({ tune: Array.from({ length: count }, (_, i) => [ROWS[first + 2 * i], ROWS[first + 2 * i + 1]]) });
}`,
  },
});

/** Speaks words. */
export const say = outputKind<{ kind: "say"; text: string }, { say: string }>({
  key: "say",
  schema: z.object({ say: z.string() }),
  line: ({ text }) => ({ say: text }),
  command: ({ say: text }) => ({ kind: "say", text }),
  heard: (_, text: string) => ({ kind: "say", text }),
  print: ({ text }) => `say ${text}`,
  tell: ({ text }) => `says “${text}”`,
  shows({ text }, at, face, { t }) {
    face.sound = t - at < SPOKEN_MS ? `“${text}”` : "";
  },
  fn: `fn robot_say(words: text)
  "Speaks a word, or plays a sound of that name."`,
  told: `fn tell_say(words: text)
  robot_say(words)`,
  on: {
    python: `def robot_say(words):
    """Speaks words, or plays a sound of that name."""
    tell({"say": words})`,
    c: `/* Speaks words, or plays a sound of that name. */
static inline void robot_say(const char *words) {
  printf("{\\"say\\": ");
  print_words(words);
  printf("}\\n");
}`,
    javascript: `/** Speaks words, or plays a sound of that name. */
function robotSay(words) {
  tell({ say: words });
}`,
  },
});
