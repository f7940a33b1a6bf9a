import { linearToDisplay } from "@perceptum/core/colour";

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
