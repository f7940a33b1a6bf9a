import { describe, expect, it } from "vitest";
import { movedSide } from "./movedSide";

const frame = { width: 160, height: 120, rows: "top first" as const };

describe("a side of the strip that is moved", () => {
  it("makes a strip of the whole frame, and gives none back where it is whole again", () => {
    const strip = movedSide({ frame }, "top", 60.4);
    expect(strip).toEqual({ top: 60, bottom: 120, left: 0, right: 160 });
    expect(movedSide({ frame, strip }, "top", -3)).toBeUndefined();
  });

  it.each([
    ["top", 500, { top: 99, bottom: 100, left: 10, right: 20 }],
    ["bottom", -5, { top: 40, bottom: 41, left: 10, right: 20 }],
    ["left", 90, { top: 40, bottom: 100, left: 19, right: 20 }],
    ["right", 3, { top: 40, bottom: 100, left: 10, right: 11 }],
    ["right", 900, { top: 40, bottom: 100, left: 10, right: 160 }],
  ] as const)("keeps a row and a column within the frame: %s to %i", (side, to, strip) => {
    expect(movedSide({ frame, strip: { top: 40, bottom: 100, left: 10, right: 20 } }, side, to)).toEqual(strip);
  });
});
