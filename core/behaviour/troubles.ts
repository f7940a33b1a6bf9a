import { UNKNOWN } from "../names";
import {
  MOST_JOTTED,
  TROUBLE_BESIDES,
  TROUBLE_CANNOT,
  TROUBLE_CIRCLE,
  TROUBLE_FULL,
  TROUBLE_NESTED,
  TROUBLE_NO_ANSWER,
  TROUBLE_NO_GATE,
  TROUBLE_NO_PIECE,
  TROUBLE_NOTHING_FIRED,
  TROUBLE_PARTS,
  TROUBLE_SENT,
} from "./engine/Engine";
import type { Program } from "./program";

/** The names by number that a trouble may be about. */
const NAMES = {
  lists: ({ naming }: Program): readonly string[] => naming.lists,
  crates: ({ naming }: Program): readonly string[] => naming.crates,
  modes: ({ modes }: Program): readonly string[] => modes.map(({ mode }) => mode.id),
  targets: ({ targets }: Program): readonly string[] => [UNKNOWN, ...targets],
};

/** A piece of what is said: words, with a name among them where one of the trouble's numbers stands for one. */
export interface TroublePiece {
  before?: string;
  names?: keyof typeof NAMES;
  by?: "about" | "other" | "x";
  after?: string;
}

/** The words of each trouble, in three pieces at most. */
export const TROUBLES: Readonly<Record<number, readonly TroublePiece[]>> = {
  [TROUBLE_CIRCLE]: [{ before: "modes and steps follow each other in a circle without time passing" }],
  [TROUBLE_NESTED]: [{ before: "steps are nested too deeply" }],
  [TROUBLE_CANNOT]: [{ before: "this robot cannot do that; the step was skipped" }],
  [TROUBLE_BESIDES]: [{ before: "too many steps run beside each other" }],
  [TROUBLE_NOTHING_FIRED]: [{ before: "no target fired that could be jotted to ", names: "lists", by: "about" }],
  [TROUBLE_FULL]: [{ names: "lists", by: "about", after: ` is full: it holds ${MOST_JOTTED}` }],
  [TROUBLE_NO_ANSWER]: [
    { names: "modes", by: "about", after: " has no response to " },
    { names: "targets", by: "x" },
    { before: ", which ", names: "lists", by: "other", after: " holds" },
  ],
  [TROUBLE_NO_PIECE]: [{ before: "no piece fired that could be sent to ", names: "crates", by: "about" }],
  [TROUBLE_NO_GATE]: [{ before: "no gate behind the sensor leads to ", names: "crates", by: "about" }],
  [TROUBLE_PARTS]: [{ before: "the list has more modes, responses or routines than it was written with" }],
  [TROUBLE_SENT]: [{ before: "too many pieces are under way" }],
};

/** The texts that a piece may be: one, or one for each name. */
export function textsOf(program: Program, { before = "", names, after = "" }: TroublePiece): string[] {
  return names === undefined ? [before] : NAMES[names](program).map((name) => `${before}${name}${after}`);
}

/** Says in words what went wrong while a behaviour ran; `TROUBLE_…` says what the numbers mean. */
export function troubleText(program: Program, which: number, about: number, other: number, x: number): string {
  const numbers = { about, other, x };
  return TROUBLES[which]
    .map((piece) => textsOf(program, piece)[piece.by === undefined ? 0 : numbers[piece.by]])
    .join("");
}
