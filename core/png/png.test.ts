import fc from "fast-check";
import { encode } from "fast-png";
import { describe, expect, it } from "vitest";
import { decodePng, encodePng, sizeOfPng } from ".";

const drawnFrame = fc
  .record({ width: fc.integer({ min: 1, max: 40 }), height: fc.integer({ min: 1, max: 30 }) })
  .chain(({ width, height }) =>
    fc.uint8Array({ minLength: 3 * width * height, maxLength: 3 * width * height }).map((data) => ({
      width,
      height,
      channels: 3 as const,
      data,
    })),
  );

describe("a frame as PNG", () => {
  it("comes back byte for byte", () => {
    fc.assert(
      fc.property(drawnFrame, (frame) => {
        const png = encodePng(frame);
        expect(sizeOfPng(png)).toEqual({ width: frame.width, height: frame.height });
        const back = decodePng(png);
        expect([back.width, back.height, back.channels]).toEqual([frame.width, frame.height, 3]);
        expect(Buffer.from(back.data)).toEqual(Buffer.from(frame.data));
      }),
    );
  });

  it("is read from PNG of other kinds", () => {
    const one = (png: Parameters<typeof encode>[0]) => [...decodePng(encode(png)).data];
    expect(one({ width: 2, height: 1, channels: 1, depth: 8, data: new Uint8Array([9, 200]) })).toEqual([
      9, 9, 9, 200, 200, 200,
    ]);
    expect(one({ width: 1, height: 1, channels: 4, depth: 8, data: new Uint8Array([1, 2, 3, 128]) })).toEqual([
      1, 2, 3,
    ]);
    expect(one({ width: 1, height: 1, channels: 3, depth: 16, data: new Uint16Array([256, 65535, 511]) })).toEqual([
      1, 255, 1,
    ]);
    // Two rows of three greys of one bit: each row begins at a byte of its own.
    expect(one({ width: 3, height: 2, channels: 1, depth: 1, data: new Uint8Array([0b10100000, 0b01000000]) })).toEqual(
      [255, 0, 255, 0, 255, 0].flatMap((v) => [v, v, v]),
    );
    const palette = [
      [1, 2, 3],
      [7, 8, 9],
    ];
    expect(one({ width: 2, height: 1, channels: 1, depth: 8, palette, data: new Uint8Array([1, 0]) })).toEqual([
      7, 8, 9, 1, 2, 3,
    ]);
  });

  it("that is none, is cut off or is too large is refused with a sentence", () => {
    const png = encodePng({ width: 4, height: 4, channels: 3, data: new Uint8Array(48).fill(7) });
    expect(() => decodePng(new TextEncoder().encode("no picture at all, but long enough"))).toThrow(
      "this is not a PNG",
    );
    expect(() => decodePng(png.slice(0, png.length - 30))).toThrow("damaged or cut off");
    const huge = png.slice();
    new DataView(huge.buffer).setUint32(16, 60_000);
    expect(() => decodePng(huge)).toThrow("60000 × 4 px; at most 1920 × 1200");
  });
});
