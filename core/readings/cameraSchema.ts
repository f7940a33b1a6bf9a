import * as z from "zod";

/** The largest frame that a camera may give, in px. */
export const MOST_FRAME = { width: 1920, height: 1200 } as const;
/** The largest square that a mask is cleaned with reaches so many px to each side. */
export const MOST_CLEAN = 10;

const Px = z.number().int().min(0);

/** The part of a frame that counts, in px of it upright: its first row and column, and the first that no longer count. */
export const Strip = z
  .strictObject({ top: Px, bottom: Px, left: Px, right: Px })
  .refine(({ top, bottom }) => bottom > top, "the strip's end must lie below its first row")
  .refine(({ left, right }) => right > left, "the strip's end must lie right of its first column");

/** How a mask is cleaned: squares that reach so many px to each side. Outside the strip nothing is in the mask. */
export const Clean = z.strictObject({
  /** First the pixels go whose square is not wholly in the mask. */
  erode: z.number().int().min(0).max(MOST_CLEAN),
  /** Then every pixel comes that has one of the rest in its square. */
  dilate: z.number().int().min(0).max(MOST_CLEAN),
});

/** What a sensor that gives frames has beside what every sensor has. Lengths in px of the upright frame. */
export const cameraParts = {
  frame: z
    .strictObject({
      width: z.number().int().min(8).max(MOST_FRAME.width),
      height: z.number().int().min(8).max(MOST_FRAME.height),
      rows: z.enum(["top first", "bottom first"]),
    })
    .optional(),
  strip: Strip.optional(),
  clean: Clean.optional(),
  /** A blob has at least so many px. */
  minArea: z.number().int().min(1).max(1_000_000).optional(),
  /** From which column a blob's error is counted; the frame's middle unless said. */
  setPoint: z.number().min(0).max(MOST_FRAME.width).optional(),
  /** Its values are those of pictures (sRGB, IEC 61966-2-1), or in proportion to the light. */
  values: z.enum(["srgb", "linear"]).optional(),
  /**
   * For the simulation: how wide it sees, in degrees across, and whether its exposure goes by the scene, as a camera's
   * does, or is held.
   */
  camera: z
    .strictObject({ viewDeg: z.number().min(5).max(150), exposure: z.enum(["auto", "held"]).optional() })
    .optional(),
};

const Parts = z.object(cameraParts);
type Parts = z.infer<typeof Parts>;
export type Strip = z.infer<typeof Strip>;
export type Clean = z.infer<typeof Clean>;

/** The parts that only a camera has, and whether it needs them. */
const NEEDED: Record<keyof Parts, boolean> = {
  frame: true,
  strip: false,
  clean: true,
  minArea: true,
  setPoint: false,
  values: false,
  camera: true,
};

/** What is wrong with the camera's parts of a sensor, each with its place. */
export function cameraFaults(parts: Parts, isCamera: boolean): { message: string; path: string[] }[] {
  const faults: { message: string; path: string[] }[] = [];
  for (const [key, needed] of Object.entries(NEEDED) as [keyof Parts, boolean][]) {
    if (isCamera && needed && parts[key] === undefined)
      faults.push({ message: `a sensor that reports frames needs ${key}`, path: [key] });
    if (!isCamera && parts[key] !== undefined)
      faults.push({ message: `only a sensor that reports frames has ${key}`, path: [key] });
  }
  const { frame, strip, setPoint } = parts;
  if (frame === undefined) return faults;
  const { width, height } = frame;
  if (strip !== undefined && (strip.right > width || strip.bottom > height))
    faults.push({ message: `the strip reaches out of the frame of ${width} × ${height} px`, path: ["strip"] });
  if (setPoint !== undefined && setPoint > width - 1)
    faults.push({ message: `the set point lies right of the frame, which is ${width} px wide`, path: ["setPoint"] });
  return faults;
}
