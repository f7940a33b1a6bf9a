import { decodePng, withoutAlpha } from "@perceptum/core/png";
import { MOST_FRAME } from "@perceptum/core/readings";
import type { Frame } from "@perceptum/core/vision";
import jpeg from "jpeg-js";

const isJpeg = (bytes: Uint8Array) => bytes[0] === 0xff && bytes[1] === 0xd8;

/** The frame in a PNG or JPEG, such as a robot's camera sends. @throws RangeError with a sentence */
export function frameOf(bytes: Uint8Array): Frame {
  return isJpeg(bytes) ? fromJpeg(bytes) : decodePng(bytes);
}

/** @throws RangeError with a sentence */
function fromJpeg(bytes: Uint8Array): Frame {
  try {
    const { width, height, data } = jpeg.decode(bytes, {
      useTArray: true,
      maxResolutionInMP: (MOST_FRAME.width * MOST_FRAME.height) / 1e6,
    });
    return { width, height, channels: 3, data: withoutAlpha(data) };
  } catch (error) {
    throw new RangeError(
      /resolution/.test((error as Error).message)
        ? `the picture is larger than ${MOST_FRAME.width} × ${MOST_FRAME.height} px`
        : "the JPEG is damaged or cut off",
    );
  }
}
