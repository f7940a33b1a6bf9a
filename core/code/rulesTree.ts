import { GREY_BELOW } from "../colour";
import { oneLine, type TargetId } from "../names";
import type { ProjectDocument } from "../project";
import { channelScales, type Feature, REPORT_KINDS, type Sensor, wireOf } from "../readings";
import { placeOfReference, type RuleSet, ruleSetOf, type Steady, type Test } from "../rules";
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
  readFns,
  type Statement,
  type Variable,
} from "../tree";

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

const WIRE = ["first", "second", "third", "fourth"];

const features = readFns(`
fn scaled(raw: num, low: num, high: num): num
  "A raw value as a fraction of its scale, 0 to 1."
  let x = (raw - low) / (high - low)
  if x < 0.0
    return 0.0
  if x > 1.0
    return 1.0
  return x

fn hue_of(r: num, g: num, b: num): num
  "Hue in degrees, 0 to 360; a grey has none: nan, which passes no test."
  let most = max(r, g, b)
  let delta = most - min(r, g, b)
  if not (delta >= GREY_BELOW)
    return nan
  let hue = 0.0
  if most == r
    hue = (g - b) / delta * 60.0
  elif most == g
    hue = ((b - r) / delta + 2.0) * 60.0
  else
    hue = ((r - g) / delta + 4.0) * 60.0
  if hue < 0.0
    hue = hue + 360.0
  if hue >= 360.0
    return 0.0
  return hue

fn hue_within(hue: num, start: num, end: num): bool
  "Whether a hue lies from start to end; a band that starts above its end goes through 0."
  if start <= end
    return hue >= start and hue <= end
  return hue >= start or hue <= end

fn sat_of(r: num, g: num, b: num): num
  "Saturation, 0 to 1."
  let most = max(r, g, b)
  if most == 0.0
    return 0.0
  return (most - min(r, g, b)) / most

fn wrap_hue(degrees: num): num
  "Any angle brought into 0 to 360."
  let wrapped = fmod(fmod(degrees, 360.0) + 360.0, 360.0)
  if wrapped >= 360.0
    return 0.0
  return wrapped

fn channel_of(hue: num, sat: num, val: num, offset: num): num
  "Red, green or blue of hue in degrees, saturation and value, by the offset 5, 3 or 1."
  let k = fmod(offset + hue / 60.0, 6.0)
  return val - val * sat * max(0.0, min(k, 4.0 - k, 1.0))

fn linear(x: num): num
  "A display value, 0 to 1, as linear light (IEC 61966-2-1)."
  if x <= 0.04045
    return x / 12.92
  let u = (x + 0.055) / 1.055
  let y = 0.58 + u * (0.65 - 0.19 * u)
  for i in 0..3
    let square = y * y
    let fifth = square * square * y
    y = y + y * (u - fifth) / (3.0 * fifth + 2.0 * u)
  return u * u * y * y

fn compressed(x: num): num
  "The cube root of CIE 15, straight near black."
  if not (x > 216.0 / 24389.0)
    return (24389.0 / 27.0 * x + 16.0) / 116.0
  let y = 0.23 + x * (1.54 - 0.57 * x)
  for i in 0..3
    let cube = y * y * y
    y = y + y * (x - cube) / (2.0 * cube + x)
  return y

fn light_of(r: num, g: num, b: num): num
  "CIE L*, 0 to 100."
  let y = 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b)
  return 116.0 * compressed(y) - 16.0

fn chroma_of(r: num, g: num, b: num): num
  "CIE C*ab."
  let red = linear(r)
  let green = linear(g)
  let blue = linear(b)
  let fx = compressed((0.4124 * red + 0.3576 * green + 0.1805 * blue) / (0.4124 + 0.3576 + 0.1805))
  let fy = compressed(0.2126 * red + 0.7152 * green + 0.0722 * blue)
  let fz = compressed((0.0193 * red + 0.1192 * green + 0.9505 * blue) / (0.0193 + 0.1192 + 0.9505))
  let x = 500.0 * (fx - fy)
  let z = 200.0 * (fy - fz)
  return sqrt(x * x + z * z)

fn sin_of(degrees: num): num
  "Sine by the same series as in the program, so that no bit differs."
  let share = degrees / 90.0
  let quarter = floor(share)
  if share - quarter >= 0.5
    quarter = quarter + 1.0
  let x = (degrees - quarter * 90.0) * (pi / 180.0)
  let s = x * x
  let sine = x * (1.0 - s / 6.0 * (1.0 - s / 20.0 * (1.0 - s / 42.0 * (1.0 - s / 72.0 * (1.0 - s / 110.0 * (1.0 - s / 156.0))))))
  let cosine = 1.0 - s / 2.0 * (1.0 - s / 12.0 * (1.0 - s / 30.0 * (1.0 - s / 56.0 * (1.0 - s / 90.0 * (1.0 - s / 132.0 * (1.0 - s / 182.0))))))
  let turn = whole(fmod(fmod(quarter, 4.0) + 4.0, 4.0))
  if turn == 0
    return sine
  if turn == 1
    return cosine
  if turn == 2
    return -sine
  return -cosine

fn cos_of(degrees: num): num
  "Cosine, as the sine a quarter turn on."
  let share = degrees / 90.0
  let quarter = floor(share)
  if share - quarter >= 0.5
    quarter = quarter + 1.0
  let x = (degrees - quarter * 90.0) * (pi / 180.0)
  let s = x * x
  let sine = x * (1.0 - s / 6.0 * (1.0 - s / 20.0 * (1.0 - s / 42.0 * (1.0 - s / 72.0 * (1.0 - s / 110.0 * (1.0 - s / 156.0))))))
  let cosine = 1.0 - s / 2.0 * (1.0 - s / 12.0 * (1.0 - s / 30.0 * (1.0 - s / 56.0 * (1.0 - s / 90.0 * (1.0 - s / 132.0 * (1.0 - s / 182.0))))))
  let turn = whole(fmod(fmod(quarter, 4.0) + 4.0, 4.0))
  if turn == 0
    return cosine
  if turn == 1
    return -sine
  if turn == 2
    return -cosine
  return sine
`);

const steadying = readFns(`
fn among(eye: int, label: int, newest: int): int
  "How many of the newest labels of a sensor are a label."
  let found = 0
  for i in 0..min(newest, recent_count[eye])
    if recent[eye * RECENT + i] == label
      found = found + 1
  return found

fn steady(eye: int, label: int, t_ms: num)
  "Takes in one label of a sensor. What it sees is then in seen[eye]; departs[eye] and arrives[eye] say what happened, 0 for nothing."
  let keep = max(OF[eye], RELEASE[eye])
  let last = min(recent_count[eye], keep - 1)
  let i = last
  while i > 0
    recent[eye * RECENT + i] = recent[eye * RECENT + i - 1]
    i = i - 1
  recent[eye * RECENT] = label
  recent_count[eye] = last + 1
  departs[eye] = 0
  arrives[eye] = 0
  let before = seen[eye]
  let now = before
  if label != 0 and label != before and among(eye, label, OF[eye]) >= HITS[eye]
    now = label
  elif before != 0 and recent_count[eye] >= RELEASE[eye] and among(eye, before, RELEASE[eye]) == 0
    now = 0
  if now == before
    return
  seen[eye] = now
  # Back soon enough, and nothing else between: the same visit.
  let rejoins = before == 0 and now == visited[eye] and t_ms - departed_at[eye] <= REJOIN_MS[eye]
  if before != 0
    departs[eye] = before
    departed_at[eye] = t_ms
  if now == 0
    return
  visited[eye] = now
  departed_at[eye] = nan
  if not rejoins
    arrives[eye] = now
    visit[eye] = visit[eye] + 1

fn forget()
  "As it was at the start: nothing is seen, and nothing was."
  for eye in 0..EYES
    seen[eye] = 0
    recent_count[eye] = 0
    visit[eye] = 0
    visited[eye] = 0
    departed_at[eye] = nan
    departs[eye] = 0
    arrives[eye] = 0
`);

/** The parts of rules and steadying: the project first, then what it is worked out by. */
export function rulesParts(project: ProjectDocument, eyes: readonly CodeEye[]): Part[] {
  const targets: Variable[] = [
    constant("LABEL_UNKNOWN", "int", 0),
    ...project.targets.map(({ id, name }, i) => ({ ...constant(labelName(id), "int", i + 1), doc: name })),
    constant("NAMES", "text", ["unknown", ...project.targets.map(({ id }) => id)]),
    constant("EYES", "int", eyes.length),
    ...eyes.map((eye) => ({ ...constant(eyeName(eye.sensor), "int", eye.index), doc: eye.sensor.name })),
  ];
  const steadies = eyes.map(({ ruleSet }) => ruleSet.steady);
  const keep = Math.max(...steadies.map(({ of, release }) => Math.max(of, release)));
  const each = (of: (steady: Steady) => number) => steadies.map(of);
  const none = eyes.map(() => 0);
  return [
    {
      heading: "Targets and sensors",
      variables: targets,
      fns: [],
    },
    {
      heading: "Rules: what one raw reading is taken for",
      variables: eyes.flatMap((eye) => references(project, eye)),
      fns: eyes.map((eye) => classifier(project, eye)),
    },
    {
      heading:
        "Steadying, for each sensor: so many of so many readings, given up after so many without, back within so many ms",
      variables: [
        constant(
          "HITS",
          "int",
          each(({ hits }) => hits),
        ),
        constant(
          "OF",
          "int",
          each(({ of }) => of),
        ),
        constant(
          "RELEASE",
          "int",
          each(({ release }) => release),
        ),
        constant(
          "REJOIN_MS",
          "num",
          each(({ rejoinMs }) => rejoinMs),
        ),
        constant("RECENT", "int", keep),
        lasting("recent", "int", new Array<number>(keep * eyes.length).fill(0)),
        lasting("recent_count", "int", none),
        { ...lasting("seen", "int", none), doc: "what each sensor sees" },
        { ...lasting("arrives", "int", none), doc: "what arrived with the last reading" },
        { ...lasting("departs", "int", none), doc: "what departed with it" },
        { ...lasting("visit", "int", none), doc: "counts visits" },
        lasting("visited", "int", none),
        lasting(
          "departed_at",
          "num",
          eyes.map(() => Number.NaN),
        ),
      ],
      fns: steadying,
    },
    {
      heading: "How features follow from a reading",
      variables: [constant("GREY_BELOW", "num", GREY_BELOW)],
      fns: features,
    },
  ];
}

export const constant = (name: string, type: Variable["type"], value: Variable["value"]): Variable => ({
  name,
  type,
  constant: true,
  value,
});
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

const DERIVED: Partial<Record<Feature, Expr>> = {
  hue: call("hue_of", name("r"), name("g"), name("b")),
  sat: call("sat_of", name("r"), name("g"), name("b")),
  val: call("max", name("r"), name("g"), name("b")),
  light: call("light_of", name("r"), name("g"), name("b")),
  chroma: call("chroma_of", name("r"), name("g"), name("b")),
};

const put = (of: string, value: Expr): Statement => ({ does: "let", name: of, value });
const gives = (value: Expr): Statement => ({ does: "return", value });

/** `classify_…`: the raw values of one reading in wire order, and the label that they are given. */
function classifier(project: ProjectDocument, eye: CodeEye): Fn {
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
    ...(ruleSet.method === "nearest" ? byReference(eye) : byBands(project, eye)),
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
function inputs(sensor: Sensor): Statement[] {
  const kind = REPORT_KINDS[sensor.reports];
  const wire = wireOf(sensor);
  const scales = channelScales(sensor);
  const fraction = (i: number): Expr => {
    const raw = name(WIRE[wire[i]]);
    const { low, high, clamp } = scales[i];
    if (!kind.scaled) return raw;
    // A hue is not clamped: it wraps.
    if (clamp) return call("scaled", raw, num(low), num(high));
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
function withoutIdle(body: readonly Statement[]): Statement[] {
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
    band.push(call("hue_within", value, num(from), num(to)));
  else {
    if (from !== undefined) band.push(op(value, ">=", num(from)));
    if (to !== undefined) band.push(op(value, "<=", num(to)));
  }
  // What is no number equals nothing, not even itself, and passes no test, turned round or not.
  if (turned) return [known, ...(band.length === 0 ? [not(known)] : [not(allOf(band))])];
  return band.length === 0 ? [known] : band;
}

/** How many numbers a place among references has. */
const placeWidth = ({ reports }: Sensor) =>
  reports === "reflected" ? 1 : reports === "hue" ? 2 : REPORT_KINDS[reports].features.includes("val") ? 3 : 0;

const referencesName = (own: string, part: string) => `REFERENCES_${own.toUpperCase()}_${part}`;

/** The references that a sensor's readings can be compared with: a place's numbers, and the labels. */
function places({ sensor, ruleSet }: Omit<CodeEye, "index">): { place: readonly number[]; target: TargetId }[] {
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
        referencesName(eye.own, part),
        "num",
        all.map(({ place }) => place[k]),
      ),
    ),
    constant(
      referencesName(eye.own, "LABEL"),
      "int",
      all.map(({ target }) => project.targets.findIndex(({ id }) => id === target) + 1),
    ),
  ];
}

/** The nearest of the references, as far as the reject distance lets it count. */
function byReference(eye: CodeEye): Statement[] {
  const { sensor, ruleSet, own } = eye;
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
      op(name(`here_${part}`), "-", { is: "at", array: referencesName(own, part.toUpperCase()), index: name("i") }),
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
              value: { is: "at", array: referencesName(own, "LABEL"), index: name("i") },
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
