import { type CameraSensor, type Strip, WIRE_ORDER, type WireOrder } from "../readings";

/** One picture of a camera as it came: `channels` bytes a pixel, of which the first three are colours, row after row. */
export interface Frame {
  width: number;
  height: number;
  channels: 3 | 4;
  data: Uint8Array | Uint8ClampedArray;
}

/** The size of a camera's frames, which row comes first, and in which order its colours come. */
export interface FrameForm {
  width: number;
  height: number;
  rows: "top first" | "bottom first";
  order: WireOrder;
}

/** The form of a camera's frames. */
export const formOf = ({ frame, order = "rgb" }: Pick<CameraSensor, "frame" | "order">): FrameForm => ({
  ...frame,
  order,
});

/** The strip within a frame; all of it where none is named. */
export function stripIn({ width, height }: Pick<Frame, "width" | "height">, strip?: Strip): Strip {
  const { top = 0, bottom = height, left = 0, right = width } = strip ?? {};
  const within = (x: number, most: number) => Math.max(0, Math.min(most, x));
  const from = { top: within(top, height), left: within(left, width) };
  return {
    ...from,
    bottom: Math.max(from.top, within(bottom, height)),
    right: Math.max(from.left, within(right, width)),
  };
}

/** How a pixel of the upright frame is found among the bytes that came. */
export interface PixelPlaces {
  /** The byte of an upright row's first pixel. */
  rowStart(row: number): number;
  /** Where red, green and blue stand in a pixel's bytes. */
  red: number;
  green: number;
  blue: number;
}

export function placesIn({ width, height, channels }: Frame, { rows, order }: FrameForm): PixelPlaces {
  const long = width * channels;
  const [red, green, blue] = WIRE_ORDER[order];
  return { rowStart: (row) => (rows === "top first" ? row : height - 1 - row) * long, red, green, blue };
}
