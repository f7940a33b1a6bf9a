import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { laidIn, rectOf, zoomed, zoomedAt } from "./frameLayout";

const frame = { width: 160, height: 120 };
const room = { width: 640, height: 300 };
const fits = laidIn(room.width, room.height, frame);
const within = fc.record({ x: fc.integer({ min: 200, max: 440 }), y: fc.integer({ min: 20, max: 280 }) });

describe("a frame on the screen", () => {
  it("lies as large as it fits, in the middle", () => {
    expect(fits).toEqual({ scale: 2.5, left: 120, top: 0 });
  });

  it("keeps the place under the pointer when it is enlarged, as long as it covers the room", () => {
    fc.assert(
      fc.property(within, fc.double({ min: 2, max: 12, noNaN: true }), (at, by) => {
        const zoom = zoomedAt(fits, fits, by, at, room.width, room.height);
        const laid = zoomed(fits, zoom, room.width, room.height, frame);
        expect(laid.scale).toBeCloseTo(fits.scale * by, 9);
        const place = (l: typeof laid) => [(at.x - l.left) / l.scale, (at.y - l.top) / l.scale];
        const held = laid.left < 0 && laid.left + frame.width * laid.scale > room.width;
        const [was, is] = [place(fits), place(laid)];
        if (held) expect(is[0]).toBeCloseTo(was[0], 6);
        expect(is[1]).toBeCloseTo(was[1], 6);
      }),
    );
  });

  it("never leaves room beside it that it could cover, however it is moved", () => {
    const place = fc.double({ min: -500, max: 500, noNaN: true });
    fc.assert(
      fc.property(fc.double({ min: 1, max: 40, noNaN: true }), place, place, (by, column, row) => {
        const { scale, left, top } = zoomed(fits, { by, column, row }, room.width, room.height, frame);
        for (const [start, length, most] of [
          [left, frame.width * scale, room.width],
          [top, frame.height * scale, room.height],
        ]) {
          if (length <= most) expect(start).toBeCloseTo((most - length) / 2, 6);
          else expect(start <= 1e-9 && start + length >= most - 1e-6).toBe(true);
        }
      }),
    );
  });

  it("is whole again where it would become smaller than it fits, and no pixel becomes larger than 40 times that", () => {
    const zoom = zoomedAt(fits, fits, 3, { x: 300, y: 100 }, room.width, room.height);
    const laid = zoomed(fits, zoom, room.width, room.height, frame);
    expect(zoomedAt(fits, laid, 1 / 3, { x: 0, y: 0 }, room.width, room.height)).toBeNull();
    expect(zoomedAt(fits, laid, 1000, { x: 0, y: 0 }, room.width, room.height)?.by).toBe(40);
  });

  it("has a rectangle from two pixels in any order, within the frame", () => {
    expect(rectOf({ column: 30, row: 50 }, { column: 10, row: 20 }, frame)).toEqual({
      left: 10,
      top: 20,
      width: 21,
      height: 31,
    });
    expect(rectOf({ column: -5, row: 100 }, { column: 500, row: 119 }, frame)).toEqual({
      left: 0,
      top: 100,
      width: 160,
      height: 20,
    });
  });
});
