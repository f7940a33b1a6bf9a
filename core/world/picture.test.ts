import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { TargetId } from "../names";
import { coloursOf, PictureError, type Pixels, patchesFromPicture } from ".";

/** A picture of letters, each a colour: K black, R red, G green. */
function picture(...rows: string[]): Pixels {
  const paint = { K: [0, 0, 0], R: [220, 30, 30], G: [30, 200, 40] } as Record<string, number[]>;
  const data = rows.flatMap((row) => [...row].flatMap((letter) => [...paint[letter], 255]));
  return { data, width: rows[0].length, height: rows.length };
}
const red = "red" as TargetId;
const green = "green" as TargetId;

describe("a picture", () => {
  it("has its colours, the commonest first, near ones as one", () => {
    const colours = coloursOf(picture("KKKK", "KRRK", "KKKG"));
    expect(colours.map((c) => c.rgb)).toEqual([
      [0, 0, 0],
      [220, 30, 30],
      [30, 200, 40],
    ]);
    expect(colours[0].share).toBeCloseTo(9 / 12, 9);
    const soft: Pixels = { data: [100, 100, 100, 255, 120, 104, 96, 255], width: 2, height: 1 };
    expect(coloursOf(soft)).toHaveLength(1);
  });

  it("becomes rectangles with y upwards, equal cells taken together", () => {
    const pixels = picture("KKKK", "KRRK", "KRRK", "KKKG");
    const made = patchesFromPicture(pixels, 400, coloursOf(pixels), [null, red, green], 100);
    expect(made.size).toEqual([400, 400]);
    expect(made.patches).toEqual([
      { id: "patch-1", shape: { rect: [200, 200] }, target: red, at: [200, 200], angle: 0 },
      { id: "patch-2", shape: { rect: [100, 100] }, target: green, at: [350, 50], angle: 0 },
    ]);
  });

  it("is covered exactly, whatever it shows", () => {
    const rows = fc.array(fc.stringMatching(/^[KRG]{6}$/), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(rows, (lines) => {
        const pixels = picture(...lines);
        const colours = coloursOf(pixels);
        const targets = colours.map(({ rgb }) => (rgb[0] > 100 ? red : rgb[1] > 100 ? green : null));
        const { patches } = patchesFromPicture(pixels, 600, colours, targets, 100);
        const area = patches.reduce((sum, p) => sum + ("rect" in p.shape ? p.shape.rect[0] * p.shape.rect[1] : 0), 0);
        const cells = lines.join("").replaceAll("K", "").length;
        expect(area).toBeCloseTo(cells * 10_000, 3);
      }),
    );
  });

  it("that would give too many patches is refused", () => {
    const rows = Array.from({ length: 102 }, (_, i) => (i % 2 === 0 ? "RK" : "KR").repeat(51));
    const pixels = picture(...rows);
    expect(() => patchesFromPicture(pixels, 102, coloursOf(pixels), [red, null], 1)).toThrow(PictureError);
  });
});
