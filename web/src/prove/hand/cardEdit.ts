import type { Card, Course, Press } from "@perceptum/core/world";

/** The shortest that something is held, in ms. */
const SHORTEST_MS = 50;
const LAST_MS = 3_600_000;
const FARTHEST_MM = 500;

/** Times snap to this, heights to whole mm. */
export const SNAP_MS = 50;

const within = (x: number, low: number, high: number) => Math.max(low, Math.min(high, x));

const withCard = (course: Course, index: number, change: (card: Card) => Card): Course => ({
  ...course,
  cards: course.cards.map((card, i) => (i === index ? change(card) : card)),
});

/** The course with a card held up at another time, in ms. */
export const cardAt = (course: Course, index: number, atMs: number): Course =>
  withCard(course, index, (card) => ({ ...card, atMs: within(Math.round(atMs), 0, LAST_MS) }));

/** The course with a card held up for another time, in ms. */
export const cardFor = (course: Course, index: number, forMs: number): Course =>
  withCard(course, index, (card) => ({ ...card, forMs: within(Math.round(forMs), SHORTEST_MS, LAST_MS) }));

/** The course with a card held at another height, in mm from its sensor. */
export const cardHeight = (course: Course, index: number, heightMm: number): Course =>
  withCard(course, index, (card) => ({ ...card, heightMm: within(Math.round(heightMm), 0, FARTHEST_MM) }));

/** The course with a button pressed at another time, in ms. */
export const pressAt = (course: Course, index: number, atMs: number): Course => ({
  ...course,
  presses: course.presses.map(
    (press, i): Press => (i === index ? { ...press, atMs: within(Math.round(atMs), 0, LAST_MS) } : press),
  ),
});
