import { GREY_BELOW } from "../colour";
import { oneLine } from "../names";
import type { ProjectDocument } from "../project";
import { channelScales, type Feature, REPORT_KINDS, type Sensor, wireOf } from "../readings";
import { placeOfReference, type RuleSet, ruleSetOf, type Test } from "../rules";

/** The features that a rule set looks at. */
function askedFeatures(ruleSet: RuleSet, sensor: Sensor): Set<Feature> {
  if (ruleSet.method === "nearest") {
    const asked: readonly Feature[] = ["hue", "sat", "val", "reflected"];
    return new Set(asked.filter((f) => REPORT_KINDS[sensor.reports].features.includes(f)));
  }
  return new Set(ruleSet.rules.filter((r) => r.on).flatMap((r) => r.any.flatMap((c) => c.all.map((t) => t.feature))));
}

const WIRE = ["first", "second", "third", "fourth"];

/** The arguments of `classify`: one for each raw value, in wire order. */
const argumentsOf = ({ reports }: Sensor) => WIRE.slice(0, REPORT_KINDS[reports].channels.length).join(", ");

/**
 * Rules and steadying of sensors as one Python 3 module: `classify(first, …)` takes the raw values in wire order and
 * gives the same label as the core for every reading, at the bounds too; `Steady` gives the same `seen`. For several
 * sensors each has its own, by its id: `classify_left_eye` and `SteadyLeftEye`.
 *
 * @throws Error where no sensor is given
 */
export function writePython(project: ProjectDocument, sensors: readonly Sensor[]): string {
  if (sensors.length === 0) throw new Error("code is written for one sensor at least");
  const eyes = sensors.map((sensor): Eye => {
    const ruleSet = ruleSetOf(project, sensor);
    const own = sensors.length === 1 ? "" : sensor.id;
    return { sensor, ruleSet, asked: askedFeatures(ruleSet, sensor), own };
  });
  const reports = new Set(sensors.map((s) => s.reports));
  const some = (test: (eye: Eye) => boolean) => eyes.some(test);
  const isNearest = ({ ruleSet }: Eye) => ruleSet.method === "nearest";
  const gives = ({ sensor }: Eye, feature: Feature) => REPORT_KINDS[sensor.reports].features.includes(feature);
  const wraps = reports.has("hsv") || reports.has("hue");
  return [
    ...heading(project, eyes, wraps || some((eye) => eye.asked.has("chroma") || isNearest(eye))),
    ...(sensors.some((s) => REPORT_KINDS[s.reports].scaled && s.reports !== "hue") ? SCALING : []),
    ...(wraps ? WRAP : []),
    ...(reports.has("hsv") ? HSV : []),
    ...(some((eye) => eye.asked.has("hue") && gives(eye, "val")) ? HUE : []),
    ...(some((eye) => eye.asked.has("hue") && !isNearest(eye)) ? HUE_WITHIN : []),
    ...(some((eye) => eye.asked.has("sat")) ? SAT : []),
    ...(some((eye) => eye.asked.has("light") || eye.asked.has("chroma")) ? LAB : []),
    ...(some((eye) => isNearest(eye) && placeWidth(eye.sensor) > 1) ? SIN_COS : []),
    ...eyes.flatMap((eye) => [
      ...(isNearest(eye) ? nearestPlaces(eye) : []),
      ...classifier(project, eye),
      ...steadying(eye),
    ]),
  ].join("\n");
}

/** A sensor with what its code is made of; `own` is its id where names must tell several apart, else empty. */
interface Eye {
  sensor: Sensor;
  ruleSet: RuleSet;
  asked: Set<Feature>;
  own: string;
}

/** A name of the module, told apart by the sensor. */
const snake = (name: string, own: string) => (own === "" ? name : `${name}_${own.replaceAll("-", "_")}`);
const camel = (name: string, own: string) =>
  `${name}${own
    .split("-")
    .map((word) => word.charAt(0).toUpperCase() + word.slice(1))
    .join("")}`;

function heading(project: ProjectDocument, eyes: readonly Eye[], needsMath: boolean): string[] {
  const quiet = (text: string) => oneLine(text).replace(/[\\"]/g, "'");
  const one = ({ ruleSet, sensor }: Eye) => `${quiet(ruleSet.name)}, for the sensor ${quiet(sensor.name)}.`;
  return [
    ...(eyes.length === 1
      ? [`"""Colour rules of "${quiet(project.name)}": ${one(eyes[0])}`]
      : [`"""Colour rules of "${quiet(project.name)}".`]),
    ...(eyes.length === 1 ? [""] : []),
    ...eyes.flatMap((eye) => [
      ...(eyes.length > 1 ? ["", one(eye)] : []),
      `${snake("classify", eye.own)}(${argumentsOf(eye.sensor)}) takes one raw reading in wire order and gives its label.`,
      `${camel("Steady", eye.own)}().take(label, t_ms) gives what is seen once the label has held for long enough.`,
    ]),
    '"""',
    "",
    ...(needsMath ? ["import math", ""] : []),
    'UNKNOWN = "unknown"',
    "",
    "",
  ];
}

const SCALING = [
  "def scaled(raw, low, high):",
  '    """A raw value as a fraction of its scale, 0 to 1."""',
  "    x = (raw - low) / (high - low)",
  "    return 0.0 if x < 0 else 1.0 if x > 1 else x",
  "",
  "",
];

const HUE = [
  "def hue_of(r, g, b):",
  '    """Hue in degrees, 0 to 360; a grey has none: nan, which passes no test."""',
  "    most = max(r, g, b)",
  "    delta = most - min(r, g, b)",
  `    if not delta >= ${GREY_BELOW}:`,
  '        return float("nan")',
  "    if most == r:",
  "        hue = ((g - b) / delta) * 60",
  "    elif most == g:",
  "        hue = ((b - r) / delta + 2) * 60",
  "    else:",
  "        hue = ((r - g) / delta + 4) * 60",
  "    if hue < 0:",
  "        hue += 360",
  "    return 0.0 if hue >= 360 else hue",
  "",
  "",
];

const HUE_WITHIN = [
  "def hue_within(hue, start, end):",
  '    """Whether a hue lies from start to end; a band that starts above its end goes through 0."""',
  "    if start <= end:",
  "        return start <= hue <= end",
  "    return hue >= start or hue <= end",
  "",
  "",
];

const WRAP = [
  "def wrap_hue(degrees):",
  '    """Any angle brought into 0 to 360."""',
  "    wrapped = math.fmod(math.fmod(degrees, 360) + 360, 360)",
  "    return 0.0 if wrapped >= 360 else wrapped",
  "",
  "",
];

const HSV = [
  "def rgb_of(hue, sat, val):",
  '    """Red, green and blue of hue in degrees, saturation and value."""',
  "",
  "    def channel(offset):",
  "        k = math.fmod(offset + hue / 60, 6)",
  "        return val - val * sat * max(0, min(k, 4 - k, 1))",
  "",
  "    return channel(5), channel(3), channel(1)",
  "",
  "",
];

const SAT = [
  "def sat_of(r, g, b):",
  '    """Saturation, 0 to 1."""',
  "    most = max(r, g, b)",
  "    return 0.0 if most == 0 else (most - min(r, g, b)) / most",
  "",
  "",
];

const LAB = [
  "def linear(x):",
  '    """A display value, 0 to 1, as linear light (IEC 61966-2-1)."""',
  "    if x <= 0.04045:",
  "        return x / 12.92",
  "    u = (x + 0.055) / 1.055",
  "    y = 0.58 + u * (0.65 - 0.19 * u)",
  "    for _ in range(3):",
  "        square = y * y",
  "        fifth = square * square * y",
  "        y += (y * (u - fifth)) / (3 * fifth + 2 * u)",
  "    return u * u * y * y",
  "",
  "",
  "def compressed(x):",
  '    """The cube root of CIE 15, straight near black."""',
  "    if not x > 216 / 24389:",
  "        return ((24389 / 27) * x + 16) / 116",
  "    y = 0.23 + x * (1.54 - 0.57 * x)",
  "    for _ in range(3):",
  "        cube = y * y * y",
  "        y += (y * (x - cube)) / (2 * cube + x)",
  "    return y",
  "",
  "",
  "def light_of(r, g, b):",
  '    """CIE L*, 0 to 100."""',
  "    y = 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b)",
  "    return 116 * compressed(y) - 16",
  "",
  "",
  "def chroma_of(r, g, b):",
  '    """CIE C*ab."""',
  "    r, g, b = linear(r), linear(g), linear(b)",
  "    fx = compressed((0.4124 * r + 0.3576 * g + 0.1805 * b) / (0.4124 + 0.3576 + 0.1805))",
  "    fy = compressed(0.2126 * r + 0.7152 * g + 0.0722 * b)",
  "    fz = compressed((0.0193 * r + 0.1192 * g + 0.9505 * b) / (0.0193 + 0.1192 + 0.9505))",
  "    x = 500 * (fx - fy)",
  "    z = 200 * (fy - fz)",
  "    return math.sqrt(x * x + z * z)",
  "",
  "",
];

const SIN_COS = [
  "def sin_cos(degrees):",
  '    """Sine and cosine by the same series as in the program, so that no bit differs."""',
  "    share = degrees / 90",
  "    quarter = math.floor(share)",
  "    quarter += 1 if share - quarter >= 0.5 else 0",
  "    x = (degrees - quarter * 90) * (math.pi / 180)",
  "    s = x * x",
  "    sin = x * (1 - (s / 6) * (1 - (s / 20) * (1 - (s / 42) * (1 - (s / 72) * (1 - (s / 110) * (1 - s / 156))))))",
  "    cos = 1 - (s / 2) * (1 - (s / 12) * (1 - (s / 30) * (1 - (s / 56) * (1 - (s / 90) * (1 - (s / 132) * (1 - s / 182))))))",
  "    return ((sin, cos), (cos, -sin), (-sin, -cos), (-cos, sin))[quarter % 4]",
  "",
  "",
];

/** How many numbers a place among references has. */
const placeWidth = ({ reports }: Sensor) => (reports === "reflected" ? 1 : reports === "hue" ? 2 : 3);

/** The places of the references, and how a reading is laid among them. */
function nearestPlaces({ sensor, ruleSet, own }: Eye): string[] {
  const width = placeWidth(sensor);
  const rows = ruleSet.nearest.references.flatMap((reference) => {
    const place = placeOfReference(reference);
    return place.length === width ? [`    ("${reference.target}", (${place.join(", ")},)),`] : [];
  });
  const name = snake("place_of", own);
  const place = {
    1: [`def ${name}(reflected):`, "    return (reflected,)"],
    2: [`def ${name}(hue):`, "    sin, cos = sin_cos(hue)", "    return (cos, sin)"],
    3: [
      `def ${name}(hue, sat, val):`,
      "    if hue != hue:",
      "        return (0, 0, val)",
      "    sin, cos = sin_cos(hue)",
      "    return (sat * val * cos, sat * val * sin, val)",
    ],
  }[width] as string[];
  return [`${snake("REFERENCES", own.toUpperCase())} = (`, ...rows, ")", "", "", ...place, "", ""];
}

function classifier(project: ProjectDocument, { sensor, ruleSet, asked, own }: Eye): string[] {
  const kind = REPORT_KINDS[sensor.reports];
  const wire = wireOf(sensor);
  const scales = channelScales(sensor);
  const fraction = (i: number) => {
    const raw = WIRE[wire[i]];
    const { low, high, clamp } = scales[i];
    if (!kind.scaled) return raw;
    // A hue is not clamped: it wraps.
    return clamp ? `scaled(${raw}, ${low}, ${high})` : `(${raw} - (${low})) / (${high} - (${low}))`;
  };
  const inputs = (): string[] => {
    switch (sensor.reports) {
      case "hsv":
        return [`    r, g, b = rgb_of(wrap_hue(${fraction(0)} * 360), ${fraction(1)}, ${fraction(2)})`];
      case "hue":
        return [`    hue = wrap_hue(${fraction(0)} * 360)`];
      default:
        return kind.channels.map((channel, i) => `    ${channel === "c" ? "clear" : channel} = ${fraction(i)}`);
    }
  };
  const derived: [Feature, string][] = kind.features.includes("val")
    ? [
        ["hue", "hue_of(r, g, b)"],
        ["sat", "sat_of(r, g, b)"],
        ["val", "max(r, g, b)"],
        ["light", "light_of(r, g, b)"],
        ["chroma", "chroma_of(r, g, b)"],
      ]
    : [];
  const come = kind.ordered
    ? `, whose colours come over the wire as ${(sensor.order ?? "rgb").split("").join(", ")}`
    : "";
  const lines = [
    `def ${snake("classify", own)}(${argumentsOf(sensor)}):`,
    `    """The label of one raw reading${come}."""`,
    ...inputs(),
    ...derived.filter(([f]) => asked.has(f)).map(([f, call]) => `    ${f} = ${call}`),
  ];
  if (ruleSet.method === "nearest") {
    lines.push(
      `    here = ${snake("place_of", own)}(${[...asked].join(", ")})`,
      '    best, label = float("inf"), UNKNOWN',
      `    for target, place in ${snake("REFERENCES", own.toUpperCase())}:`,
      "        distance = 0",
      "        for a, b in zip(here, place):",
      "            distance += (a - b) * (a - b)",
      "        distance = math.sqrt(distance)",
      "        if distance < best:",
      "            best, label = distance, target",
      `    return label if best <= ${ruleSet.nearest.reject} else UNKNOWN`,
    );
    return [...lines, "", ""];
  }
  for (const rule of ruleSet.rules) {
    if (!rule.on || rule.any.length === 0) continue;
    lines.push(`    # ${oneLine(project.targets.find((t) => t.id === rule.target)?.name ?? rule.target)}`);
    for (const clause of rule.any) {
      // A feature that the sensor does not report is nothing, and passes no test.
      const known = clause.all.every((test) => kind.features.includes(test.feature));
      const tests = clause.all.map(testSource).join(" and ") || "True";
      if (known) lines.push(`    if ${tests}:`, `        return "${rule.target}"`);
    }
  }
  return [...lines, "    return UNKNOWN", "", ""];
}

function testSource({ feature, from, to, not }: Test): string {
  let band: string;
  if (from !== undefined && to !== undefined)
    band = feature === "hue" ? `hue_within(hue, ${from}, ${to})` : `${from} <= ${feature} <= ${to}`;
  else if (from !== undefined) band = `${feature} >= ${from}`;
  else if (to !== undefined) band = `${feature} <= ${to}`;
  else band = `${feature} == ${feature}`;
  // nan equals nothing, not even itself, and passes no test, turned round or not.
  return not ? `${feature} == ${feature} and not ${band.includes("(") ? band : `(${band})`}` : band;
}

function steadying({ ruleSet: { steady }, own }: Eye): string[] {
  const { hits, of, release, rejoinMs } = steady;
  return [
    `class ${camel("Steady", own)}:`,
    `    """Seen after ${hits} of ${of} readings, given up after ${release} without it; back within ${rejoinMs} ms it is the same visit."""`,
    "",
    "    def __init__(self):",
    "        self.seen = UNKNOWN",
    "        self.recent = []",
    "        self.visited = UNKNOWN",
    "        self.departed_at = None",
    "",
    "    def take(self, label, t_ms):",
    '        """Takes in one label. Gives (seen, departs, arrives); the last two are None where nothing happened."""',
    `        self.recent = [label] + self.recent[:${Math.max(of, release) - 1}]`,
    "        seen = self.seen",
    `        if label != UNKNOWN and label != seen and self.recent[:${of}].count(label) >= ${hits}:`,
    "            seen = label",
    `        elif seen != UNKNOWN and len(self.recent) >= ${release} and seen not in self.recent[:${release}]:`,
    "            seen = UNKNOWN",
    "        if seen == self.seen:",
    "            return seen, None, None",
    "        before, self.seen = self.seen, seen",
    "        departs = None if before == UNKNOWN else before",
    "        if departs is not None:",
    "            self.departed_at = t_ms",
    "        if seen == UNKNOWN:",
    "            return seen, departs, None",
    `        rejoins = before == UNKNOWN and seen == self.visited and t_ms - self.departed_at <= ${rejoinMs}`,
    "        self.visited = seen",
    "        return seen, departs, None if rejoins else seen",
    "",
    "",
  ];
}
