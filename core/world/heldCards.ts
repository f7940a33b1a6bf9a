import type { SensorId } from "../names";
import { chance } from "./chance";
import type { Card, Steadiness } from "./courses";

/**
 * How far from its sensor a course's card is held, in mm: as far as is written, or the sensor's best, and by a jitter
 * that the seed draws for each card. A card is never nearer than 1 mm.
 */
export function heldAtMm(
  { cards, held }: { cards: readonly Pick<Card, "heightMm">[]; held: Steadiness },
  index: number,
  seed: number,
  bestMm: number,
): number {
  const jitter = chance(seed, `card ${index}`).normal() * held.jitterMm;
  return Math.max(1, (cards[index].heightMm ?? bestMm) + jitter);
}

/**
 * The cards that are held before a sensor at time `t` in ms, by their places, the one that is seen last: of several it
 * is the one that was held up last. A card that names no sensor is before the robot's `first`.
 */
export function cardsNow(
  { cards }: { cards: readonly Pick<Card, "atMs" | "forMs" | "sensor">[] },
  t: number,
  sensor: SensorId,
  first: SensorId,
): number[] {
  return cards
    .map((_, i) => i)
    .filter((i) => (cards[i].sensor ?? first) === sensor && t >= cards[i].atMs && t < cards[i].atMs + cards[i].forMs)
    .sort((a, b) => cards[a].atMs - cards[b].atMs);
}
