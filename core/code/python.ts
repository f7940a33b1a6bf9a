import { GREY_BELOW } from "../colour";
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
 * Rules and steadying of one sensor as one Python 3 module: `classify(first, …)` takes the raw values in wire order
 * and gives the same label as the core for every reading, at the bounds too; `Steady` gives the same `seen`.
 */
export function writePython(project: ProjectDocument, sensor: Sensor): string {
  const ruleSet = ruleSetOf(project, sensor);
  const asked = askedFeatures(ruleSet, sensor);
  const nearest = ruleSet.method === "nearest";
  const hsv = sensor.reports === "hsv";
  const coloured = REPORT_KINDS[sensor.reports].features.includes("val");
  return [
    ...heading(project, sensor, ruleSet, asked.has("chroma") || nearest || hsv || sensor.reports === "hue"),
    ...(REPORT_KINDS[sensor.reports].scaled ? scaling(sensor) : []),
    ...(hsv || sensor.reports === "hue" ? WRAP : []),
    ...(hsv ? HSV : []),
    ...(asked.has("hue") && coloured ? HUE : []),
    ...(asked.has("hue") && !nearest ? HUE_WITHIN : []),
    ...(asked.has("sat") ? SAT : []),
    ...(asked.has("light") || asked.has("chroma") ? LAB : []),
    ...(nearest ? nearestPlaces(ruleSet, sensor) : []),
    ...classifier(project, sensor, ruleSet, asked),
    ...steadying(ruleSet),
  ].join("\n");
}

function heading(project: ProjectDocument, sensor: Sensor, ruleSet: RuleSet, needsMath: boolean): string[] {
  const quiet = (text: string) => text.replace(/[\\"]/g, "'");
  return [
    `"""Colour rules of "${quiet(project.name)}": ${quiet(ruleSet.name)}, for the sensor ${quiet(sensor.name)}.`,
    "",
    `classify(${argumentsOf(sensor)}) takes one raw reading in wire order and gives its label.`,
    "Steady().take(label, t_ms) gives what is seen once the label has held for long enough.",
    '"""',
    "",
    ...(needsMath ? ["import math", ""] : []),
    'UNKNOWN = "unknown"',
    "",
    "",
  ];
}

function scaling(sensor: Sensor): string[] {
  const clamp = sensor.reference !== undefined;
  return [
    "def scaled(raw, low, high):",
    '    """A raw value as a fraction of its scale."""',
    "    x = (raw - low) / (high - low)",
    ...(clamp ? ["    return 0.0 if x < 0 else 1.0 if x > 1 else x"] : ["    return x"]),
    "",
    "",
  ];
}

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

/** The places of the references, and how a reading is laid among them. */
function nearestPlaces(ruleSet: RuleSet, sensor: Sensor): string[] {
  const width = sensor.reports === "reflected" ? 1 : sensor.reports === "hue" ? 2 : 3;
  const rows = ruleSet.nearest.references.flatMap((reference) => {
    const place = placeOfReference(reference);
    return place.length === width ? [`    ("${reference.target}", (${place.join(", ")},)),`] : [];
  });
  const sinCos = [
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
  const place = {
    1: ["def place_of(reflected):", "    return (reflected,)"],
    2: ["def place_of(hue):", "    sin, cos = sin_cos(hue)", "    return (cos, sin)"],
    3: [
      "def place_of(hue, sat, val):",
      "    if hue != hue:",
      "        return (0, 0, val)",
      "    sin, cos = sin_cos(hue)",
      "    return (sat * val * cos, sat * val * sin, val)",
    ],
  }[width];
  return ["REFERENCES = (", ...rows, ")", "", "", ...(width > 1 ? sinCos : []), ...place, "", ""];
}

function classifier(project: ProjectDocument, sensor: Sensor, ruleSet: RuleSet, asked: Set<Feature>): string[] {
  const kind = REPORT_KINDS[sensor.reports];
  const wire = wireOf(sensor);
  const scales = channelScales(sensor);
  const fraction = (i: number) =>
    kind.scaled ? `scaled(${WIRE[wire[i]]}, ${scales[i].low}, ${scales[i].high})` : WIRE[wire[i]];
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
    `def classify(${argumentsOf(sensor)}):`,
    `    """The label of one raw reading${come}."""`,
    ...inputs(),
    ...derived.filter(([f]) => asked.has(f)).map(([f, call]) => `    ${f} = ${call}`),
  ];
  if (ruleSet.method === "nearest") {
    lines.push(
      `    here = place_of(${[...asked].join(", ")})`,
      '    best, label = float("inf"), UNKNOWN',
      "    for target, place in REFERENCES:",
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
    lines.push(`    # ${project.targets.find((t) => t.id === rule.target)?.name ?? rule.target}`);
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

function steadying({ steady: { hits, of, release, rejoinMs } }: RuleSet): string[] {
  return [
    "class Steady:",
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
  ];
}
