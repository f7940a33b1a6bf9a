import { oneLine } from "../names";
import type { ProjectDocument } from "../project";
import { type CameraSensor, isCamera } from "../readings";
import { coded, type Part, quietly, readFns } from "../tree";
import { BLOB_ORDER, formOf, setPointOf, stripIn } from "../vision";
import { numpyText } from "./numpyText";
import { type CodeEye, constant, lasting } from "./rulesTree";

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
      fns: [...cameras.flatMap(({ eye, sensor }) => lookFns(project, eye, sensor, first(eye.index)))],
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
