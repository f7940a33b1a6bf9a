import { crc32, deflateSync } from "node:zlib";
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

/** A PNG put together by hand: the head, chunks between, and rows that are packed as they are. */
function pngOf(
  head: { width: number; height: number; interlaced?: boolean },
  rows: Uint8Array,
  more: [string, Uint8Array][] = [],
) {
  const chunk = (kind: string, data: Uint8Array) => {
    const body = Buffer.concat([Buffer.from(kind, "latin1"), data]);
    const length = Buffer.alloc(4);
    length.writeUInt32BE(data.length);
    const sum = Buffer.alloc(4);
    sum.writeUInt32BE(crc32(body));
    return Buffer.concat([length, body, sum]);
  };
  const ihdr = Buffer.alloc(13);
  ihdr.writeUInt32BE(head.width, 0);
  ihdr.writeUInt32BE(head.height, 4);
  ihdr.set([8, 2, 0, 0, head.interlaced ? 1 : 0], 8);
  return new Uint8Array(
    Buffer.concat([
      Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
      chunk("IHDR", ihdr),
      ...more.map(([kind, data]) => chunk(kind, data)),
      chunk("IDAT", deflateSync(rows)),
      chunk("IEND", new Uint8Array()),
    ]),
  );
}

describe("a PNG that another program wrote", () => {
  it("is read where its rows come in seven passes", () => {
    const [width, height] = [11, 9];
    const colour = (x: number, y: number) => [x * 20, y * 25, x + y];
    const passes = [
      [0, 0, 8, 8],
      [0, 4, 8, 8],
      [4, 0, 8, 4],
      [0, 2, 4, 4],
      [2, 0, 4, 2],
      [0, 1, 2, 2],
      [1, 0, 2, 1],
    ];
    const rows = passes.flatMap(([top, left, down, right]) => {
      const made: number[] = [];
      for (let y = top; y < height; y += down) {
        made.push(0);
        for (let x = left; x < width; x += right) made.push(...colour(x, y));
      }
      return made;
    });
    const { data } = decodePng(pngOf({ width, height, interlaced: true }, Uint8Array.from(rows)));
    const plain = Array.from({ length: width * height }, (_, i) => colour(i % width, Math.floor(i / width))).flat();
    expect([...data]).toEqual(plain);
  });

  it("that would become far larger than its head says is refused", () => {
    const bomb = pngOf({ width: 160, height: 120 }, new Uint8Array(100 * 1024 * 1024));
    expect(bomb.length).toBeLessThan(120_000);
    expect(() => decodePng(bomb)).toThrow("holds more than the size in its head says");
  });

  it("has nothing unpacked that is no picture", () => {
    const profile: [string, Uint8Array] = ["iCCP", Buffer.from("icc\0\0 nothing that could be unpacked", "latin1")];
    expect([...decodePng(pngOf({ width: 1, height: 1 }, Uint8Array.from([0, 7, 8, 9]), [profile])).data]).toEqual([
      7, 8, 9,
    ]);
  });
});
