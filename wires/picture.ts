import { decodePng, sizeOfPng, withoutAlpha } from "@perceptum/core/png";
import { MOST_FRAME } from "@perceptum/core/readings";
import type { Frame } from "@perceptum/core/vision";
import jpeg from "jpeg-js";

interface Size {
  width: number;
  height: number;
}

const isJpeg = (bytes: Uint8Array) => bytes[0] === 0xff && bytes[1] === 0xd8;

/** The size of a picture from its head; undefined where it is no PNG or JPEG. */
export const sizeOfPicture = (bytes: Uint8Array): Size | undefined =>
  isJpeg(bytes) ? sizeOfJpeg(bytes) : sizeOfPng(bytes);

/** The frame in a PNG or JPEG, such as a robot's camera sends. @throws RangeError with a sentence */
export function frameOf(bytes: Uint8Array): Frame {
  return isJpeg(bytes) ? fromJpeg(bytes) : decodePng(bytes);
}

/** The size in the frame header (SOF0 to SOF15 but for DHT, JPG and DAC) of ISO 10918-1, B.2.2. */
function sizeOfJpeg(bytes: Uint8Array): Size | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 2; at + 9 < bytes.length; ) {
    if (bytes[at] !== 0xff) return undefined;
    const marker = bytes[at + 1];
    if (marker === 0xff) at++;
    else if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker))
      return { width: view.getUint16(at + 7), height: view.getUint16(at + 5) };
    else at += 2 + view.getUint16(at + 2);
  }
  return undefined;
}

/** @throws RangeError with a sentence */
function fromJpeg(bytes: Uint8Array): Frame {
  const size = sizeOfJpeg(bytes);
  if (size !== undefined && (size.width > MOST_FRAME.width || size.height > MOST_FRAME.height))
    throw new RangeError(`the picture is larger than ${MOST_FRAME.width} × ${MOST_FRAME.height} px`);
  try {
    const { width, height, data } = jpeg.decode(bytes, {
      useTArray: true,
      maxResolutionInMP: (MOST_FRAME.width * MOST_FRAME.height) / 1e6,
    });
    return { width, height, channels: 3, data: withoutAlpha(data) };
  } catch {
    throw new RangeError("the JPEG is damaged or cut off");
  }
}
