/** Which position of the wire holds red, green and blue, for every order in which they can come. */
export const WIRE_ORDER = {
  rgb: [0, 1, 2],
  rbg: [0, 2, 1],
  grb: [1, 0, 2],
  gbr: [2, 0, 1],
  brg: [1, 2, 0],
  bgr: [2, 1, 0],
} as const;
export type WireOrder = keyof typeof WIRE_ORDER;

const COLOURS = { r: "red", g: "green", b: "blue" } as const;

/** The orders in words: `blue, green, red`. */
export const WIRE_ORDERS = (Object.keys(WIRE_ORDER) as WireOrder[]).map((id) => ({
  id,
  text: [...id].map((letter) => COLOURS[letter as keyof typeof COLOURS]).join(", "),
}));
