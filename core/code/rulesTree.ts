import { oneLine, type TargetId } from "../names";
import type { ProjectDocument } from "../project";
import { channelScales, type Feature, REPORT_KINDS, type Sensor, wireOf } from "../readings";
import { placeOfReference, placeWidth, type RuleSet, referencesOf, ruleSetOf, steadyingOf, type Test } from "../rules";
import {
  type Assignable,
  allOf,
  call,
  type Expr,
  type Fn,
  int,
  name,
  not,
  num,
  op,
  type Part,
  readExpr,
  type Statement,
  type Variable,
  withoutIdle,
} from "../tree";
import { ENGINE, fieldVariables } from "./engineParts";

/** A sensor with its rules and the place that it has among the sensors of the code. */
export interface CodeEye {
  sensor: Sensor;
  ruleSet: RuleSet;
  index: number;
  /** What tells its functions apart. */
  own: string;
}

/** An id as part of a name. */
export const word = (id: string): string => id.replaceAll("-", "_");
export const labelName = (target: TargetId): string => `LABEL_${word(target).toUpperCase()}`;
export const eyeName = (sensor: { id: string }): string => `EYE_${word(sensor.id).toUpperCase()}`;

/** The sensors of the code, in the order in which they are given. @throws Error where none is */
export function codeEyes(project: ProjectDocument, sensors: readonly Sensor[]): CodeEye[] {
  if (sensors.length === 0) throw new Error("code is written for one sensor at least");
  return sensors.map((sensor, index) => ({
    sensor,
    ruleSet: ruleSetOf(project, sensor),
    index,
    own: word(sensor.id),
  }));
}

export const WIRE = ["first", "second", "third", "fourth"];

/** The parts of rules: what there is, and what a reading is taken for. */
export function rulesParts(
  project: ProjectDocument,
  eyes: readonly CodeEye[],
  references: ReferenceRows,
): [targets: Part, rules: Part] {
  // Sensors that report alike and go by one rule set share what is written of it.
  const alike = [...new Map(eyes.map((eye) => [rulesName(eye), eye])).values()];
  const targets: Variable[] = [
    constant("LABEL_UNKNOWN", "int", 0),
    ...project.targets.map(({ id, name }, i) => ({ ...constant(labelName(id), "int", i + 1), doc: name })),
    constant("NAMES", "text", ["unknown", ...project.targets.map(({ id }) => id)]),
    constant("WORDS", "text", ["unknown", ...project.targets.map(({ name }) => name)]),
    constant("EYES", "int", eyes.length),
    ...eyes.map((eye) => ({ ...constant(eyeName(eye.sensor), "int", eye.index), doc: eye.sensor.name })),
  ];
  return [
    { heading: "Targets and sensors", variables: targets, fns: [] },
    {
      heading: "Rules: what one raw reading is taken for",
      variables: references.variables(),
      fns: [...alike.map((eye) => rulesFn(eye, references)), ...eyes.map((eye) => classifier(eye))],
    },
  ];
}

/** The part that works out a reading's features, and steadies its labels. */
export function steadyingPart(eyes: readonly CodeEye[]): Part {
  const steadying = steadyingOf(eyes.map(({ ruleSet }) => ruleSet.steady));
  return {
    heading: "Features, and steadying: so many hits of so many readings, given up after so many without",
    variables: [...ENGINE.constants, ...fieldVariables({ Steadying: steadying })],
    fns: ENGINE.fns,
  };
}

export const constant = (name: string, type: Variable["type"], value: Variable["value"]): Variable => ({
  name,
  type,
  constant: true,
  value,
});
/** Texts that stay as they are, by their numbers; an array has one place at least. */
export const texts = (name: string, all: readonly string[]): Variable =>
  constant(name, "text", all.length === 0 ? [""] : all);
export const lasting = (name: string, type: Variable["type"], value: Variable["value"]): Variable => ({
  name,
  type,
  constant: false,
  value,
});

const put = (of: string, value: Expr): Statement => ({ does: "let", name: of, value });
const gives = (value: Expr): Statement => ({ does: "return", value });

/** Names the rules of a sensor, also where others share them. */
const rulesName = ({ ruleSet, sensor }: Pick<CodeEye, "ruleSet" | "sensor">): string =>
  `${word(ruleSet.id)}_${sensor.reports}`;

/** `rules_…`: the channels of a reading, and the label that they are given. */
function rulesFn(eye: CodeEye, references: ReferenceRows): Fn {
  const body =
    eye.ruleSet.method === "nearest" ? [gives(references.asked("label_by_reference", eye, name))] : byBands(eye);
  return {
    name: `rules_${rulesName(eye)}`,
    takes: channelsOf(eye.sensor).map(({ name }) => ({ name, type: "num" })),
    gives: "int",
    doc: `What a reading is taken for by ${oneLine(eye.ruleSet.name)}.`,
    body: withoutIdle([...derived(eye.sensor), ...body], false),
  };
}

/** `classify_…`: the raw values of one reading in wire order, and the label that they are given. */
function classifier(eye: CodeEye): Fn {
  const { sensor, ruleSet, own } = eye;
  const kind = REPORT_KINDS.get(sensor.reports);
  const come = kind.ordered ? `, whose colours come over the wire as ${[...(sensor.order ?? "rgb")].join(", ")}` : "";
  return {
    name: `classify_${own}`,
    takes: kind.channels.map((_, i) => ({ name: WIRE[i], type: "num" })),
    gives: "int",
    doc: `The label of one raw reading of ${oneLine(sensor.name)} by ${oneLine(ruleSet.name)}${come}.`,
    body: [gives(call(`rules_${rulesName(eye)}`, ...channelsOf(sensor).map(({ value }) => value)))],
  };
}

/** The channels of a reading as fractions, or as codes, from its raw values. */
function channelsOf(sensor: Sensor): { name: string; value: Expr }[] {
  const { channels, coded, formulas } = REPORT_KINDS.get(sensor.reports);
  const wire = wireOf(sensor);
  const scales = channelScales(sensor);
  return channels.map((channel, i) => {
    const raw = name(WIRE[wire[i]]);
    const { low, high, clamp } = scales[i];
    // A channel that has the name of its feature is not yet it.
    const own = formulas.some(([feature]) => feature === channel) ? "share" : channel;
    if (coded) return { name: own, value: raw };
    if (clamp) return { name: own, value: call("clamped_share", raw, num(low), num(high)) };
    return { name: own, value: op(op(raw, "-", num(low)), "/", op(num(high), "-", num(low))) };
  });
}

/** Works out of a reading's channels what its kind of report has formulas for. */
const derived = ({ reports }: Sensor): Statement[] =>
  REPORT_KINDS.get(reports).formulas.map(([feature, formula]) => put(feature, readExpr(formula)));

/** A feature from the channels and what is worked out of them. */
function featureTree({ reports }: Sensor, feature: Feature): Expr {
  const formula = REPORT_KINDS.get(reports).formulas.find(([own]) => own === feature)?.[1];
  return formula === undefined ? name(feature) : readExpr(formula);
}

/** Statements that put features of a raw reading where they belong. */
export function putFeatures(sensor: Sensor, wanted: readonly { feature: Feature; place: Assignable }[]): Statement[] {
  const set = wanted.map(
    ({ feature, place }): Statement => ({ does: "set", place, value: featureTree(sensor, feature) }),
  );
  return withoutIdle(
    [...channelsOf(sensor).map(({ name, value }) => put(name, value)), ...derived(sensor), ...set],
    false,
  );
}

function byBands({ sensor, ruleSet }: CodeEye): Statement[] {
  const reported = REPORT_KINDS.get(sensor.reports).features;
  const statements: Statement[] = [];
  for (const { on, any, target } of ruleSet.rules) {
    // A feature that the sensor does not report is nothing, and passes no test.
    const clauses = on ? any.filter(({ all }) => all.every((test) => reported.includes(test.feature))) : [];
    if (clauses.length === 0) continue;
    for (const { all } of clauses) {
      const result = gives(name(labelName(target)));
      if (all.length === 0) return [...statements, result];
      statements.push({ does: "if", test: allOf(all.flatMap(testTree)), then: [result], otherwise: [] });
    }
  }
  return [...statements, gives(name("LABEL_UNKNOWN"))];
}

/** The tests that must all hold for a test. */
function testTree({ feature, from, to, not: turned }: Test): Expr[] {
  const value = name(feature);
  const known = op(value, "==", value);
  const band: Expr[] = [];
  if (feature === "hue" && from !== undefined && to !== undefined)
    band.push(call("within_band", value, num(from), num(to)));
  else {
    if (from !== undefined) band.push(op(value, ">=", num(from)));
    if (to !== undefined) band.push(op(value, "<=", num(to)));
  }
  // What is no number equals nothing, not even itself, and passes no test, turned round or not.
  if (turned) return [known, ...(band.length === 0 ? [not(known)] : [not(allOf(band))])];
  return band.length === 0 ? [known] : band;
}

/** How many numbers a place among references has. */
const widthOf = ({ reports }: Sensor) => placeWidth(REPORT_KINDS.get(reports).features);

/** The references of all sensors' rules, and which of them belong to a sensor's. */
export class ReferenceRows {
  private readonly places: { place: readonly number[]; label: number }[] = [];
  private readonly ranges = new Map<string, readonly [first: number, last: number]>();

  constructor(project: ProjectDocument, eyes: readonly CodeEye[]) {
    for (const eye of eyes) {
      const { method, nearest } = eye.ruleSet;
      if (method !== "nearest" || this.ranges.has(rulesName(eye))) continue;
      const first = this.places.length;
      for (const reference of nearest.references) {
        const place = placeOfReference(reference);
        const label = project.targets.findIndex(({ id }) => id === reference.target) + 1;
        if (place.length > 0 && place.length === widthOf(eye.sensor)) this.places.push({ place, label });
      }
      this.ranges.set(rulesName(eye), [first, this.places.length]);
    }
  }

  variables(): Variable[] {
    const places = this.places.map(({ place }) => place);
    const labels = this.places.map(({ label }) => label);
    return fieldVariables({ References: referencesOf(places, labels) });
  }

  /** Asks a sensor's references about the place where a reading lies: `fn(first, last, …, reject, x, y, z)`. */
  asked(fn: string, eye: CodeEye, feature: (feature: Feature) => Expr, ...about: Expr[]): Expr {
    const [first, last] = this.ranges.get(rulesName(eye)) ?? [0, 0];
    return call(
      fn,
      int(first),
      int(last),
      ...about,
      num(eye.ruleSet.nearest.reject),
      ...placeTree(eye.sensor, feature),
    );
  }
}

/** Gives the place of a reading among references. */
function placeTree(sensor: Sensor, feature: (feature: Feature) => Expr): Expr[] {
  const width = widthOf(sensor);
  if (width === 3) {
    const cone = [feature("hue"), feature("sat"), feature("val")];
    return [call("cone_x", ...cone), call("cone_y", ...cone), cone[2]];
  }
  if (width === 2) return [call("cos_of", feature("hue")), call("sin_of", feature("hue")), num(0)];
  return [width === 1 ? feature("reflected") : name("nan"), num(0), num(0)];
}
