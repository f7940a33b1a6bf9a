import { describe, expect, it } from "vitest";
import { PICTURE_NAMES, pictureRows } from ".";

describe("the pictures of a display", () => {
  it("are at least twelve, each 16 × 8, and no two alike", () => {
    expect(PICTURE_NAMES.length).toBeGreaterThanOrEqual(12);
    const drawn = PICTURE_NAMES.map((name) => pictureRows(name));
    for (const rows of drawn) expect(rows.map((row) => row.length)).toEqual(Array(8).fill(16));
    for (const rows of drawn) expect(rows.flat().filter(Boolean).length).toBeGreaterThan(15);
    expect(new Set(drawn.map((rows) => JSON.stringify(rows))).size).toBe(drawn.length);
  });
});
