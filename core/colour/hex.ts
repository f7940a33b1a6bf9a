/** `#rrggbb` to channels 0..1. */
export function hexToRgb(hex: string): [number, number, number] {
  return [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16) / 255) as [number, number, number];
}

/** Channels 0..1 to `#rrggbb`; what lies beyond is clipped. */
export function rgbToHex(rgb: readonly [number, number, number]): string {
  const two = (x: number) =>
    Math.round(Math.max(0, Math.min(1, x)) * 255)
      .toString(16)
      .padStart(2, "0");
  return `#${rgb.map(two).join("")}`;
}
