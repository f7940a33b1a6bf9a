import type { CourseId, TargetId } from "@perceptum/core/names";
import { type Course, courseKindOf, emptyCourse } from "@perceptum/core/world";
import { describe, expect, it } from "vitest";
import { cardAt, cardFor, cardHeight, pressAt } from "./cardEdit";
import { timesScale } from "./timesScale";

const course: Course = {
  ...emptyCourse("desk" as CourseId, "Desk", "table" as TargetId, "hand"),
  cards: [
    { id: "card-1" as never, target: "coral" as TargetId, atMs: 500, forMs: 1000 },
    { id: "card-2" as never, target: "teal" as TargetId, atMs: 2000, forMs: 1000, heightMm: 18 },
  ],
  presses: [{ id: "press-1" as never, button: "go", atMs: 4000, forMs: 300 }],
};

describe("what is held up", () => {
  it("is moved in time and height, the others stay as they are", () => {
    const moved = cardHeight(cardFor(cardAt(course, 0, 700), 0, 400), 0, 12.4);
    expect(moved.cards).toEqual([{ target: "coral", atMs: 700, forMs: 400, heightMm: 12 }, course.cards[1]]);
    expect(pressAt(course, 0, 4200).presses).toEqual([
      { id: "press-1" as never, button: "go", atMs: 4200, forMs: 300 },
    ]);
  });

  it("never begins before the run, and lasts at least 50 ms", () => {
    expect(cardAt(course, 0, -200).cards[0].atMs).toBe(0);
    expect(cardFor(course, 0, -200).cards[0].forMs).toBe(50);
    expect([cardHeight(course, 1, -3), cardHeight(course, 1, 900)].map((c) => c.cards[1].heightMm)).toEqual([0, 500]);
    expect(pressAt(course, 0, -1).presses[0].atMs).toBe(0);
  });

  it("is drawn over the whole time that a run may take", () => {
    const { endMs, perMs } = timesScale(course, 60, 900, 200);
    expect(endMs).toBe(courseKindOf(course).limitMs(course));
    expect(endMs * perMs).toBeLessThan(900);
    expect(timesScale(course, 60, 0, 0).perMm).toBeGreaterThan(0);
  });
});
