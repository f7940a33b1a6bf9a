import { oneLine, type TargetId } from "../names";
import type { ProjectDocument } from "../project";
import { channelScales, FEATURES, type Feature, REPORT_KINDS, type Sensor, wireOf } from "../readings";
import { placeOfReference, type RuleSet, ruleSetOf, steadyingOf, type Test } from "../rules";
import {
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
  type Statement,
  type Variable,
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
export function rulesParts(project: ProjectDocument, eyes: readonly CodeEye[]): [targets: Part, rules: Part] {
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
      variables: alike.flatMap((eye) => references(project, eye)),
      fns: [...alike.map((eye) => rulesFn(project, eye)), ...eyes.map((eye) => classifier(eye))],
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

/** The features that a rule set looks at, as far as the sensor reports them. */
function askedFeatures({ ruleSet, sensor }: CodeEye): Set<Feature> {
  const reported = REPORT_KINDS[sensor.reports].features;
  const asked: readonly Feature[] =
    ruleSet.method === "nearest"
      ? ["hue", "sat", "val", "reflected"]
      : ruleSet.rules.filter((r) => r.on).flatMap((r) => r.any.flatMap((c) => c.all.map((t) => t.feature)));
  return new Set(asked.filter((feature) => reported.includes(feature)));
}

export const DERIVED: Partial<Record<Feature, Expr>> = {
  hue: call("hue_of", name("r"), name("g"), name("b")),
  sat: call("sat_of", name("r"), name("g"), name("b")),
  val: call("max", name("r"), name("g"), name("b")),
  light: call("light_of", name("r"), name("g"), name("b")),
  chroma: call("chroma_of", name("r"), name("g"), name("b")),
};

const put = (of: string, value: Expr): Statement => ({ does: "let", name: of, value });
const gives = (value: Expr): Statement => ({ does: "return", value });

/** Names the rules of a sensor, also where others share them. */
const rulesName = ({ ruleSet, sensor }: Pick<CodeEye, "ruleSet" | "sensor">): string =>
  `${word(ruleSet.id)}_${sensor.reports}`;

/** The features that a sensor's rules go by, in the order in which they are handed on. */
const handedOn = (eye: CodeEye): Feature[] => FEATURES.filter((feature) => askedFeatures(eye).has(feature));

/** `rules_…`: features, and the label that they are given. */
function rulesFn(project: ProjectDocument, eye: CodeEye): Fn {
  return {
    name: `rules_${rulesName(eye)}`,
    takes: handedOn(eye).map((feature) => ({ name: feature, type: "num" })),
    gives: "int",
    doc: `What features of a reading are taken for by ${oneLine(eye.ruleSet.name)}.`,
    body: withoutIdle(eye.ruleSet.method === "nearest" ? byReference(eye) : byBands(project, eye)),
  };
}

/** `classify_…`: the raw values of one reading in wire order, and the label that they are given. */
function classifier(eye: CodeEye): Fn {
  const { sensor, ruleSet, own } = eye;
  const kind = REPORT_KINDS[sensor.reports];
  const asked = askedFeatures(eye);
  const come = kind.ordered ? `, whose colours come over the wire as ${[...(sensor.order ?? "rgb")].join(", ")}` : "";
  const body = [
    ...inputs(sensor),
    ...(kind.features.includes("val")
      ? (["hue", "sat", "val", "light", "chroma"] as const).flatMap((f) =>
          asked.has(f) ? [put(f, DERIVED[f] as Expr)] : [],
        )
      : []),
    gives(call(`rules_${rulesName(eye)}`, ...handedOn(eye).map((feature) => name(feature)))),
  ];
  return {
    name: `classify_${own}`,
    takes: kind.channels.map((_, i) => ({ name: WIRE[i], type: "num" })),
    gives: "int",
    doc: `The label of one raw reading of ${oneLine(sensor.name)} by ${oneLine(ruleSet.name)}${come}.`,
    body: withoutIdle(body),
  };
}

/** The channels of a reading as fractions. */
export function inputs(sensor: Sensor): Statement[] {
  const kind = REPORT_KINDS[sensor.reports];
  const wire = wireOf(sensor);
  const scales = channelScales(sensor);
  const fraction = (i: number): Expr => {
    const raw = name(WIRE[wire[i]]);
    const { low, high, clamp } = scales[i];
    if (!kind.scaled) return raw;
    // A hue is not clamped: it wraps.
    if (clamp) return call("clamped_share", raw, num(low), num(high));
    return op(op(raw, "-", num(low)), "/", op(num(high), "-", num(low)));
  };
  const degrees = () => call("wrap_hue", op(fraction(0), "*", num(360)));
  if (sensor.reports === "hue") return [put("hue", degrees())];
  if (sensor.reports !== "hsv")
    return kind.channels.map((channel, i) => put(channel === "c" ? "clear" : channel, fraction(i)));
  const of = (offset: number) => call("channel_of", name("h"), name("s"), name("v"), num(offset));
  return [
    put("h", degrees()),
    put("s", fraction(1)),
    put("v", fraction(2)),
    put("r", of(5)),
    put("g", of(3)),
    put("b", of(1)),
  ];
}

/** A body without variables that nothing after them goes by. */
export function withoutIdle(body: readonly Statement[]): Statement[] {
  const kept: Statement[] = [];
  const text = (statements: readonly Statement[]) => JSON.stringify(statements);
  for (const statement of body.toReversed()) {
    if (statement.does === "let" && !text(kept).includes(`"name":"${statement.name}"`)) continue;
    kept.unshift(statement);
  }
  return kept;
}

function byBands(project: ProjectDocument, { sensor, ruleSet }: CodeEye): Statement[] {
  const reported = REPORT_KINDS[sensor.reports].features;
  const statements: Statement[] = [];
  for (const { on, any, target } of ruleSet.rules) {
    // A feature that the sensor does not report is nothing, and passes no test.
    const clauses = on ? any.filter(({ all }) => all.every((test) => reported.includes(test.feature))) : [];
    if (clauses.length === 0) continue;
    statements.push({ does: "remark", text: project.targets.find((t) => t.id === target)?.name ?? target });
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
export const placeWidth = ({ reports }: Sensor) =>
  reports === "reflected" ? 1 : reports === "hue" ? 2 : REPORT_KINDS[reports].features.includes("val") ? 3 : 0;

export const referencesName = (eye: Pick<CodeEye, "ruleSet" | "sensor">, part: string) =>
  `REFERENCES_${rulesName(eye).toUpperCase()}_${part}`;

/** The references that a sensor's readings can be compared with: a place's numbers, and the labels. */
export function places({ sensor, ruleSet }: Omit<CodeEye, "index">): { place: readonly number[]; target: TargetId }[] {
  const width = placeWidth(sensor);
  return ruleSet.nearest.references.flatMap((reference) => {
    const place = placeOfReference(reference);
    return place.length === width && width > 0 ? [{ place, target: reference.target }] : [];
  });
}

function references(project: ProjectDocument, eye: CodeEye): Variable[] {
  const all = places(eye);
  if (eye.ruleSet.method !== "nearest" || all.length === 0) return [];
  return [
    ...["X", "Y", "Z"].slice(0, placeWidth(eye.sensor)).map((part, k) =>
      constant(
        referencesName(eye, part),
        "num",
        all.map(({ place }) => place[k]),
      ),
    ),
    constant(
      referencesName(eye, "LABEL"),
      "int",
      all.map(({ target }) => project.targets.findIndex(({ id }) => id === target) + 1),
    ),
  ];
}

/** The nearest of the references, as far as the reject distance lets it count. */
function byReference(eye: CodeEye): Statement[] {
  const { sensor, ruleSet } = eye;
  const all = places(eye);
  if (all.length === 0) return [gives(name("LABEL_UNKNOWN"))];
  const width = placeWidth(sensor);
  const hue = name("hue");
  const isGrey = op(hue, "!=", hue);
  const along = (wave: string): Expr => ({
    is: "choice",
    test: isGrey,
    then: num(0),
    otherwise: op(op(name("sat"), "*", name("val")), "*", call(wave, hue)),
  });
  const here: Expr[] =
    width === 1
      ? [name("reflected")]
      : width === 2
        ? [call("cos_of", hue), call("sin_of", hue)]
        : [along("cos_of"), along("sin_of"), name("val")];
  const parts = ["x", "y", "z"].slice(0, width);
  const away = parts.map((part) =>
    put(
      `d${part}`,
      op(name(`here_${part}`), "-", { is: "at", array: referencesName(eye, part.toUpperCase()), index: name("i") }),
    ),
  );
  const squares = parts
    .map((part) => op(name(`d${part}`), "*", name(`d${part}`)))
    .reduce((sum, square) => op(sum, "+", square));
  return [
    ...parts.map((part, k) => put(`here_${part}`, here[k])),
    put("best", name("infinity")),
    put("label", name("LABEL_UNKNOWN")),
    {
      does: "for",
      name: "i",
      from: int(0),
      to: int(all.length),
      body: [
        ...away,
        put("distance", call("sqrt", squares)),
        {
          does: "if",
          test: op(name("distance"), "<", name("best")),
          then: [
            { does: "set", place: name("best"), value: name("distance") },
            {
              does: "set",
              place: name("label"),
              value: { is: "at", array: referencesName(eye, "LABEL"), index: name("i") },
            },
          ],
          otherwise: [],
        },
      ],
    },
    {
      does: "if",
      test: op(name("best"), "<=", num(ruleSet.nearest.reject)),
      then: [gives(name("label"))],
      otherwise: [],
    },
    gives(name("LABEL_UNKNOWN")),
  ];
}
