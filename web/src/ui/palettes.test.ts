import { displayToLinear, hexToRgb } from "@perceptum/core/colour";
import { describe, expect, it } from "vitest";
import { PALETTES } from "./palettes";

const luminance = (hex: string) => {
  const [r, g, b] = hexToRgb(hex).map(displayToLinear);
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
};
/** The contrast of two greys (WCAG 2.2). */
const contrast = (a: string, b: string) => {
  const [dark, light] = [luminance(a), luminance(b)].sort((x, y) => x - y);
  return (light + 0.05) / (dark + 0.05);
};

describe.each(Object.entries(PALETTES))("the %s theme", (_, palette) => {
  const grounds = [palette.panel, palette.sheet, palette.pressed, palette.hatch];

  it("has words that stand out from every ground they stand on", () => {
    for (const ink of [palette.ink, palette.ink2, palette.ink3])
      for (const ground of grounds) expect(contrast(ink, ground), `${ink} on ${ground}`).toBeGreaterThanOrEqual(4.5);
  });

  it("has edges of fields and buttons that can be seen", () => {
    for (const ground of [palette.panel, palette.sheet])
      expect(contrast(palette.edge, ground), `on ${ground}`).toBeGreaterThanOrEqual(3);
  });
});
