import { NOTHING_SEEN, type Steadied, type Steady, steadyNext } from "../rules";

/** What a camera sees of one target, steadied by itself. */
export interface Sight {
  readonly steadied: Steadied;
  /** The last visit whose departure was told. */
  readonly departed: number;
}

/** What came or went with a frame; labels count targets from 1. */
export interface SightEvent {
  label: number;
  visit: number;
  /** Whether it is told: where a target rejoins its visit it departs a second time, which is told once. */
  told: boolean;
}

/** No target seen yet. */
export const noSights = (targets: number): readonly Sight[] =>
  Array.from({ length: targets }, () => ({ steadied: NOTHING_SEEN, departed: 0 }));

/** Whether the target of a label is seen. */
export const isSeen = (sights: readonly Sight[], label: number): boolean => sights[label - 1]?.steadied.seen === label;

/**
 * Takes in which targets have a blob in the frame at time `t` (ms). Each is steadied by itself, as the labels of a sensor
 * are that sees nothing but it. A visit's number is unlike that of any other target's.
 */
export function sightsNext(
  sights: readonly Sight[],
  has: (label: number) => boolean,
  t: number,
  steady: Steady,
): { sights: readonly Sight[]; arrives: SightEvent[]; departs: SightEvent[] } {
  const arrives: SightEvent[] = [];
  const departs: SightEvent[] = [];
  const next = sights.map((before, i): Sight => {
    const label = i + 1;
    const { state: steadied, events } = steadyNext(before.steadied, has(label) ? label : 0, t, steady);
    if (events.arrives !== 0) arrives.push({ label, visit: visitOf(steadied, label), told: true });
    if (events.departs === 0) return { steadied, departed: before.departed };
    const { visit } = before.steadied;
    const told = before.departed !== visit;
    departs.push({ label, visit: visitOf(before.steadied, label), told });
    return { steadied, departed: visit };
  });
  return { sights: next, arrives, departs };
}

/** A number for a target's visit that no other target's visit has. */
export const visitOf = ({ visit }: Steadied, label: number): number => visit * 256 + label;
