import { GREY_BELOW } from "../colour";
import type { ProjectDocument, RuleSet, Sensor, Test } from "../project/schema";
import { channelScales, type Feature, WIRE_ORDER } from "../readings";

/** The features that the rules of a set test. */
function testedFeatures(ruleSet: RuleSet): Set<Feature> {
  return new Set(ruleSet.rules.filter((r) => r.on).flatMap((r) => r.any.flatMap((c) => c.all.map((t) => t.feature))));
}

/**
 * Rules and steadying of one sensor as one Python 3 module: `classify(first, second, third)` takes the
 * raw values in wire order and gives the same label as the core for every reading, at the bounds too; `Steady` gives
 * the same `seen`.
 */
export function writePython(project: ProjectDocument, sensor: Sensor): string {
  const ruleSet = project.ruleSets.find((set) => set.id === sensor.ruleSet) as RuleSet;
  const tested = testedFeatures(ruleSet);
  return [
    ...heading(project, sensor, ruleSet, tested.has("chroma")),
    ...scaling(sensor),
    ...(tested.has("hue") ? HUE : []),
    ...(tested.has("sat") ? SAT : []),
    ...(tested.has("light") || tested.has("chroma") ? LAB : []),
    ...classifier(project, sensor, ruleSet, tested),
    ...steadying(ruleSet),
  ].join("\n");
}

function heading(project: ProjectDocument, sensor: Sensor, ruleSet: RuleSet, needsRoot: boolean): string[] {
  const quiet = (text: string) => text.replace(/[\\"]/g, "'");
  return [
    `"""Colour rules of "${quiet(project.name)}": ${quiet(ruleSet.name)}, for the sensor ${quiet(sensor.name)}.`,
    "",
    "classify(first, second, third) takes one raw reading in wire order and gives its label.",
    "Steady().take(label, t_ms) gives what is seen once the label has held for long enough.",
    '"""',
    "",
    ...(needsRoot ? ["import math", ""] : []),
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
  "def hue_within(hue, start, end):",
  '    """Whether a hue lies from start to end; a band that starts above its end goes through 0."""',
  "    if start <= end:",
  "        return start <= hue <= end",
  "    return hue >= start or hue <= end",
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
  "    y = 1.0",
  "    for _ in range(10):",
  "        y = (4 * y + u / (y * y * y * y)) / 5",
  "    return u * u * y * y",
  "",
  "",
  "def compressed(x):",
  '    """The cube root of CIE 15, straight near black."""',
  "    if not x > 216 / 24389:",
  "        return ((24389 / 27) * x + 16) / 116",
  "    y = 1.0",
  "    for _ in range(10):",
  "        y = (2 * y + x / (y * y)) / 3",
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

function classifier(project: ProjectDocument, sensor: Sensor, ruleSet: RuleSet, tested: Set<Feature>): string[] {
  const wire = ["first", "second", "third"];
  const order = WIRE_ORDER[sensor.order ?? "rgb"];
  const derived: [Feature, string][] = [
    ["hue", "hue_of(r, g, b)"],
    ["sat", "sat_of(r, g, b)"],
    ["val", "max(r, g, b)"],
    ["light", "light_of(r, g, b)"],
    ["chroma", "chroma_of(r, g, b)"],
  ];
  const lines = [
    "def classify(first, second, third):",
    `    """The label of one raw reading, whose colours come over the wire as ${(sensor.order ?? "rgb").split("").join(", ")}."""`,
    ...channelScales(sensor).map(({ low, high }, i) => `    ${"rgb"[i]} = scaled(${wire[order[i]]}, ${low}, ${high})`),
    ...derived.filter(([f]) => tested.has(f)).map(([f, call]) => `    ${f} = ${call}`),
  ];
  for (const rule of ruleSet.rules) {
    if (!rule.on || rule.any.length === 0) continue;
    lines.push(`    # ${project.targets.find((t) => t.id === rule.target)?.name ?? rule.target}`);
    for (const clause of rule.any) {
      lines.push(`    if ${clause.all.map(testSource).join(" and ") || "True"}:`, `        return "${rule.target}"`);
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
