import { oneLine } from "../names";
import type { ProjectDocument } from "../project";
import { type CameraSensor, isCamera } from "../readings";
import { coded, type Part, quietly, readFns } from "../tree";
import { BLOB_ORDER, formOf, setPointOf, stripIn } from "../vision";
import { numpyText } from "./numpyText";
import { type CodeEye, constant, lasting } from "./rulesTree";

/** How masks are cleaned and blobs are found: the plain way, a square of pixels and a fill. */
const blobFns = readFns(`
fn in_frame(place: int, left: num, top: num, set_point: num, half_frame: num)
  "A blob's middle in px of the frame, how far right of the set point it lies, and half the frame's width."
  blobs[place + 3] += left
  blobs[place + 4] += top
  blobs[place + 5] = blobs[place + 3] - set_point
  blobs[place + 6] = half_frame

fn square(wide: int, high: int, by: int, every: bool)
  "Keeps the pixels of a mask around which every pixel of a square is set, or sets those around which any is."
  if by == 0
    return
  let need = 2 * by + 1 if every else 1
  for row in 0..high
    let count = 0
    for column in 0..min(by, wide)
      count += mask[row * wide + column]
    for column in 0..wide
      if column + by < wide
        count += mask[row * wide + column + by]
      if column > by
        count -= mask[row * wide + column - by - 1]
      square_rows[row * wide + column] = 1 if count >= need else 0
  for column in 0..wide
    let count = 0
    for row in 0..min(by, high)
      count += square_rows[row * wide + column]
    for row in 0..high
      if row + by < high
        count += square_rows[(row + by) * wide + column]
      if row > by
        count -= square_rows[(row - by - 1) * wide + column]
      mask[row * wide + column] = 1 if count >= need else 0

fn find_blob(label: int, place: int, wide: int, high: int, erode: int, dilate: int, least: int)
  "Finds the largest blob of a label among pixels: parts that touch at a side or a corner. Of equal ones the upper counts, then the left."
  let all = wide * high
  for i in 0..all
    mask[i] = 1 if pixels[i] == label else 0
  square(wide, high, erode, true)
  square(wide, high, dilate, false)
  let best = 0
  let best_left = 0
  let best_top = 0
  let best_right = 0
  let best_bottom = 0
  for i in 0..all
    if mask[i] == 1
      mask[i] = 0
      to_fill[0] = i
      let waiting = 1
      let area = 0
      let west = wide
      let east = 0
      let north = high
      let south = 0
      while waiting > 0
        waiting -= 1
        let pixel = to_fill[waiting]
        let x = pixel % wide
        let y = whole(floor((pixel + 0.0) / wide))
        area += 1
        west = min(west, x)
        east = max(east, x)
        north = min(north, y)
        south = max(south, y)
        for v in max(0, y - 1)..min(high, y + 2)
          for u in max(0, x - 1)..min(wide, x + 2)
            if mask[v * wide + u] == 1
              mask[v * wide + u] = 0
              to_fill[waiting] = v * wide + u
              waiting += 1
      if area >= least and (area > best or area == best and (north < best_top or north == best_top and west < best_left))
        best = area
        best_left = west
        best_top = north
        best_right = east
        best_bottom = south
  blobs[place] = best + 0.0
  blobs[place + 1] = best_right - best_left + 1.0
  blobs[place + 2] = best_bottom - best_top + 1.0
  blobs[place + 3] = best_left + (best_right - best_left) / 2.0
  blobs[place + 4] = best_top + (best_bottom - best_top) / 2.0
`);

/** The part of a program that looks at the frames of its cameras; none where it has no camera. */
export function visionPart(project: ProjectDocument, eyes: readonly CodeEye[], first: (eye: number) => number): Part[] {
  const cameras = eyes.flatMap((eye) => (isCamera(eye.sensor) ? [{ eye, sensor: eye.sensor }] : []));
  if (cameras.length === 0) return [];
  const most = Math.max(...cameras.map(({ sensor: { frame } }) => frame.width * frame.height));
  const none = new Array<number>(most).fill(0);
  return [
    {
      heading: "Cameras: blobs in a frame",
      variables: [
        {
          ...lasting("frame_bytes", "int", new Array<number>(3 * most).fill(0)),
          doc: "a frame as it came, three bytes a pixel, row after row",
        },
        lasting("pixels", "int", none),
        lasting("mask", "int", none),
        lasting("square_rows", "int", none),
        lasting("to_fill", "int", none),
        constant("BLOB_CELLS", "int", BLOB_ORDER.length),
      ],
      quicker: {
        python: numpyText(
          cameras.map(({ eye: { own }, sensor }) => {
            const { width, height, rows } = formOf(sensor);
            return {
              own,
              width,
              height,
              bottomFirst: rows === "bottom first",
              ...stripIn(formOf(sensor), sensor.strip),
            };
          }),
        ),
      },
      fns: [...cameras.flatMap(({ eye, sensor }) => lookFns(project, eye, sensor, first(eye.index))), ...blobFns],
    },
  ];
}

/** `label_pixels_…`: what each pixel of the strip is taken for; `look_…`: the largest blobs of the targets. */
function lookFns(project: ProjectDocument, { own }: CodeEye, sensor: CameraSensor, first: number) {
  const form = formOf(sensor);
  const { top, bottom, left, right } = stripIn(form, sensor.strip);
  const [wide, high] = [right - left, bottom - top];
  const { erode, dilate } = sensor.clean;
  const row = form.rows === "top first" ? "row" : `(${form.height - 1} - row)`;
  const wanted = project.targets.flatMap(({ kind }, i) => (kind === "background" ? [] : [i]));
  const blobs = wanted.flatMap((i) => {
    const place = (first + i) * BLOB_ORDER.length;
    return [
      `find_blob(${i + 1}, ${place}, ${wide}, ${high}, ${erode}, ${dilate}, ${Math.max(1, sensor.minArea)})`,
      `in_frame(${place}, ${coded(left)}, ${coded(top)}, ${coded(setPointOf(sensor))}, ${coded(sensor.frame.width / 2)})`,
    ];
  });
  const name = quietly(oneLine(sensor.name));
  return readFns(`fn label_pixels_${own}()
  "What each pixel of a frame of ${name} is taken for, within its strip."
  for row in ${top}..${bottom}
    for column in ${left}..${right}
      let at = (${row} * ${form.width} + column) * 3
      pixels[(row - ${top}) * ${wide} + column - ${left}] = classify_${own}(frame_bytes[at], frame_bytes[at + 1], frame_bytes[at + 2])

fn look_${own}()
  "Finds the largest blob of each target in the frame of ${name} that stands in frame_bytes."
  label_pixels_${own}()
${blobs.map((line) => `  ${line}`).join("\n") || "  return"}
`);
}
