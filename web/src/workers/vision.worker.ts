import { at } from "@perceptum/contract/paths";
import { decodePng, sizeOfPng } from "@perceptum/core/png";
import { MOST_FRAME } from "@perceptum/core/readings";
import type { Frame } from "@perceptum/core/vision";
import { expose, transfer } from "comlink";
import { ask } from "../server/ask";
import { frameOfPixels, type Looked, type Packed, type ShownFrame, Vision } from "./Vision";

let project = "";

/** @throws Error with a sentence */
async function load(name: string): Promise<Uint8Array> {
  const response = await ask(at("frame", { id: project, name }));
  if (!response.ok) throw new Error("a frame of this tape is not on the server");
  return new Uint8Array(await response.arrayBuffer());
}

/** A picture that was taken in: packed, or what is wrong with it. */
export interface TakenPicture {
  packed: Packed | null;
  wrong: string;
}

/** A picture that was looked at, and packed where it is to be kept. */
export interface Taken {
  /** As large as it came. */
  size: { width: number; height: number };
  shown: ShownFrame;
  looked: Looked;
  packed: Packed | null;
}

/** Frames in a thread of their own; what is large is handed over, not copied. */
class VisionInWorker extends Vision {
  begin(id: string): void {
    project = id;
  }

  override async shown(name: string): Promise<ShownFrame> {
    const shown = await super.shown(name);
    return transfer(shown, [shown.data.buffer]);
  }

  override async look(name: string, label: number): Promise<Looked> {
    const looked = await super.look(name, label);
    return transfer(looked, [looked.mask.buffer]);
  }

  /** A small picture of a frame, so many px high. */
  async thumb(name: string, height: number): Promise<ImageBitmap> {
    const { width, height: high, data } = await super.shown(name);
    const bitmap = await createImageBitmap(new ImageData(data, width, high), {
      resizeHeight: height,
      resizeWidth: Math.max(1, Math.round((width * height) / high)),
      resizeQuality: "medium",
    });
    return transfer(bitmap, [bitmap]);
  }

  /** Takes in the picture of a file; scaled to a size, where one is given. */
  async take(file: Blob, size: { width: number; height: number } | null): Promise<TakenPicture> {
    let frame: Frame;
    try {
      ({ frame } = await pictureIn(file, size));
    } catch (error) {
      const wrong = error instanceof RangeError ? error.message : "it is no picture that the browser can read";
      return { packed: null, wrong };
    }
    return { packed: await this.pack(frame), wrong: "" };
  }

  /** Looks at pixels as the screen shows them: upright, red before green before blue. Packs them where they are to be kept. */
  async lookAtPixels(
    width: number,
    height: number,
    rgba: Uint8ClampedArray<ArrayBuffer>,
    label: number,
    keep: boolean,
  ): Promise<Taken> {
    const frame = this.wired(frameOfPixels(width, height, rgba));
    const looked = this.lookAt(frame, label);
    const packed = keep ? await this.pack(frame) : null;
    const shown = { width, height, data: rgba };
    return transfer({ size: { width, height }, shown, looked, packed }, [rgba.buffer, looked.mask.buffer]);
  }

  /** Looks at a picture as a camera sent it, which is packed where it is to be kept. @throws RangeError with a sentence */
  async lookAtPicture(
    file: Blob,
    size: { width: number; height: number },
    label: number,
    keep: boolean,
  ): Promise<Taken> {
    const { frame, size: came } = await pictureIn(file, size).catch((error: unknown) => {
      throw error instanceof RangeError ? error : new RangeError("it is no picture that the browser can read");
    });
    const shown = this.showing(frame);
    const looked = this.lookAt(frame, label);
    const packed = keep ? await this.pack(frame) : null;
    return transfer({ size: came, shown, looked, packed }, [shown.data.buffer, looked.mask.buffer]);
  }

  /** Takes in pixels as red, green, blue and alpha, upright; `wired`: as the present sensor would send them. */
  takePixels(width: number, height: number, rgba: Uint8ClampedArray, wired: boolean): Promise<Packed> {
    const frame = frameOfPixels(width, height, rgba);
    return this.pack(wired ? this.wired(frame) : frame);
  }
}

/** @throws RangeError with a sentence, or what the browser throws for what it cannot read */
async function pictureIn(
  file: Blob,
  size: { width: number; height: number } | null,
): Promise<{ frame: Frame; size: { width: number; height: number } }> {
  const head = new Uint8Array(await file.slice(0, 24).arrayBuffer());
  const png = sizeOfPng(head);
  // Byte for byte as it was written, without what a browser does to colours.
  if (png !== undefined && (size === null || (size.width === png.width && size.height === png.height)))
    return { frame: decodePng(new Uint8Array(await file.arrayBuffer())), size: png };
  const bitmap = await createImageBitmap(file, { colorSpaceConversion: "none", premultiplyAlpha: "none" });
  const came = { width: bitmap.width, height: bitmap.height };
  const { width, height } = size ?? came;
  if (width > MOST_FRAME.width || height > MOST_FRAME.height)
    throw new RangeError(`it has ${width} × ${height} px; at most ${MOST_FRAME.width} × ${MOST_FRAME.height} are read`);
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext("2d", { willReadFrequently: true });
  if (context === null) throw new RangeError("the browser has no memory left for it");
  context.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  return { frame: frameOfPixels(width, height, context.getImageData(0, 0, width, height).data), size: came };
}

export type VisionWorker = VisionInWorker;
expose(new VisionInWorker(load));
