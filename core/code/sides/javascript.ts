import { called, OF_CAMERAS, type SideFacts } from "./facts";

const JAVASCRIPT: Readonly<Record<string, string>> = {
  with_number: `/** A whole number between two texts. */
function withNumber(before, number, after) {
  return before + number + after;
}`,
  colour_text: `/** A colour 0xRRGGBB like #e4573d; an empty text for one below 0. */
function colourText(colour) {
  return colour < 0 ? "" : "#" + colour.toString(16).padStart(6, "0");
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
  process.stderr.write(now + " ms " + [kind, what, more, also].filter((word) => word !== "").join(" ") + "\\n");

/** Lets others hear what is told and noted. */
export function listen(told, noted) {
  tell = told;
  robotNote = noted;
}

${called("javascript", JAVASCRIPT, facts).join("\n\n")}

/** A clock, for lines that say no time. */
const clockMs = () => Date.now();

const TAKES = new Map([
${takes.map(([id, own, channels]) => `  [${JSON.stringify(id)}, [${camel(`take_${own}`)}, ${channels}]],`).join("\n")}
]);
const CAMERAS = new Map([
${cameras.flatMap(({ own, id, name, camera }) => (camera === undefined ? [] : [name, id].map((known) => `  [${JSON.stringify(known)}, [${camel(`take_${own}`)}, ${camera.first}, ${camera.setPoint}, ${camera.halfFrame}]],`))).join("\n")}
]);
const ALIVE_MS = 500;

/** A robot's lines as moments: those of one time belong together. */
class Line {
  readings = [];
  presses = [];
  way = [0, 0];
  nextWay = null;
  alive = 0;
  stranger = false;

  moment(t, readings) {
    startMoment(t, this.way[0], this.way[1]);
    for (const [take, values] of readings) take(...values);
    endMoment();
    lived(t);
    if (t >= this.alive * ALIVE_MS && !hasFinished) tell({ alive: ++this.alive });
  }

  settle() {
    const { readings } = this;
    const t = openMs;
    if (Number.isNaN(t)) return;
    this.readings = [];
    for (let idle = idleBefore(t, false); !Number.isNaN(idle); idle = idleBefore(t, false)) this.moment(idle, []);
    /* What was before the line counts until its moment. */
    this.way = this.nextWay ?? this.way;
    this.nextWay = null;
    for (const [button, isDown] of this.presses) press(button, isDown);
    this.presses = [];
    this.moment(t, readings);
  }

  take(message) {
    if ("hello" in message) this.stranger = message.version !== 1;
    if (this.stranger) throw new Error("the robot speaks another version: nothing of it is taken");
    if ("hello" in message) return;
    const isFrame = "blobs" in message;
    const known = "s" in message ? (isFrame ? CAMERAS : TAKES).get(message.s) : undefined;
    if ("s" in message) {
      if (known === undefined) throw new Error("there is no sensor " + message.s);
      if (!isFrame && message.v.length !== known[1]) throw new Error(message.s + " has " + known[1] + " values");
    } else if (!("e" in message) && !("button" in message) && !("ask" in message)) throw new Error("the line says nothing that is known");
    const t = timeOfLine(message.t ?? clockMs());
    if (openMs !== t) this.settle();
    if (known !== undefined) {
      /* One moment brings one reading of a sensor. */
      if (this.readings.some(([take]) => take === known[0])) this.settle();
      this.readings.push([known[0], isFrame ? [] : message.v]);
${cameras.length > 0 ? "      if (isFrame) this.see(message.blobs, ...known.slice(1));\n" : ""}    } else if ("e" in message) this.nextWay = message.e;
    else if (IDS_OF_BUTTONS.includes(message.button)) this.presses.push([IDS_OF_BUTTONS.indexOf(message.button), message.down]);
    openMoment(t);
    if ("ask" in message) {
      this.settle();
      tell({ done: message.ask, ...(hasFinished && { finished: true }) });
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
        blobs[(first + label - 1) * BLOB_CELLS + i] = value;
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
    for (const words of all) if (!hasFinished) take(words);
    if (hasFinished) break;
  }
  if (!hasFinished && rest !== "") take(rest);
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
