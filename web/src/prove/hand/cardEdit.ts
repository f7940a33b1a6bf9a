import type { Card, Press } from "@perceptum/core/world";

/** The shortest that something is held, in ms. */
const SHORTEST_MS = 50;
const LAST_MS = 3_600_000;
const FARTHEST_MM = 500;

/** Times snap to this, heights to whole mm. */
export const SNAP_MS = 50;

const within = (x: number, low: number, high: number) => Math.max(low, Math.min(high, x));

/** A card or a press at another time, in ms. */
export const heldFrom = <T extends Card | Press>(held: T, atMs: number): T => ({
  ...held,
  atMs: within(Math.round(atMs), 0, LAST_MS),
});

/** A card or a press for another time, in ms. */
export const heldFor = <T extends Card | Press>(held: T, forMs: number): T => ({
  ...held,
  forMs: within(Math.round(forMs), SHORTEST_MS, LAST_MS),
});

/** A card held at another height, in mm from its sensor. */
export const heldAt = (card: Card, heightMm: number): Card => ({
  ...card,
  heightMm: within(Math.round(heightMm), 0, FARTHEST_MM),
});
