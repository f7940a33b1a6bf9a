import { type int, type num, rounded } from "../../arithmetic";
import { type Engine, NOTE_FINISH, NOTE_TROUBLE } from "./Engine";
import { seenBy } from "./eyes";
import { featureOf, withNumber } from "./given";
import { stopWheels } from "./outputs";

/** Kinds of what is said: a text, what is seen, a counter or a feature. */
export const SAYS_TEXT = 0;
export const SAYS_SEEN = 1;
export const SAYS_COUNTER = 2;
export const SAYS_FEATURE = 3;

/** The words that come out of it now; `which` is a text, a counter or a feature, and that a sensor's. */
export function spoken(e: Engine, which: int, what: int, eye: int): string {
  const { names } = e.p;
  if (what === SAYS_TEXT) return names.texts[which];
  if (what === SAYS_SEEN) return names.words[seenBy(e, 0)];
  if (what === SAYS_COUNTER) return withNumber(names.counterNames[which], e.counters[which], "");
  const value = featureOf(e, eye, which);
  if (Number.isNaN(value)) return names.unknownNames[which];
  // A share is said in percent; a hue that is nearly once round is 0.
  const figure = rounded(names.inPercent[which] === 1 ? value * 100 : value);
  const isRound = names.goesRound[which] === 1 && figure === 360;
  return withNumber(names.featureNames[which], isRound ? 0 : figure, names.units[which]);
}

/** Notes that something goes wrong; `TROUBLE_…` says what `about` and the others mean. */
export function trouble(e: Engine, which: int, about: int, other: int, x: num): void {
  e.robot.note(NOTE_TROUBLE, which, about, other, x);
}

/** Ends the behaviour: the wheels brake, and nothing more is answered. */
export function endBehaviour(e: Engine): void {
  e.hasFinished = true;
  e.isActive = false;
  e.besides = 0;
  stopWheels(e, 0);
  e.robot.note(NOTE_FINISH, 0, 0, 0, 0);
}
