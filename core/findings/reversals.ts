import { type Behaviour, factsOf, kindOf, type ListedStep, type Step } from "../behaviour";
import { nextId } from "../names";
import { type Drive, SLIP_MM_S } from "../world";
import { type StepsPlace, unfolded } from "./stepsOf";

/** The pause that a fix puts between the two, in ms. */
const PAUSE = 300;

type Wheels = readonly [left: number, right: number];

/** How the wheels turn, as shares of top speed, and for how long they have been left to stop; driven where they are not. */
interface Rolling {
  wheels: Wheels;
  stoppedFor?: number;
}

/** Nothing that turns: at rest, or nothing known. */
const REST = undefined;

/** What a step leaves the wheels doing, and whether it turns them round while they still run. */
function rolled(drive: Drive, before: Rolling | undefined, step: Step): { after: Rolling | undefined; turns: boolean } {
  const facts = factsOf(step);
  const told =
    facts.wheels ?? (facts.straightOn === undefined ? undefined : ([facts.straightOn, facts.straightOn] as Wheels));
  if (told !== undefined) {
    const turns = before !== undefined && turnsRound(drive, stillTurning(drive, before), told);
    return { after: facts.leavesMoving ? { wheels: told } : { wheels: told, stoppedFor: 0 }, turns };
  }
  if (before === undefined) return { after: REST, turns: false };
  if (facts.leavesMoving === false) return { after: { ...before, stoppedFor: before.stoppedFor ?? 0 }, turns: false };
  if (before.stoppedFor === undefined) return { after: before, turns: false };
  // What waits for something to be seen is taken to wait long enough.
  const takes = kindOf(step).endsBy?.(step, { t: 0, travel: { left: 0, right: 0 } }) ?? 0;
  return {
    after: takes === Infinity ? REST : { ...before, stoppedFor: before.stoppedFor + Math.max(0, takes) },
    turns: false,
  };
}

/** How fast wheels that were left to stop still turn. */
function stillTurning({ motors }: Drive, { wheels: [left, right], stoppedFor = 0 }: Rolling): Wheels {
  const lag = Math.max(0.001, ...motors.map((m) => m.lagMs));
  const remains = Math.exp(-stoppedFor / lag);
  return [left * remains, right * remains];
}

/** A wheel that turns more slowly than this share of its top speed has come to rest. */
const SLOW = 0.12;

const turnsRound = (drive: Drive, before: Wheels, after: Wheels) =>
  before.some((w, k) => Math.abs(w) > SLOW && w * after[k] < 0) && slips(drive, before, after);

/** Where steps turn the wheels round while they run; `own`: by a step of the list itself, not by one of its routines. */
export interface Reversal {
  index: number;
  own: boolean;
}

/** The first reversal in a list of steps that begins with the wheels as they are, and how the list leaves them. */
function walked(
  drive: Drive,
  behaviour: Behaviour,
  steps: readonly Step[],
  before: Rolling | undefined,
): { reversal: Reversal | undefined; after: Rolling | undefined } {
  let rolling = before;
  let reversal: Reversal | undefined;
  steps.forEach((step, index) => {
    unfolded(behaviour, [step]).forEach((inner, k) => {
      const { after, turns } = rolled(drive, rolling, inner);
      if (turns) reversal ??= { index, own: k === 0 };
      rolling = after;
    });
  });
  return { reversal, after: rolling };
}

/** How the wheels may be turning when a list of steps begins: driven by what ran before it. */
function waysInto(drive: Drive, behaviour: Behaviour, at: StepsPlace): (Rolling | undefined)[] {
  const endOf = (steps: readonly Step[], before?: Rolling) => {
    const { after } = walked(drive, behaviour, steps, before);
    // What was left to stop has probably stopped by then.
    return after?.stoppedFor === undefined ? after : REST;
  };
  const ends = behaviour.modes.flatMap((mode) => {
    const entering = endOf(mode.entering);
    const responses = mode.responses.filter((r) => r.on);
    const into = (steps: readonly Step[], then: string | undefined) =>
      then === at.mode || unfolded(behaviour, steps).some((step) => factsOf(step).leadsTo === at.mode);
    if (at.response === undefined)
      return [
        ...(mode.id !== at.mode && into(mode.entering, undefined) ? [entering] : []),
        ...responses.filter((r) => into(r.steps, r.then)).map((r) => endOf(r.steps, entering)),
      ];
    if (mode.id !== at.mode) return [];
    return [
      entering,
      ...responses.filter((r) => r.id !== at.response && r.then === undefined).map((r) => endOf(r.steps, entering)),
    ];
  });
  return [REST, ...ends];
}

/** The first place of a list where the wheels are turned round while they run, on any way into it. */
export function reversalIn(
  drive: Drive,
  behaviour: Behaviour,
  at: StepsPlace,
  steps: readonly Step[],
): Reversal | undefined {
  for (const before of waysInto(drive, behaviour, at)) {
    const { reversal } = walked(drive, behaviour, steps, before);
    if (reversal !== undefined) return reversal;
  }
  return undefined;
}

/** The steps with a stop and a moment before those that turn the wheels round while they run. */
export function calmed(drive: Drive, behaviour: Behaviour, at: StepsPlace, steps: readonly ListedStep[]): ListedStep[] {
  let calm = [...steps];
  for (let i = 0; i < steps.length; i++) {
    const reversal = reversalIn(drive, behaviour, at, calm);
    if (reversal === undefined || !reversal.own) break;
    const stop: ListedStep = { step: "stop", id: nextId("step", calm) };
    const wait: ListedStep = { step: "wait", ms: PAUSE, id: nextId("step", [...calm, stop]) };
    calm = calm.toSpliced(reversal.index, 0, stop, wait);
  }
  return calm;
}

/** Whether wheels that follow by a first-order lag run ahead of a floor that follows no faster than traction allows. */
function slips({ motors, tractionMmS2 }: Drive, a: Wheels, b: Wheels): boolean {
  return motors.some(({ topSpeed, lagMs }, k) => {
    const change = Math.abs((b[k] ?? 0) - (a[k] ?? 0)) * topSpeed;
    // The wheel runs ahead for as long as it gains speed faster than the floor; then the gap is widest.
    const lag = Math.max(0.001, lagMs / 1000);
    const until = lag * Math.log(Math.max(1, change / (lag * tractionMmS2)));
    return change * (1 - Math.exp(-until / lag)) - tractionMmS2 * until > SLIP_MM_S;
  });
}
