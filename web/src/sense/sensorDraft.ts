import type { RuleSetId, SensorId, TargetId } from "@perceptum/core/names";
import { emptyProject, type ProjectDocument } from "@perceptum/core/project";
import { type Channel, REPORT_KINDS, type Report, type Sensor, type WireOrder } from "@perceptum/core/readings";
import { nameProblem, typedNumber } from "../ui/typed";

/** Forms that many sensors have, by what they report and on which scale. */
export const FORMS: { id: string; text: string; reports: Report; scale: number[]; bits: number }[] = [
  { id: "rgb-8", text: "Red, green, blue, 8 bit (0–255)", reports: "rgb", scale: [255, 255, 255], bits: 8 },
  { id: "rgb-10", text: "Red, green, blue, 10 bit (0–1023)", reports: "rgb", scale: [1023, 1023, 1023], bits: 10 },
  {
    id: "rgb-16",
    text: "Red, green, blue, 16 bit (0–65535)",
    reports: "rgb",
    scale: [65_535, 65_535, 65_535],
    bits: 16,
  },
  { id: "rgb-1", text: "Red, green, blue, 0–1", reports: "rgb", scale: [1, 1, 1], bits: 10 },
  { id: "rgb-100", text: "Red, green, blue, 0–100", reports: "rgb", scale: [100, 100, 100], bits: 10 },
  {
    id: "rgbc-10",
    text: "Red, green, blue and clear, 10 bit",
    reports: "rgbc",
    scale: [1023, 1023, 1023, 1023],
    bits: 10,
  },
  {
    id: "rgbc-16",
    text: "Red, green, blue and clear, 16 bit",
    reports: "rgbc",
    scale: [65_535, 65_535, 65_535, 65_535],
    bits: 16,
  },
  { id: "hsv-360", text: "Hue 0–360, saturation and value 0–100", reports: "hsv", scale: [360, 100, 100], bits: 10 },
  { id: "hsv-8", text: "Hue, saturation, value, 8 bit each", reports: "hsv", scale: [255, 255, 255], bits: 8 },
  { id: "hue-360", text: "Hue only, 0–360", reports: "hue", scale: [360], bits: 10 },
  { id: "hue-8", text: "Hue only, 8 bit", reports: "hue", scale: [255], bits: 8 },
  { id: "reflected-100", text: "Reflected light, 0–100", reports: "reflected", scale: [100], bits: 10 },
  { id: "reflected-10", text: "Reflected light, 10 bit", reports: "reflected", scale: [1023], bits: 10 },
  { id: "code", text: "Colour codes of its own", reports: "code", scale: [], bits: 10 },
];

export interface Draft {
  name: string;
  reports: Report;
  scale: Partial<Record<Channel, [string, string]>>;
  order: WireOrder;
  period: string;
  ruleSet: RuleSetId | "new";
  codes: { code: string; target: TargetId }[];
  bits: number;
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
  };
}

export function formed(draft: Draft, id: string): Draft {
  const form = FORMS.find((f) => f.id === id);
  if (form === undefined) return draft;
  const { channels } = REPORT_KINDS[form.reports];
  return {
    ...draft,
    reports: form.reports,
    bits: form.bits,
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
  if (draft.reports === "code") {
    const bad = draft.codes.find(({ code }) => !/^\d{1,3}$/.test(code));
    if (bad) return `“${bad.code}” is no code: a code is a whole number from 0 to 999.`;
    const twice = draft.codes.find(({ code }, i) => draft.codes.some((other, k) => k < i && other.code === code));
    if (twice) return `The code ${twice.code} is there twice.`;
  }
  return undefined;
}

export function sensorOf(draft: Draft, id: SensorId, ruleSet: RuleSetId, was: Sensor | null): Sensor {
  const kind = REPORT_KINDS[draft.reports];
  const scale = Object.fromEntries(
    Object.entries(draft.scale).map(([c, [a, b]]) => [c, [typedNumber(a), typedNumber(b)]]),
  ) as Sensor["scale"];
  const base = was ?? emptyProject("").sensors[0];
  const { reference, codes: _, order: __, ...rest } = base;
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
    ...(draft.reports === "code" && {
      codes: Object.fromEntries(draft.codes.map(({ code, target }) => [Number(code), target])),
    }),
    optics: { ...rest.optics, bits: draft.bits },
  };
}
