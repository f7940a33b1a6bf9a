import type { DrawnCourse, Shape } from "@perceptum/core/world";

/** How large names are written on a course, in mm, where so many mm are a CSS pixel: never too small to be read. */
export const labelMm = (mmPerPixel: number) => Math.max(30, 11 * mmPerPixel);

interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** How far a shape reaches up from its own place, unturned, in mm. */
export const topOf = (shape: Shape) =>
  "rect" in shape ? shape.rect[1] / 2 : "disc" in shape ? shape.disc / 2 : Math.max(...shape.polygon.map((p) => p[1]));

/** How far below a patch's middle its code stands, in mm. */
export const codeBelow = (shape: Shape) => ("rect" in shape && shape.rect[1] > 100 ? shape.rect[1] / 2 - 10 : 10);

/** The box of a text that stands with its middle at x and its foot at y. */
const textBox = (text: string, x: number, y: number, size: number): Box => ({
  x: x - 0.31 * text.length * size,
  y,
  w: 0.62 * text.length * size,
  h: size,
});

const overlaps = (a: Box, b: Box) => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

/**
 * Where each zone's name stands on a course: how far above the zone's middle its foot is, in mm. Within the zone at its
 * top or bottom, or beside it above or below: the first of these where it covers no other name and no patch's code.
 */
export function zoneLabels(
  { zones, patches }: Pick<DrawnCourse, "zones"> & { patches: readonly { shape: Shape; at: [number, number] }[] },
  codeOf: (patch: number) => string,
  size: number,
): number[] {
  const taken = patches.map(({ shape, at: [x, y] }, i) => textBox(codeOf(i), x, y - codeBelow(shape), size));
  return zones.map(({ name, shape, at: [x, y] }) => {
    const top = topOf(shape);
    const places = [top - size - 4, 4 - top, top + 6, -top - size - 6];
    const free = places.find((up) => !taken.some((box) => overlaps(box, textBox(name, x, y + up, size)))) ?? places[0];
    taken.push(textBox(name, x, y + free, size));
    return free;
  });
}
