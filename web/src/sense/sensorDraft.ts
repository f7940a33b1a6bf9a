import type { RuleSetId, SensorId, TargetId } from "@perceptum/core/names";
import { emptyProject, newCamera, type ProjectDocument } from "@perceptum/core/project";
import {
  type Channel,
  isCamera,
  MOST_CLEAN,
  MOST_FRAME,
  REPORT_KINDS,
  type Report,
  type Sensor,
  type WireOrder,
} from "@perceptum/core/readings";
import { nameProblem, typedNumber } from "../ui/typed";

/** Forms that many sensors have, by what they report and on which scale. */
export const FORMS = REPORT_KINDS.entries.flatMap(({ key, forms }) => forms.map((form) => ({ ...form, reports: key })));

export interface Draft {
  name: string;
  reports: Report;
  scale: Partial<Record<Channel, [string, string]>>;
  order: WireOrder;
  period: string;
  ruleSet: RuleSetId | "new";
  codes: { code: string; target: TargetId }[];
  bits: number;
  /** What only a camera has, as it is typed. */
  camera: CameraDraft;
}

/** The parts of a camera as they are typed; lengths in px. */
export interface CameraDraft {
  width: string;
  height: string;
  rows: "top first" | "bottom first";
  erode: string;
  dilate: string;
  minArea: string;
  /** Empty: the middle. */
  setPoint: string;
  viewDeg: string;
  values: "srgb" | "linear";
  exposure: "auto" | "held";
  /** Top, bottom, left and right; empty: all of the frame. */
  strip: readonly [string, string, string, string];
}

const NEW_CAMERA: CameraDraft = {
  width: "160",
  height: "120",
  rows: "top first",
  erode: "1",
  dilate: "1",
  minArea: "30",
  setPoint: "",
  viewDeg: "60",
  values: "srgb",
  exposure: "auto",
  strip: ["", "", "", ""],
};

function cameraDraftOf(sensor: Sensor): CameraDraft {
  if (!isCamera(sensor)) return NEW_CAMERA;
  const { frame, clean, minArea, setPoint, camera, strip } = sensor;
  return {
    width: String(frame.width),
    height: String(frame.height),
    rows: frame.rows,
    erode: String(clean.erode),
    dilate: String(clean.dilate),
    minArea: String(minArea),
    setPoint: setPoint === undefined ? "" : String(setPoint),
    viewDeg: String(camera.viewDeg),
    values: sensor.values ?? "linear",
    exposure: camera.exposure ?? "auto",
    strip: strip
      ? [String(strip.top), String(strip.bottom), String(strip.left), String(strip.right)]
      : NEW_CAMERA.strip,
  };
}

/** The parts of a camera that a draft stands for. */
function cameraPartsOf(draft: CameraDraft) {
  const { width, height, rows, erode, dilate, minArea, setPoint, viewDeg, values, exposure, strip } = draft;
  const frame = { width: typedNumber(width), height: typedNumber(height), rows };
  const whole = [0, frame.height, 0, frame.width];
  const [top, bottom, left, right] = strip.map((side, i) => (side.trim() === "" ? whole[i] : typedNumber(side)));
  const all = top === 0 && left === 0 && bottom === frame.height && right === frame.width;
  return {
    frame,
    clean: { erode: typedNumber(erode), dilate: typedNumber(dilate) },
    minArea: typedNumber(minArea),
    values,
    camera: { viewDeg: typedNumber(viewDeg), ...(exposure === "held" && { exposure }) },
    ...(setPoint.trim() !== "" && { setPoint: typedNumber(setPoint) }),
    ...(!all && { strip: { top, bottom, left, right } }),
  };
}

/** What is wrong with the parts of a camera, in a sentence. */
function cameraProblem(draft: CameraDraft): string | undefined {
  const { frame, clean, minArea, camera, setPoint, strip } = cameraPartsOf(draft);
  const whole = (x: number, low: number, high: number) => Number.isInteger(x) && x >= low && x <= high;
  const { width, height } = MOST_FRAME;
  if (!whole(frame.width, 8, width) || !whole(frame.height, 8, height))
    return `A frame has from 8 × 8 to ${width} × ${height} px.`;
  if (!whole(clean.erode, 0, MOST_CLEAN) || !whole(clean.dilate, 0, MOST_CLEAN))
    return `Cleaning reaches from 0 to ${MOST_CLEAN} px.`;
  if (!whole(minArea, 1, 1_000_000)) return "A blob has at least 1 px.";
  if (!(camera.viewDeg >= 5 && camera.viewDeg <= 150)) return "The angle of view lies from 5 to 150°.";
  if (setPoint !== undefined && !(setPoint >= 0 && setPoint <= frame.width - 1))
    return `The set point lies in the frame, from 0 to ${frame.width - 1} px.`;
  if (strip === undefined) return undefined;
  if (!whole(strip.top, 0, frame.height) || !whole(strip.bottom, 0, frame.height))
    return `The strip’s rows lie in the frame, from 0 to ${frame.height}.`;
  if (!whole(strip.left, 0, frame.width) || !whole(strip.right, 0, frame.width))
    return `The strip’s columns lie in the frame, from 0 to ${frame.width}.`;
  if (strip.bottom <= strip.top) return "The strip is upside down: its end must lie below its first row.";
  if (strip.right <= strip.left) return "The strip’s end must lie right of its first column.";
  return undefined;
}

export function draftOf(sensor: Sensor): Draft {
  return {
    name: sensor.name,
    reports: sensor.reports,
    scale: Object.fromEntries(Object.entries(sensor.scale).map(([c, [a, b]]) => [c, [String(a), String(b)]])),
    order: sensor.order ?? "rgb",
    period: String(sensor.periodMs),
    ruleSet: sensor.ruleSet,
    codes: Object.entries(sensor.codes ?? {}).map(([code, target]) => ({ code, target: target as TargetId })),
    bits: sensor.optics.bits,
    camera: cameraDraftOf(sensor),
  };
}

/** The period that a new sensor has, in ms: a camera is slower. */
const usual = (reports: Draft["reports"]) => String(REPORT_KINDS.get(reports).usualMs);

export function formed(draft: Draft, id: string): Draft {
  const form = FORMS.find((f) => f.id === id);
  if (form === undefined) return draft;
  const { channels } = REPORT_KINDS.get(form.reports);
  return {
    ...draft,
    reports: form.reports,
    bits: form.bits,
    // What is usual for another kind of readings, unless the period was typed.
    ...(usual(form.reports) !== usual(draft.reports) &&
      draft.period === usual(draft.reports) && { period: usual(form.reports) }),
    scale: Object.fromEntries(form.scale.map((end, i) => [channels[i], ["0", String(end)]])),
  };
}

/** The form that a draft has; null where it is of none. */
export function formOf(draft: Draft): string | null {
  const asNow = (form: string) => {
    const { reports, bits, scale } = formed(draft, form);
    return reports === draft.reports && bits === draft.bits && JSON.stringify(scale) === JSON.stringify(draft.scale);
  };
  return FORMS.find(({ id }) => asNow(id))?.id ?? null;
}

/** What keeps a draft from being taken, in a sentence. */
export function problemOf(draft: Draft, project: ProjectDocument, sensor: Sensor | null): string | undefined {
  const name = draft.name.trim();
  const others = project.sensors.filter((s) => s.id !== sensor?.id);
  const wrong = nameProblem(
    name,
    others.map((s) => s.name),
  );
  if (wrong !== undefined) return wrong;
  const period = typedNumber(draft.period);
  if (!(period >= 1 && period <= 10_000)) return "The period lies from 1 to 10000 ms.";
  for (const [channel, [from, to]] of Object.entries(draft.scale)) {
    if (Number.isNaN(typedNumber(from)) || Number.isNaN(typedNumber(to)))
      return `The scale of ${channel} needs two numbers.`;
    if (typedNumber(to) <= typedNumber(from)) return `The end of ${channel}’s scale must lie above its start.`;
  }
  if (draft.reports === "frames") return cameraProblem(draft.camera);
  if (REPORT_KINDS.get(draft.reports).coded) {
    const bad = draft.codes.find(({ code }) => !/^\d{1,3}$/.test(code));
    if (bad) return `“${bad.code}” is no code: a code is a whole number from 0 to 999.`;
    const twice = draft.codes.find(({ code }, i) => draft.codes.some((other, k) => k < i && other.code === code));
    if (twice) return `The code ${twice.code} is there twice.`;
  }
  return undefined;
}

/** A sensor without what only some kinds have. */
function withoutParts(sensor: Sensor): Omit<Sensor, (typeof PARTS)[number]> {
  const rest: Partial<Sensor> = { ...sensor };
  for (const part of PARTS) delete rest[part];
  return rest as Omit<Sensor, (typeof PARTS)[number]>;
}
const PARTS = ["reference", "codes", "order", "frame", "strip", "clean", "minArea", "setPoint", "camera"] as const;

export function sensorOf(draft: Draft, id: SensorId, ruleSet: RuleSetId, was: Sensor | null): Sensor {
  const kind = REPORT_KINDS.get(draft.reports);
  const scale = Object.fromEntries(
    Object.entries(draft.scale).map(([c, [a, b]]) => [c, [typedNumber(a), typedNumber(b)]]),
  ) as Sensor["scale"];
  const base = was ?? emptyProject("").sensors[0];
  const isFrames = draft.reports === "frames";
  const kept = isFrames && !isCamera(base) ? newCamera(id, draft.name, ruleSet, { width: 160, height: 120 }) : base;
  const { reference, optics } = kept;
  const rest = withoutParts(kept);
  // White and dark are raw values: on another scale they mean nothing.
  const keeps = was !== null && was.reports === draft.reports && JSON.stringify(was.scale) === JSON.stringify(scale);
  return {
    ...rest,
    id,
    name: draft.name.trim(),
    ruleSet,
    reports: draft.reports,
    // The same object as long as nothing changed, so that nothing is read anew.
    scale: keeps && was ? was.scale : scale,
    periodMs: typedNumber(draft.period),
    ...(kind.ordered && draft.order !== "rgb" && { order: draft.order }),
    ...(keeps && reference !== undefined && { reference }),
    ...(kind.coded && {
      codes: Object.fromEntries(draft.codes.map(({ code, target }) => [Number(code), target])),
    }),
    ...(isFrames && cameraPartsOf(draft.camera)),
    // What was no camera before is not lit as one, and the other way round.
    optics: { ...(isFrames || !isCamera(base) ? optics : emptyProject("").sensors[0].optics), bits: draft.bits },
  };
}
