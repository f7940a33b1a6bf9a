/** What the robot's side of a written behaviour goes by. */
export interface SideFacts {
  sensors: readonly {
    /** What its functions are called by. */
    own: string;
    id: string;
    name: string;
    /** How many values a reading has; 0 for a camera. */
    channels: number;
    /** Of a camera: where its targets stand among what is steadied, its set point and half its width, in px. */
    camera?: { first: number; setPoint: number; halfFrame: number };
  }[];
  /** Whether the program finds a camera's blobs itself. */
  looks: boolean;
  /** Which of the robot's functions the behaviour calls. */
  fns: ReadonlySet<string>;
}

/** What is said of cameras: where the robot finds their blobs, and where the program does. */
const OF_CAMERAS = [
  "Before a camera's frame is taken, its largest blobs stand in blobs: area, width, height, x, y, error, half the width.",
  "Before a camera's frame is taken, put its bytes into frame_bytes (frameBytes) and call its look function.",
];

const called = <T>(all: Readonly<Record<string, T>>, { fns }: SideFacts): T[] =>
  Object.entries(all).flatMap(([fn, one]) => (fns.has(fn) ? [one] : []));

const PYTHON: Readonly<Record<string, string>> = {
  robot_wheels: `def robot_wheels(left, right):
    """Runs the wheels at shares of top speed, -1 to 1."""
    tell({"wheels": [left, right]})`,
  robot_stop: `def robot_stop(how):
    """Stops the wheels: brake or coast."""
    tell({"stop": how})`,
  robot_lamp: `def robot_lamp(lamp, colour, blink_hz):
    """Lights a lamp in a colour like #e4573d; an empty one switches it off."""
    tell({"lamp": lamp, "rgb": colour or None, "blink": blink_hz})`,
  robot_tone: `def robot_tone(hertz, ms):
    """Sounds a tone; the behaviour goes on meanwhile."""
    tell({"tone": hertz, "ms": ms})`,
  robot_tune: `def robot_tune(first, count):
    """Plays tones one after the other; 0 hertz is a rest."""
    tell({"tune": [[TUNE_HERTZ[i], TUNE_MS[i]] for i in range(first, first + count)]})`,
  robot_say: `def robot_say(words):
    """Speaks words, or plays a sound of that name."""
    tell({"say": words})`,
  robot_show: `def robot_show(words):
    """Writes on the display."""
    tell({"show": words})`,
  robot_picture: `def robot_picture(picture):
    """Shows a picture on the display."""
    tell({"picture": picture})`,
  robot_servo: `def robot_servo(servo, degrees, degrees_per_second):
    """Turns a servo to an angle; the behaviour goes on meanwhile."""
    tell({"servo": servo, "to": degrees, "dps": degrees_per_second})`,
  robot_gate: `def robot_gate(gate, is_open):
    """Opens or closes a gate."""
    tell({"gate": gate, "open": is_open})`,
  with_number: `def with_number(before, number, after):
    """A whole number between two texts."""
    return before + str(int(number)) + after`,
};

/** As delivered it speaks the protocol over standard input and output. */
export function pythonSide(facts: SideFacts): string[] {
  const takes = facts.sensors.flatMap(({ own, id, name, channels }) =>
    channels === 0
      ? []
      : [
          [name, own, channels],
          [id, own, channels],
        ],
  );
  const cameras = facts.sensors.filter(({ channels }) => channels === 0);
  return `
# --- The robot's side: what to fill in for another robot ---
#
# As it stands it speaks the protocol: a robot's readings come in, commands go out, a JSON object a line. On a robot
# of your own let these functions do it, and call in a loop:
#
#     start_moment(ms, left_mm, right_mm)
${facts.sensors.map(({ own, channels }) => `#     take_${own}(${["first", "second", "third", "fourth"].slice(0, channels).join(", ")})`).join("\n")}
#     end_moment()
${cameras.length > 0 ? `#\n# ${OF_CAMERAS[Number(facts.looks)]}\n` : ""}
import json
import sys
import time


def tell(line):
    """Tells the robot something."""
    sys.stdout.write(json.dumps(line) + "\\n")
    sys.stdout.flush()


${called(PYTHON, facts).join("\n\n\n")}


def robot_note(kind, what, more, also, number):
    """Something happened: a line for the log."""
    words = " ".join(word for word in (kind, what, more, also) if word)
    sys.stderr.write("%.0f ms %s\\n" % (t_now, words))


def clock_ms():
    """A clock, for lines that say no time."""
    return time.time() * 1000.0


TAKES = {
${takes.map(([id, own, channels]) => `    ${JSON.stringify(id)}: (take_${own}, ${channels}),`).join("\n")}
}
CAMERAS = {
${cameras.flatMap(({ own, id, name, camera }) => (camera === undefined ? [] : [name, id].map((known) => `    ${JSON.stringify(known)}: (take_${own}, ${camera.first}, ${camera.setPoint}, ${camera.halfFrame}),`))).join("\n")}
}
STEP_MS = 5.0  # time is carried on in steps as short as a run's
SLACK_MS = 50.0  # a line may come so much late
MOST_GAP_MS = 10000.0  # a robot that says nothing for longer was away
ALIVE_MS = 500.0


class Line:
    """A robot's lines as moments: those of one time belong together."""

    def __init__(self):
        self.zero = None
        self.reached = -1.0
        self.open = None
        self.readings = []
        self.way = [0.0, 0.0]
        self.alive = 0

    def moment(self, t, readings):
        start_moment(t, self.way[0], self.way[1])
        for take, values in readings:
            take(*values)
        end_moment()
        self.reached = max(t, self.reached)
        if t >= self.alive * ALIVE_MS and not finished:
            self.alive += 1
            tell({"alive": self.alive})

    def settle(self):
        if self.open is None:
            return
        t, readings = self.open, self.readings
        self.open, self.readings = None, []
        if self.reached < 0 and t > 0:
            self.moment(0.0, [])
        while self.reached + STEP_MS < t:
            self.moment(self.reached + STEP_MS, [])
        self.moment(t, readings)

    def time_of(self, message):
        at = message.get("t")
        clock = float(clock_ms() if at is None else at)
        reached = max(self.reached, self.open or 0.0, 0.0)
        if self.zero is None:
            self.zero = clock
            return 0.0
        t = clock - self.zero
        if reached <= t <= reached + MOST_GAP_MS:
            return t
        if reached - SLACK_MS <= t < reached:
            return reached
        # The clock went back, or leapt on: it is taken anew from here.
        self.zero = clock - reached
        return reached

    def take(self, message):
        if "hello" in message:
            if message.get("version") != 1:
                raise ValueError("the robot speaks another version")
            return
        if "blobs" in message:
            take, values = CAMERAS[message["s"]][0], []
            found = dict((NAMES.index(target), blob) for target, blob in message["blobs"].items())
        elif "s" in message:
            take, count = TAKES[message["s"]]
            values = [float(x) for x in message["v"]]
            if len(values) != count:
                raise ValueError("%s has %d values" % (message["s"], count))
        elif "e" not in message and "button" not in message and "ask" not in message:
            raise ValueError("the line says nothing that is known")
        t = self.time_of(message)
        if self.open is not None and self.open != t:
            self.settle()
        if "s" in message:
            # One moment brings one reading of a sensor.
            if any(known is take for known, _ in self.readings):
                self.settle()
            self.readings.append((take, values))
${
  cameras.length > 0
    ? `            if "blobs" in message:
                self.see(found, *CAMERAS[message["s"]][1:])
`
    : ""
}        elif "e" in message:
            self.way = [float(x) for x in message["e"]]
        elif "button" in message and message["button"] in BUTTON_IDS:
            press(BUTTON_IDS.index(message["button"]), message["down"])
        self.open = t
        if "ask" in message:
            self.settle()
            done = {"done": message["ask"]}
            if finished:
                done["finished"] = True
            tell(done)
${
  cameras.length > 0
    ? `
    def see(self, found, first, set_point, half_frame):
        """The largest blobs of a frame: left, top, width, height, area."""
        for label in range(1, len(NAMES)):
            left, top, width, height, area = found.get(label, (0, 0, 0, 0, 0))
            x = left + (width - 1) / 2.0
            y = top + (height - 1) / 2.0
            place = (first + label - 1) * BLOB_FIELDS
            blobs[place:place + BLOB_FIELDS] = [area, width, height, x, y, x - set_point, half_frame]
`
    : ""
}

def main():
    line = Line()
    for number, words in enumerate(sys.stdin):
        if not words.strip():
            continue
        try:
            line.take(json.loads(words))
        except (ValueError, KeyError, TypeError) as error:
            tell({"error": str(error) or "the line cannot be read", "line": number + 1})
        if finished:
            break
    line.settle()


if __name__ == "__main__":
    main()
`
    .trimEnd()
    .split("\n");
}

const JAVASCRIPT: Readonly<Record<string, string>> = {
  robot_wheels: `/** Runs the wheels at shares of top speed, -1 to 1. */
function robotWheels(left, right) {
  tell({ wheels: [left, right] });
}`,
  robot_stop: `/** Stops the wheels: brake or coast. */
function robotStop(how) {
  tell({ stop: how });
}`,
  robot_lamp: `/** Lights a lamp in a colour like #e4573d; an empty one switches it off. */
function robotLamp(lamp, colour, blinkHz) {
  tell({ lamp, rgb: colour || null, blink: blinkHz });
}`,
  robot_tone: `/** Sounds a tone; the behaviour goes on meanwhile. */
function robotTone(hertz, ms) {
  tell({ tone: hertz, ms });
}`,
  robot_tune: `/** Plays tones one after the other; 0 hertz is a rest. */
function robotTune(first, count) {
  tell({ tune: TUNE_HERTZ.slice(first, first + count).map((hertz, i) => [hertz, TUNE_MS[first + i]]) });
}`,
  robot_say: `/** Speaks words, or plays a sound of that name. */
function robotSay(words) {
  tell({ say: words });
}`,
  robot_show: `/** Writes on the display. */
function robotShow(words) {
  tell({ show: words });
}`,
  robot_picture: `/** Shows a picture on the display. */
function robotPicture(picture) {
  tell({ picture });
}`,
  robot_servo: `/** Turns a servo to an angle; the behaviour goes on meanwhile. */
function robotServo(servo, degrees, degreesPerSecond) {
  tell({ servo, to: degrees, dps: degreesPerSecond });
}`,
  robot_gate: `/** Opens or closes a gate. */
function robotGate(gate, isOpen) {
  tell({ gate, open: isOpen });
}`,
  with_number: `/** A whole number between two texts. */
function withNumber(before, number, after) {
  return before + number + after;
}`,
};

export function javascriptSide(facts: SideFacts, camel: (name: string) => string): string[] {
  const takes = facts.sensors.flatMap(({ own, id, name, channels }) =>
    channels === 0 ? [] : [[name, own, channels] as const, [id, own, channels] as const],
  );
  const cameras = facts.sensors.filter(({ channels }) => channels === 0);
  return `
/*
 * --- The robot's side: what to fill in for another robot ---
 *
 * As it stands it speaks the protocol: a robot's readings come in, commands go out, a JSON object a line. On a robot
 * of your own let these functions do it, and call in a loop:
 *
 *     startMoment(ms, leftMm, rightMm);
${facts.sensors.map(({ own, channels }) => ` *     ${camel(`take_${own}`)}(${["first", "second", "third", "fourth"].slice(0, channels).join(", ")});`).join("\n")}
 *     endMoment();
${facts.sensors.some(({ channels }) => channels === 0) ? ` *\n * ${OF_CAMERAS[Number(facts.looks)]}\n` : ""} */

/** Tells the robot something. */
let tell = (line) => process.stdout.write(JSON.stringify(line) + "\\n");
/** Something happened: a line for the log. */
let robotNote = (kind, what, more, also, number) =>
  process.stderr.write(tNow + " ms " + [kind, what, more, also].filter((word) => word !== "").join(" ") + "\\n");

/** Lets others hear what is told and noted. */
export function listen(told, noted) {
  tell = told;
  robotNote = noted;
}

${called(JAVASCRIPT, facts).join("\n\n")}

/** A clock, for lines that say no time. */
const clockMs = () => Date.now();

const TAKES = new Map([
${takes.map(([id, own, channels]) => `  [${JSON.stringify(id)}, [${camel(`take_${own}`)}, ${channels}]],`).join("\n")}
]);
const CAMERAS = new Map([
${cameras.flatMap(({ own, id, name, camera }) => (camera === undefined ? [] : [name, id].map((known) => `  [${JSON.stringify(known)}, [${camel(`take_${own}`)}, ${camera.first}, ${camera.setPoint}, ${camera.halfFrame}]],`))).join("\n")}
]);
const STEP_MS = 5; /* time is carried on in steps as short as a run's */
const SLACK_MS = 50; /* a line may come so much late */
const MOST_GAP_MS = 10000; /* a robot that says nothing for longer was away */
const ALIVE_MS = 500;

/** A robot's lines as moments: those of one time belong together. */
class Line {
  zero = null;
  reached = -1;
  open = null;
  readings = [];
  way = [0, 0];
  alive = 0;

  moment(t, readings) {
    startMoment(t, this.way[0], this.way[1]);
    for (const [take, values] of readings) take(...values);
    endMoment();
    this.reached = Math.max(t, this.reached);
    if (t >= this.alive * ALIVE_MS && !finished) tell({ alive: ++this.alive });
  }

  settle() {
    const { open: t, readings } = this;
    if (t === null) return;
    this.open = null;
    this.readings = [];
    if (this.reached < 0 && t > 0) this.moment(0, []);
    while (this.reached + STEP_MS < t) this.moment(this.reached + STEP_MS, []);
    this.moment(t, readings);
  }

  timeOf(message) {
    const clock = message.t ?? clockMs();
    const reached = Math.max(this.reached, this.open ?? 0, 0);
    if (this.zero === null) {
      this.zero = clock;
      return 0;
    }
    const t = clock - this.zero;
    if (t >= reached && t <= reached + MOST_GAP_MS) return t;
    if (t < reached && t >= reached - SLACK_MS) return reached;
    /* The clock went back, or leapt on: it is taken anew from here. */
    this.zero = clock - reached;
    return reached;
  }

  take(message) {
    if ("hello" in message) {
      if (message.version !== 1) throw new Error("the robot speaks another version");
      return;
    }
    const isFrame = "blobs" in message;
    const known = "s" in message ? (isFrame ? CAMERAS : TAKES).get(message.s) : undefined;
    if ("s" in message) {
      if (known === undefined) throw new Error("there is no sensor " + message.s);
      if (!isFrame && message.v.length !== known[1]) throw new Error(message.s + " has " + known[1] + " values");
    } else if (!("e" in message) && !("button" in message) && !("ask" in message)) throw new Error("the line says nothing that is known");
    const t = this.timeOf(message);
    if (this.open !== null && this.open !== t) this.settle();
    if (known !== undefined) {
      /* One moment brings one reading of a sensor. */
      if (this.readings.some(([take]) => take === known[0])) this.settle();
      this.readings.push([known[0], isFrame ? [] : message.v]);
${cameras.length > 0 ? "      if (isFrame) this.see(message.blobs, ...known.slice(1));\n" : ""}    } else if ("e" in message) this.way = message.e;
    else if (BUTTON_IDS.includes(message.button)) press(BUTTON_IDS.indexOf(message.button), message.down);
    this.open = t;
    if ("ask" in message) {
      this.settle();
      tell({ done: message.ask, ...(finished && { finished: true }) });
    }
  }
${
  cameras.length > 0
    ? `
  /** The largest blobs of a frame: left, top, width, height, area. */
  see(found, first, setPoint, halfFrame) {
    for (let label = 1; label < NAMES.length; label++) {
      const [left, top, width, height, area] = found[NAMES[label]] ?? [0, 0, 0, 0, 0];
      const x = left + (width - 1) / 2;
      const y = top + (height - 1) / 2;
      const all = [area, width, height, x, y, x - setPoint, halfFrame];
      all.forEach((value, i) => {
        blobs[(first + label - 1) * BLOB_FIELDS + i] = value;
      });
    }
  }
`
    : ""
}}

async function main() {
  const line = new Line();
  let rest = "";
  let number = 0;
  const take = (words) => {
    number++;
    if (words.trim() === "") return;
    try {
      line.take(JSON.parse(words));
    } catch (error) {
      tell({ error: error.message, line: number });
    }
  };
  for await (const part of process.stdin) {
    const all = (rest + part).split("\\n");
    rest = all.pop();
    for (const words of all) if (!finished) take(words);
    if (finished) break;
  }
  if (!finished && rest !== "") take(rest);
  line.settle();
}

/* It runs when it is started by itself, not where it is imported. */
if (typeof process !== "undefined" && process.argv && process.argv[1]) {
  const started = encodeURI(process.argv[1].split(/[\\\\/]/).pop());
  if (import.meta.url.split("/").pop() === started) main();
}
`
    .trimEnd()
    .split("\n");
}

const C: Readonly<Record<string, string>> = {
  robot_wheels: `/* Runs the wheels at shares of top speed, -1 to 1. */
static inline void robot_wheels(double left, double right) {
  printf("{\\"wheels\\": [%.17g, %.17g]}\\n", left, right);
}`,
  robot_stop: `/* Stops the wheels: brake or coast. */
static inline void robot_stop(const char *how) {
  printf("{\\"stop\\": \\"%s\\"}\\n", how);
}`,
  robot_lamp: `/* Lights a lamp in a colour like #e4573d; an empty one switches it off. */
static inline void robot_lamp(const char *lamp, const char *colour, double blink_hz) {
  printf("{\\"lamp\\": \\"%s\\", \\"rgb\\": ", lamp);
  if (colour[0] == 0) printf("null"); else print_words(colour);
  printf(", \\"blink\\": %.17g}\\n", blink_hz);
}`,
  robot_tone: `/* Sounds a tone; the behaviour goes on meanwhile. */
static inline void robot_tone(double hertz, double ms) {
  printf("{\\"tone\\": %.17g, \\"ms\\": %.17g}\\n", hertz, ms);
}`,
  robot_tune: `/* Plays tones one after the other; 0 hertz is a rest. */
static inline void robot_tune(int first, int count) {
  printf("{\\"tune\\": [");
  for (int i = first; i < first + count; i++)
    printf("%s[%.17g, %.17g]", i == first ? "" : ", ", TUNE_HERTZ[i], TUNE_MS[i]);
  printf("]}\\n");
}`,
  robot_say: `/* Speaks words, or plays a sound of that name. */
static inline void robot_say(const char *words) {
  printf("{\\"say\\": ");
  print_words(words);
  printf("}\\n");
}`,
  robot_show: `/* Writes on the display. */
static inline void robot_show(const char *words) {
  printf("{\\"show\\": ");
  print_words(words);
  printf("}\\n");
}`,
  robot_picture: `/* Shows a picture on the display. */
static inline void robot_picture(const char *picture) {
  printf("{\\"picture\\": \\"%s\\"}\\n", picture);
}`,
  robot_servo: `/* Turns a servo to an angle; the behaviour goes on meanwhile. */
static inline void robot_servo(const char *servo, double degrees, double degrees_per_second) {
  printf("{\\"servo\\": \\"%s\\", \\"to\\": %.17g, \\"dps\\": %.17g}\\n", servo, degrees, degrees_per_second);
}`,
  robot_gate: `/* Opens or closes a gate. */
static inline void robot_gate(const char *gate, bool is_open) {
  printf("{\\"gate\\": \\"%s\\", \\"open\\": %s}\\n", gate, is_open ? "true" : "false");
}`,
  with_number: `/* A whole number between two texts; it stands until the next one. */
static inline const char *with_number(const char *before, double number, const char *after) {
  static char words[512];
  snprintf(words, sizeof words, "%s%.0f%s", before, number + 0.0, after);
  return words;
}`,
};

export function cSide(facts: SideFacts): string[] {
  const read = facts.sensors.filter(({ channels }) => channels > 0);
  const most = Math.max(1, ...read.map(({ channels }) => channels));
  return `
/*
 * --- The robot's side: what to fill in for another robot ---
 *
 * As it stands it prints what the robot is to do, a JSON object a line. With PERCEPTUM_OWN_ROBOT defined none of it is
 * here, and you write these functions. Call in a loop:
 *
 *     start_moment(ms, left_mm, right_mm);
${facts.sensors.map(({ own, channels }) => ` *     take_${own}(${["first", "second", "third", "fourth"].slice(0, channels).join(", ")});`).join("\n")}
 *     end_moment();
${facts.sensors.length > read.length ? ` *\n * ${OF_CAMERAS[Number(facts.looks)]}\n` : ""} */
#ifndef PERCEPTUM_OWN_ROBOT
#include <stdio.h>

/* A text as JSON writes it. */
static inline void print_words(const char *words) {
  putchar('"');
  for (; *words != 0; words++) {
    if (*words == '"' || *words == '\\\\') putchar('\\\\');
    putchar(*words);
  }
  putchar('"');
}

${called(C, facts).join("\n\n")}

/* Something happened: a line for the log. */
static inline void robot_note(const char *kind, const char *what, const char *more, const char *also, double number) {
  (void)number;
  fprintf(stderr, "%.0f ms %s %s %s %s\\n", t_now, kind, what, more, also);
}
#endif

#ifdef PERCEPTUM_MAIN
/*
 * Each line of the standard input is a moment: the time in ms, the ways of both wheels in mm, the number of a sensor
 * (${read.map(({ id }, i) => `${facts.sensors.findIndex((s) => s.id === id)} ${id}${i < read.length - 1 ? ", " : ""}`).join("")}) and its raw values in wire order.
 */
int main(void) {
  double ms, left, right;
  int sensor;
  while (!finished && scanf("%lf %lf %lf %d", &ms, &left, &right, &sensor) == 4) {
    static const int channels[] = { ${facts.sensors.map(({ channels }) => channels).join(", ")} };
    double v[${most}] = { 0 };
    if (sensor < 0 || sensor >= ${facts.sensors.length}) return 1;
    for (int i = 0; i < channels[sensor]; i++) if (scanf("%lf", &v[i]) != 1) return 1;
    start_moment(ms, left, right);
    switch (sensor) {
${read.map(({ own, id, channels }) => `      case ${facts.sensors.findIndex((s) => s.id === id)}: take_${own}(${Array.from({ length: channels }, (_, i) => `v[${i}]`).join(", ")}); break;`).join("\n")}
    }
    end_moment();
  }
  return 0;
}
#endif
`
    .trimEnd()
    .split("\n");
}
