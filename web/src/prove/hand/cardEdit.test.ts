import type { CourseId, TargetId } from "@perceptum/core/names";
import { type Course, courseKindOf, emptyCourse } from "@perceptum/core/world";
import { describe, expect, it } from "vitest";
import { heldAt, heldFor, heldFrom } from "./cardEdit";
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
  const [card, other] = course.cards;
  const [press] = course.presses;

  it("is moved in time and height", () => {
    const moved = heldAt(heldFor(heldFrom(card, 700), 400), 12.4);
    expect(moved).toEqual({ id: "card-1", target: "coral", atMs: 700, forMs: 400, heightMm: 12 });
    expect(heldFrom(press, 4200)).toEqual({ id: "press-1", button: "go", atMs: 4200, forMs: 300 });
  });

  it("never begins before the run, and lasts at least 50 ms", () => {
    expect([heldFrom(card, -200).atMs, heldFrom(press, -1).atMs]).toEqual([0, 0]);
    expect(heldFor(card, -200).forMs).toBe(50);
    expect([heldAt(other, -3), heldAt(other, 900)].map(({ heightMm }) => heightMm)).toEqual([0, 500]);
  });

  it("is drawn over the whole time that a run may take", () => {
    const { endMs, perMs } = timesScale(course, 60, 900, 200);
    expect(endMs).toBe(courseKindOf(course).limitMs(course));
    expect(endMs * perMs).toBeLessThan(900);
    expect(timesScale(course, 60, 0, 0).perMm).toBeGreaterThan(0);
  });
});
