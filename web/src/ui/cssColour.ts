import { linearToDisplay } from "@perceptum/core/colour";
import type { ReadingBlock } from "@perceptum/core/readings";

/** Bytes for the screen, by thousandths of linear light. */
const SHOWN = Uint8Array.from({ length: 1001 }, (_, i) => Math.round(linearToDisplay(i / 1000) * 255));

/** A channel 0..1 of a sensor, which is linear in light, as a byte for the screen. */
export function shownByte(v: number): number {
  return SHOWN[v <= 0 ? 0 : v >= 1 ? 1000 : Math.round(v * 1000)];
}

/** What a sensor saw as a CSS colour that looks like it. */
export function cssColour(r: number, g: number, b: number): string {
  return `rgb(${shownByte(r)} ${shownByte(g)} ${shownByte(b)})`;
}

/**
 * What each reading of a block looks like: its colour; of a sensor that gives only a hue that hue, of one that gives
 * only an amount of light its grey; of codes a grey by the code.
 */
export function colourOf(block: ReadingBlock): (index: number) => string {
  if (block.features.includes("val")) {
    const [r, g, b] = (["r", "g", "b"] as const).map((f) => block.column(f));
    if (block.isShown) return (i) => `rgb(${[r, g, b].map((x) => Math.round(x[i] * 255)).join(" ")})`;
    return (i) => cssColour(r[i], g[i], b[i]);
  }
  if (block.features.includes("hue")) {
    const hue = block.column("hue");
    return (i) => `hsl(${Math.round(hue[i])} 70% 50%)`;
  }
  if (block.features.includes("reflected")) {
    const reflected = block.column("reflected");
    return (i) => cssColour(reflected[i], reflected[i], reflected[i]);
  }
  const code = block.column("code");
  return (i) =>
    cssColour(...(Array(3).fill(code[i] === 0 ? 0.9 : 0.1 + ((code[i] * 37) % 60) / 100) as [number, number, number]));
}
