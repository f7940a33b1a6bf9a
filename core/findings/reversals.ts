import { factsOf, type Step } from "../behaviour";
import { type Drive, SLIP_MM_S } from "../world";

/** The pause that a fix puts between the two, in ms. */
const PAUSE = 300;

/** The steps with a stop and a moment between those that turn the wheels round while they run. */
export function calmed(drive: Drive, steps: readonly Step[]): Step[] {
  return steps.flatMap((step, k): Step[] =>
    k > 0 && turnsRound(drive, steps[k - 1], step) ? [{ step: "stop" }, { step: "wait", ms: PAUSE }, step] : [step],
  );
}

/** The wheels' speeds, as shares of top speed, that a step leaves them with or begins with. */
const wheelsOf = (step: Step) => factsOf(step).wheels;

function reverses(before: Step, after: Step): boolean {
  const [a, b] = [wheelsOf(before), wheelsOf(after)];
  return a !== undefined && b !== undefined && (a[0] * b[0] < 0 || a[1] * b[1] < 0);
}

export const turnsRound = (drive: Drive, before: Step, after: Step) =>
  reverses(before, after) && slips(drive, before, after);

/** Whether wheels that follow by a first-order lag run ahead of a floor that follows no faster than traction allows. */
function slips({ motors, tractionMmS2 }: Drive, before: Step, after: Step): boolean {
  const [a, b] = [wheelsOf(before), wheelsOf(after)];
  return motors.some(({ topSpeed, lagMs }, k) => {
    const change = Math.abs((b?.[k] ?? 0) - (a?.[k] ?? 0)) * topSpeed;
    // The wheel runs ahead for as long as it gains speed faster than the floor; then the gap is widest.
    const lag = Math.max(0.001, lagMs / 1000);
    const until = lag * Math.log(Math.max(1, change / (lag * tractionMmS2)));
    return change * (1 - Math.exp(-until / lag)) - tractionMmS2 * until > SLIP_MM_S;
  });
}
