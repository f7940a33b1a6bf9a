import { sinCos } from "@perceptum/core/arithmetic";
import type { CourseId, RuleSetId, SensorId, TargetId } from "@perceptum/core/names";
import { encodePng } from "@perceptum/core/png";
import { newCamera } from "@perceptum/core/project";
import type { Light } from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import type { Frame } from "@perceptum/core/vision";
import { Camera, type DrawnCourse, drawn, emptyCourse, truthBoxes } from "@perceptum/core/world";

/** What stands and lies about in the pictures. */
export const PAINTS: Readonly<Record<string, string>> = {
  floor: "#64666a",
  coral: "#e4573d",
  teal: "#12868a",
  amber: "#e8a317",
  ink: "#15161a",
  leaf: "#3f9b4f",
};

export const OVERCAST = { rgb: [1, 1, 1], level: 0.4 };
export const EVENING = { rgb: [1.55, 0.85, 0.34], level: 0.28 };

/** A rectangle of a picture that shows nothing but one thing. */
export interface Shown {
  target: string;
  left: number;
  top: number;
  width: number;
  height: number;
}

export interface Picture {
  png: Uint8Array<ArrayBuffer>;
  frame: Frame;
  shows: readonly Shown[];
}

/** A picture of a course, taken by the simulated camera with a fixed seed; `order` is how its colours come. */
export function pictureOf(
  course: Partial<Pick<DrawnCourse, "patches" | "lines" | "signs">>,
  from: { x: number; y: number; heading: number },
  light: { rgb: readonly number[]; level: number },
  { order = "rgb", number = 0 }: { order?: "rgb" | "bgr"; number?: number } = {},
): Picture {
  const sensor = newCamera("eye" as SensorId, "Eye", "eye" as RuleSetId, { width: 320, height: 240 });
  const targets = Object.entries(PAINTS).map(([id, paint]) => ({ id, paint, kind: "tag" }) as unknown as Target);
  const laid: DrawnCourse = {
    ...drawn(emptyCourse("bed" as CourseId, "Bed", "floor" as TargetId), 1),
    ...course,
  };
  const mount = { sensor: sensor.id, x: 30, y: 0, z: 180, looks: "ahead" as const, tilt: 25 };
  const camera = new Camera({ ...sensor, order }, mount, light as unknown as Light, laid, targets, 11);
  const { sin, cos } = sinCos(from.heading);
  const frame = camera.take({ x: from.x, y: from.y, sin, cos }, number);
  const shows = truthBoxes(camera.truth, 320, 240) as readonly Shown[];
  return { png: encodePng(frame), frame: { ...frame, data: frame.data.slice() }, shows };
}

const sign = (target: string, x: number, y: number) => ({
  target: target as TargetId,
  at: [x, y] as [number, number],
  angle: 180,
  width: 110,
  height: 110,
});

/** Three boxes beside one another before the cart. */
export const threeBoxes = {
  signs: [sign("coral", 640, 760), sign("teal", 620, 600), sign("amber", 640, 440)],
};

/** A film of one picture after the other as YUV 4:2:0 (YUV4MPEG2), as a browser's fake camera takes it. */
export function filmOf(pictures: readonly Picture[], each: number): Buffer {
  const { width, height } = pictures[0].frame;
  const parts: Buffer[] = [Buffer.from(`YUV4MPEG2 W${width} H${height} F20:1 Ip A1:1 C420jpeg\n`)];
  for (const { frame } of pictures) {
    const luma = Buffer.alloc(width * height);
    const [cb, cr] = [Buffer.alloc((width * height) / 4), Buffer.alloc((width * height) / 4)];
    const at = (column: number, row: number) =>
      frame.data.subarray(3 * (row * width + column), 3 * (row * width + column) + 3);
    // ITU-R BT.601 in full range.
    for (let row = 0; row < height; row++)
      for (let column = 0; column < width; column++) {
        const [r, g, b] = at(column, row);
        luma[row * width + column] = Math.round(0.299 * r + 0.587 * g + 0.114 * b);
        if (row % 2 === 1 || column % 2 === 1) continue;
        const place = (row / 2) * (width / 2) + column / 2;
        cb[place] = Math.round(128 - 0.168736 * r - 0.331264 * g + 0.5 * b);
        cr[place] = Math.round(128 + 0.5 * r - 0.418688 * g - 0.081312 * b);
      }
    for (let k = 0; k < each; k++) parts.push(Buffer.from("FRAME\n"), luma, cb, cr);
  }
  return Buffer.concat(parts);
}
