import { describe, expect, it } from "vitest";
import type { Note } from "../../behaviour";
import { NAMES } from "../../behaviour/arbitrary";
import { type CourseId, numbered, type TargetId } from "../../names";
import { emptyCourse } from "..";
import { drawn } from "../drawn";
import type { Answer, Passage, Trace } from "../trace";
import { type Check, judgeCheck, parseCheck } from ".";
import { CHECK_KINDS } from "./schema";

const [coral, teal, chalk] = ["coral", "teal", "chalk"] as TargetId[];
const course = drawn(
  {
    ...emptyCourse("yard" as CourseId, "Yard", "slate" as TargetId),
    size: [2000, 1000],
    patches: numbered("patch", [
      { shape: { rect: [100, 100] }, target: coral, at: [500, 500], angle: 0 },
      { shape: { rect: [100, 100] }, target: coral, at: [1000, 500], angle: 0 },
      { shape: { rect: [100, 100] }, target: teal, at: [1500, 500], angle: 0 },
    ]),
    lines: numbered("line", [
      {
        points: [
          [0, 500],
          [2000, 500],
        ],
        width: 20,
        target: chalk,
      },
    ]),
    zones: numbered("zone", [{ name: "Bay", shape: { rect: [200, 200] }, at: [1900, 500], angle: 45 }]),
  },
  1,
);

/** A sensor that read nothing. */
const EYE: Trace["eyes"][number] = {
  sensor: "belly" as never,
  height: 14,
  readings: { t: new Float64Array(), channels: {} },
  labels: new Uint8Array(),
  seen: new Uint8Array(),
  truth: new Uint8Array(),
};
const under = (target: TargetId, share = 1) => [{ target, share }];

/** A cart that goes 400 mm/s from x = 100 to 1900 in 4.5 s along y, and then stands for half a second. */
function trace(over: Partial<Trace> = {}, y = 500): Trace {
  const ticks = 1001;
  const at = (i: number) => Math.min(1900, 100 + i * 2);
  const x = Float64Array.from({ length: ticks }, (_, i) => at(i));
  return {
    course,
    start: "here",
    light: "noon" as Trace["light"],
    seed: 1,
    tickMs: 5,
    targets: [coral, teal, chalk],
    x,
    y: new Float64Array(ticks).fill(y),
    heading: new Float64Array(ticks),
    sin: new Float64Array(ticks),
    cos: new Float64Array(ticks).fill(1),
    eyeX: x.map((v) => v + 40),
    eyeY: new Float64Array(ticks).fill(y),
    speed: Float64Array.from({ length: ticks }, (_, i) => (i < 900 ? 400 : 0)),
    slipping: new Uint8Array(ticks),
    eyes: [EYE, EYE],
    notes: [],
    outputs: [],
    passages: [],
    listeners: new Map(),
    answers: [],
    ending: "finished",
    endMs: 5000,
    underAtEnd: [],
    ...over,
  };
}

const arrives = (t: number, target: TargetId, sensor = "belly"): Note => ({
  t,
  kind: "arrives",
  sensor: sensor as never,
  target,
});
const logs = (t: number, text: string): Note => ({ t, kind: "log", text });
const counts = (t: number, value: number): Note => ({ t, kind: "counter", counter: "tally", value });
const shows = (t: number, text: string) => ({ t, command: { kind: "show" as const, text } });
const departs = (t: number, target: TargetId, sensor = "belly"): Note => ({
  t,
  kind: "departs",
  sensor: sensor as never,
  target,
});
const pictures = (t: number) => ({ t, command: { kind: "picture" as const, picture: "drop" as const } });
const lights = (t: number, lamp: string, colour: string | null = "#00ff00") => ({
  t,
  command: { kind: "lamp" as const, lamp, colour, blinkHz: 0 },
});
const speaks = (t: number, text: string) => ({ t, command: { kind: "say" as const, text } });
/** A servo that turns by 60 degrees a second. */
const turns = (t: number, degrees: number) => ({
  t,
  command: { kind: "servo" as const, servo: "arm", degrees, degreesPerSecond: 60 },
});
const over = (patch: number, target: TargetId, entered: number, left?: number, eye = 0): Passage => ({
  patch,
  target,
  eye,
  entered,
  ...(left !== undefined && { left }),
});
const answer = (t: number, target: TargetId, patch: number, truth = target): Answer => ({
  t,
  response: "water" as never,
  target,
  eye: 0,
  truth,
  patch,
});

const bothCorals = [over(0, coral, 900, 1100), over(1, coral, 2100, 2300)];
const notFinished: Partial<Trace> = { ending: "time is over" };

type Case = [what: string, check: Check, trace: Trace, outcome: string, figure?: string, t?: number];
const CASES: Case[] = [
  // Sees in order.
  [
    "others may come between",
    { seesInOrder: [coral, teal] },
    trace({ notes: [arrives(1, coral), arrives(2, chalk), arrives(3, teal)] }),
    "holds",
    "2/2",
    3,
  ],
  [
    "the order counts",
    { seesInOrder: [coral, teal] },
    trace({ notes: [arrives(1, teal), arrives(2, coral)] }),
    "does not",
    "1/2",
    5000,
  ],
  ["one twice is two", { seesInOrder: [coral, coral] }, trace({ notes: [arrives(1, coral)] }), "does not", "1/2"],
  [
    "what may yet come is open",
    { seesInOrder: [coral, teal] },
    trace({ ...notFinished, notes: [arrives(1, coral)] }),
    "not reached",
    "1/2",
  ],
  // Answers once.
  [
    "each patch once",
    { answersOnce: coral },
    trace({ passages: bothCorals, answers: [answer(950, coral, 0), answer(2150, coral, 1)] }),
    "holds",
    "2/2",
    2150,
  ],
  [
    "twice is once too often, from the second on",
    { answersOnce: coral },
    trace({ passages: bothCorals, answers: [answer(950, coral, 0), answer(1050, coral, 0), answer(2150, coral, 1)] }),
    "does not",
    "1/2",
    1050,
  ],
  [
    "one is missed when the sensor has left it",
    { answersOnce: coral },
    trace({ passages: bothCorals, answers: [answer(950, coral, 0)] }),
    "does not",
    "1/2",
    2300,
  ],
  [
    "while the sensor is over it the answer may yet come",
    { answersOnce: coral },
    trace({ passages: [bothCorals[0], over(1, coral, 2100)], answers: [answer(950, coral, 0)] }),
    "not reached",
    "1/2",
  ],
  [
    "an answer to something else is none",
    { answersOnce: coral },
    trace({ passages: bothCorals, answers: [answer(950, coral, 0), answer(2150, teal, 1, coral)] }),
    "does not",
    "1/2",
  ],
  [
    "a sensor that no response listens to misses nothing",
    { answersOnce: coral },
    trace({
      passages: [...bothCorals, over(1, coral, 100, 200, 1)],
      answers: [answer(950, coral, 0), answer(2150, coral, 1)],
      listeners: new Map([[coral, new Set([0])]]),
    }),
    "holds",
    "2/2",
  ],
  ["a patch that was never come to is open", { answersOnce: teal }, trace(), "not reached", "0/1"],
  // Never answers.
  ["nothing answered", { neverAnswers: chalk }, trace({ answers: [answer(1, coral, 0)] }), "holds", "0 times", 5000],
  [
    "taken for another",
    { neverAnswers: chalk },
    trace({ answers: [answer(7, coral, 0, chalk)] }),
    "does not",
    "1 time",
    7,
  ],
  // Ends on, ends in.
  ["what lies under the sensor", { endsOn: teal }, trace({ underAtEnd: under(teal) }), "holds", "teal", 5000],
  ["something else", { endsOn: teal }, trace({ underAtEnd: under(coral) }), "does not", "coral"],
  ["nothing", { endsOn: teal }, trace(), "does not", "—"],
  [
    "an edge that the spot touches",
    { endsOn: teal },
    trace({ underAtEnd: [...under(chalk, 0.9), ...under(teal, 0.1)] }),
    "holds",
    "teal",
  ],
  ["no end", { endsOn: teal }, trace({ ...notFinished, underAtEnd: under(teal) }), "not reached", "—"],
  ["inside a turned zone", { endsIn: "Bay" }, trace(), "holds", "inside", 5000],
  ["outside it", { endsIn: "Bay" }, trace({}, 660), "does not", "outside"],
  ["a zone that is not there", { endsIn: "Shed" }, trace(), "does not", "no such zone"],
  ["no end, no zone", { endsIn: "Bay" }, trace(notFinished), "not reached", "—"],
  // Counts.
  ["the last number", { counter: "tally", is: 2 }, trace({ notes: [counts(5, 1), counts(9, 2)] }), "holds", "2", 9],
  ["too many", { counter: "tally", is: 1 }, trace({ notes: [counts(5, 1), counts(9, 2)] }), "does not", "2", 9],
  ["never counted is 0", { counter: "tally", is: 0 }, trace(), "holds", "0", 5000],
  [
    "may yet come to it",
    { counter: "tally", is: 2 },
    trace({ ...notFinished, notes: [counts(5, 1)] }),
    "not reached",
    "1",
  ],
  [
    "is over it already",
    { counter: "tally", is: 1 },
    trace({ ...notFinished, notes: [counts(9, 2)] }),
    "does not",
    "2",
  ],
  // Finishes within.
  ["in time", { withinMs: 5000 }, trace(), "holds", "5.0 s", 5000],
  ["too late", { withinMs: 4000 }, trace(), "does not", "5.0 s", 4000],
  ["never", { withinMs: 4000 }, trace(notFinished), "does not", "—", 4000],
  ["not yet", { withinMs: 9000 }, trace(notFinished), "not reached", "—"],
  // The log and the display.
  [
    "its lines and no others",
    { logIs: ["a", "b"] },
    trace({ notes: [logs(1, "a"), logs(2, "b")] }),
    "holds",
    "2/2",
    5000,
  ],
  ["one line more", { logIs: ["a"] }, trace({ notes: [logs(1, "a"), logs(2, "b")] }), "does not", "“b”", 2],
  ["another line", { logIs: ["a", "b"] }, trace({ notes: [logs(3, "b")] }), "does not", "“b”", 3],
  ["a line less", { logIs: ["a", "b"] }, trace({ notes: [logs(1, "a")] }), "does not", "1/2"],
  [
    "a line that may yet come",
    { logIs: ["a", "b"] },
    trace({ ...notFinished, notes: [logs(1, "a")] }),
    "not reached",
    "1/2",
  ],
  ["none at all", { logIs: [] }, trace(), "holds", "0/0"],
  [
    "the last text",
    { shownIs: "bay 2" },
    trace({ outputs: [shows(1, "bay 1"), shows(4, "bay 2")] }),
    "holds",
    "“bay 2”",
    4,
  ],
  [
    "another text",
    { shownIs: "bay 1" },
    trace({ outputs: [shows(1, "bay 1"), shows(4, "bay 2")] }),
    "does not",
    "“bay 2”",
    4,
  ],
  [
    "an icon counts by its name",
    { shownIs: "drop" },
    trace({ outputs: [{ t: 2, command: { kind: "picture", picture: "drop" } }] }),
    "holds",
  ],
  [
    "another text when time was over",
    { shownIs: "bay 1" },
    trace({ ...notFinished, outputs: [shows(1, "bay 1"), shows(4, "bay 2")] }),
    "does not",
    "“bay 2”",
    4,
  ],
  ["a text that may yet come", { shownIs: "bay 2" }, trace(notFinished), "not reached", "“”"],
  [
    "a picture",
    { shownIs: { picture: "drop" } },
    trace({ outputs: [pictures(2)] }),
    "holds",
    "the picture of a drop",
    2,
  ],
  ["a text is no picture", { shownIs: { picture: "drop" } }, trace({ outputs: [shows(2, "drop")] }), "does not"],
  // Lamps, what is said, servos.
  [
    "lit from the arrival on",
    { lampLit: "go", whileSeen: coral },
    trace({
      notes: [arrives(1000, coral), departs(2000, coral)],
      outputs: [lights(1000, "go"), lights(2500, "go", null)],
    }),
    "holds",
    "1 visit",
  ],
  [
    "dark before the departure",
    { lampLit: "go", whileSeen: coral },
    trace({
      notes: [arrives(1000, coral), departs(2000, coral)],
      outputs: [lights(1000, "go"), lights(1500, "go", null)],
    }),
    "does not",
    "dark",
    1500,
  ],
  [
    "another lamp",
    { lampLit: "main", whileSeen: coral },
    trace({ notes: [arrives(1000, coral)], outputs: [lights(1000, "go")] }),
    "does not",
    "dark",
    1050,
  ],
  [
    "dark while another sensor still sees it",
    { lampLit: "go", whileSeen: coral },
    trace({
      notes: [arrives(1000, coral), arrives(1100, coral, "nose"), departs(2000, coral), departs(3000, coral, "nose")],
      outputs: [lights(1000, "go"), lights(2000, "go", null)],
    }),
    "does not",
    "dark",
    2000,
  ],
  ["not seen yet", { lampLit: "go", whileSeen: coral }, trace(notFinished), "not reached", "0 visits"],
  [
    "one after the other",
    { lampsLit: 1 },
    trace({ outputs: [lights(5, "go"), lights(9, "go", null), lights(9, "stop")] }),
    "holds",
    "1 lit",
  ],
  ["two at once", { lampsLit: 1 }, trace({ outputs: [lights(5, "go"), lights(9, "stop")] }), "does not", "2 lit", 9],
  ["dark again", { lampsLit: 1 }, trace({ outputs: [lights(5, "go"), lights(9, "go", null)] }), "does not", "0 lit", 9],
  ["never lit", { lampsLit: 1 }, trace(), "does not", "0 lit", 5000],
  [
    "among others",
    { says: "thirsty" },
    trace({ outputs: [speaks(2, "hello"), speaks(4, "thirsty")] }),
    "holds",
    "said",
    4,
  ],
  ["only others", { says: "thirsty" }, trace({ outputs: [speaks(2, "hello")] }), "does not", "not said", 5000],
  ["nothing yet", { says: "thirsty" }, trace(notFinished), "not reached", "not said"],
  ["there", { servo: "arm", atDegrees: 90 }, trace({ outputs: [turns(0, 0), turns(1000, 90)] }), "holds", "90°"],
  [
    "on its way",
    { servo: "arm", atDegrees: 90 },
    trace({ outputs: [turns(0, 0), turns(4500, 90)] }),
    "does not",
    "30°",
  ],
  ["never told", { servo: "arm", atDegrees: 90 }, trace(), "does not", "not told"],
  // Stops within.
  [
    "the way from the edge to the stand",
    { stopsWithinMm: 300, after: teal },
    trace({ passages: [over(2, teal, 4000)] }),
    "holds",
    "20.0 cm",
    4500,
  ],
  [
    "too long a way",
    { stopsWithinMm: 150, after: teal },
    trace({ passages: [over(2, teal, 4000)] }),
    "does not",
    "over 15.0 cm",
    4375,
  ],
  [
    "the worst of several",
    { stopsWithinMm: 300, after: coral },
    trace({ passages: [over(0, coral, 900), over(1, coral, 4400)] }),
    "does not",
    "over 30.0 cm",
  ],
  [
    "still moving at the end",
    { stopsWithinMm: 9000, after: coral },
    trace({ passages: [over(0, coral, 4900)], speed: new Float64Array(1001).fill(400) }),
    "not reached",
    "still moving",
  ],
  ["never over it", { stopsWithinMm: 300, after: teal }, trace(), "not reached", "—"],
  // Stays within.
  ["on the line", { staysWithinMm: 30, stays: chalk }, trace({}, 510), "holds", "at most 1.0 cm"],
  ["off it after having been on it", { staysWithinMm: 30, stays: chalk }, wandering(), "does not", "over 3.0 cm", 2505],
  ["never near it", { staysWithinMm: 30, stays: chalk }, trace({}, 700), "not reached", "—"],
  ["no such line", { staysWithinMm: 30, stays: teal }, trace(), "not reached", "no such line"],
  // Slips.
  ["wheels that hold", { neverSlips: true }, trace(), "holds", "0 ms", 5000],
  [
    "wheels that slip for three ticks",
    { neverSlips: true },
    trace({ slipping: slippingAt(100, 101, 500) }),
    "does not",
    "15 ms",
    500,
  ],
  ["the middle comes into it", { visits: "Bay", times: 1 }, trace(), "holds", "1/1", 4150],
  ["it comes into it once", { visits: "Bay", times: 2 }, trace(), "does not", "1/2", 5000],
  ["it passes beside it", { visits: "Bay", times: 1 }, trace({ ending: "time is over" }, 900), "not reached", "0/1"],
  ["there is none", { visits: "Shed", times: 1 }, trace(), "does not", "no such zone"],
  [
    "it comes into it twice",
    { visits: "Bay", times: 1 },
    trace({ x: Float64Array.from({ length: 1001 }, (_, i) => (i % 500 < 250 ? 100 : 1900)) }),
    "does not",
    "2/1",
    3750,
  ],
  [
    "there and back",
    { shuttlesBetween: [coral, teal], times: 1 },
    trace({ notes: [arrives(1000, coral), arrives(1500, chalk), arrives(2000, teal), arrives(3000, coral)] }),
    "holds",
    "1/1",
    3000,
  ],
  [
    "there and not back",
    { shuttlesBetween: [coral, teal], times: 1 },
    trace({ notes: [arrives(1000, coral), arrives(1400, coral), arrives(2000, teal)] }),
    "does not",
    "0/1",
  ],
  ["it ends elsewhere", { neverHitsEnd: true }, trace(), "holds"],
  ["it ran into it", { neverHitsEnd: true }, trace({ ending: "ran into the end" }), "does not", "1 time", 5000],
];

CASES.push(
  [
    "only its own",
    { crate: "coral-crate", only: coral },
    sorted("coral-crate", "teal-crate", "end-crate"),
    "holds",
    "1/1",
    10,
  ],
  ["another one", { crate: "coral-crate", only: coral }, sorted("coral-crate", "coral-crate"), "does not", "1/2", 20],
  ["none at all", { crate: "teal-crate", only: teal }, sorted("coral-crate", "end-crate"), "does not", "0/0", 5000],
  [
    "as many",
    { crate: "coral-crate", count: 2 },
    sorted("coral-crate", "coral-crate", "end-crate"),
    "holds",
    "2/2",
    20,
  ],
  [
    "too few",
    { crate: "coral-crate", count: 2 },
    sorted("coral-crate", "end-crate", "end-crate"),
    "does not",
    "1/2",
    5000,
  ],
  ["too many", { crate: "coral-crate", count: 1 }, sorted("coral-crate", "coral-crate"), "does not", "2/1", 20],
  [
    "too few yet",
    { crate: "coral-crate", count: 2 },
    { ...sorted("coral-crate"), ...notFinished },
    "not reached",
    "1/2",
  ],
  ["all of them", { sortsEveryPiece: true }, sorted("coral-crate", "teal-crate", "end-crate"), "holds", "3/3", 30],
  ["one elsewhere", { sortsEveryPiece: true }, sorted("coral-crate", "end-crate", "end-crate"), "does not", "2/3", 20],
  ["one still there", { sortsEveryPiece: true }, sorted("coral-crate", "teal-crate"), "not reached", "2/3"],
  ["wherever they are", { losesNoPiece: true }, sorted("end-crate", "end-crate", "coral-crate"), "holds", "0 lost", 30],
  ["one jammed", { losesNoPiece: true }, sorted("coral-crate", null, "end-crate"), "does not", "1 lost", 20],
  ["one to come", { losesNoPiece: true }, sorted("coral-crate", "end-crate"), "not reached", "0 lost"],
  ["wrong but whole", { jamsNever: true }, sorted("end-crate"), "holds", "0 times", 5000],
  ["twice", { jamsNever: true }, sorted(null, null, "end-crate"), "does not", "2 times", 10],
  // In five seconds three pieces, two, one.
  ["36 a minute", { piecesAMinute: 36 }, sorted("end-crate", "end-crate", "end-crate"), "holds", "36 a minute", 5000],
  ["not so many", { piecesAMinute: 36 }, sorted("end-crate", null, "end-crate"), "does not", "24 a minute", 5000],
  ["one alone", { piecesAMinute: 12 }, sorted("end-crate"), "holds", "12 a minute", 5000],
  ["on a floor", { sortsEveryPiece: true }, trace(), "not reached", "–"],
);

/** A belt with a coral, a teal and a chalk piece, and where they fell, 10 ms apart: null where a gate jammed one. */
function sorted(...into: (string | null)[]): Trace {
  const at = (x: number): [number, number] => [x, 60];
  const patches = [coral, teal, chalk].map((target, i) => ({
    as: "piece" as const,
    shape: { disc: 50 },
    target,
    at: at(-100 * i),
    angle: 0,
  }));
  const made = trace();
  const gates = ["coral", "teal"].map((id) => ({
    id: `${id}-gate`,
    atMm: 200,
    crate: `${id}-crate`,
    travelMs: 0,
    reachMm: 80,
  }));
  return {
    ...made,
    course: { ...made.course, patches, signs: [], cards: [], lines: [] },
    belt: {
      gates,
      crates: ["coral-crate", "teal-crate", "end-crate"].map((id) => ({ id, name: id })),
      end: "end-crate",
      looksAt: [50],
      belongs: { coral: "coral-crate", teal: "teal-crate" } as Record<TargetId, string>,
    },
    notes: into.map((crate, piece) => ({
      t: 10 * (piece + 1),
      kind: "piece" as const,
      piece,
      target: [coral, teal, chalk][piece],
      into: crate,
      ...(crate !== "end-crate" && { gate: `${crate?.split("-")[0] ?? "teal"}-gate` }),
    })),
  };
}

/** On the line for half of the time, and then beside it. */
function wandering(): Trace {
  const made = trace();
  return { ...made, eyeY: made.eyeY.map((y, i) => (i > 500 ? y + 31 : y)) };
}

function slippingAt(...ticks: number[]): Trace["slipping"] {
  const slipping = new Uint8Array(1001);
  for (const tick of ticks) slipping[tick] = 1;
  return slipping;
}

const keyOf = (check: Check) => CHECK_KINDS.find((kind) => kind.key in check)?.key ?? "";

describe("checks on runs that are known", () => {
  it.each(CASES.map((c): [string, Case] => [`${keyOf(c[1])}: ${c[0]}`, c]))(
    "%s",
    (_, [, check, made, outcome, figure, t]) => {
      const verdict = judgeCheck(check, made);
      expect(verdict.outcome).toBe(outcome);
      if (figure !== undefined) expect(verdict.figure).toBe(figure);
      if (t !== undefined) expect(verdict.t).toBe(t);
    },
  );

  it("are of every kind, with every outcome that it can have", () => {
    for (const { key } of CHECK_KINDS) {
      const outcomes = new Set(CASES.filter(([, check]) => keyOf(check) === key).map(([, , , outcome]) => outcome));
      expect(outcomes.has("holds") && outcomes.has("does not"), key).toBe(true);
    }
  });

  it("have a time where they are decided, and none where they are not", () => {
    for (const [what, check, made, outcome] of CASES)
      expect(judgeCheck(check, made).t === undefined, what).toBe(outcome === "not reached");
  });

  it("say why where they do not hold or were not reached, and nothing where they hold", () => {
    for (const [what, check, made, outcome] of CASES) {
      const { why } = judgeCheck(check, made, (id) => id.toUpperCase());
      if (outcome === "holds") expect(why, what).toBeUndefined();
      else expect(why, what).toMatch(/^[^a-z].*[^.]\.$/);
      expect(why ?? "", what).not.toMatch(/undefined|NaN|Infinity/);
    }
  });

  it.each<[Check, Trace, string]>([
    [
      { seesInOrder: [coral, teal] },
      trace({ notes: [arrives(1000, coral)] }),
      "TEAL did not arrive after CORAL at 1.00 s; the behaviour finished at 5.00 s.",
    ],
    [
      { answersOnce: coral },
      trace({ passages: bothCorals, answers: [answer(950, coral, 0), answer(1050, coral, 0), answer(2150, coral, 1)] }),
      "The CORAL patch at 50, 50 cm was answered 2 times: at 0.95 s and again at 1.05 s.",
    ],
    [
      { answersOnce: coral },
      trace({
        passages: bothCorals,
        answers: [answer(950, coral, 0), { ...answer(2080, coral, 0), truth: chalk, patch: undefined as never }],
      }),
      "The CORAL patch at 100, 50 cm was passed from 2.10 s to 2.30 s unanswered; it was answered 8 mm too early, at 2.08 s.",
    ],
    [
      { neverAnswers: chalk },
      trace({ answers: [answer(7, coral, 3, chalk)] }),
      "The CHALK line at 0, 50 cm was taken for CORAL and answered at 0.01 s.",
    ],
    [
      { stopsWithinMm: 100, after: teal },
      trace({ passages: [over(2, teal, 4000)] }),
      "The TEAL patch at 150, 50 cm was reached at 4.00 s; 10.2 cm on the robot still went at 40.0 cm/s.",
    ],
    [{ endsOn: teal }, trace({ underAtEnd: under(coral) }), "The sensor ends over CORAL, and touches no TEAL."],
    [
      { counter: "tally", is: 3 },
      trace({ notes: [counts(9, 2)] }),
      "Tally was last set to 2 at 0.01 s; the behaviour finished at 5.00 s.",
    ],
  ])("%j that fails says: %#", (check, made, why) => {
    expect(judgeCheck(check, made, (id) => id.toUpperCase()).why).toBe(why);
  });

  it("that a line was left says whether it had been seen at all", () => {
    const check: Check = { staysWithinMm: 30, stays: chalk };
    const why = (made: Trace) => judgeCheck(check, made, (id) => id.toUpperCase()).why;
    expect(why(wandering())).toMatch(/CHALK was not seen until then\.$/);
    const seen = { ...wandering(), notes: [arrives(1000, chalk)] };
    expect(why(seen)).not.toContain("not seen");
  });

  it("says the kind of a thing once, where its name ends with it", () => {
    const made = trace({
      passages: bothCorals,
      answers: [answer(950, coral, 0), answer(1050, coral, 0), answer(2150, coral, 1)],
    });
    expect(judgeCheck({ answersOnce: coral }, made, () => "Coral patch").why).toMatch(
      /^The Coral patch at 50, 50 cm was/,
    );
  });
});

describe("a new check", () => {
  const names = {
    targets: [coral, teal],
    backgrounds: [chalk],
    counters: ["tally"],
    zones: ["Bay"],
    lamps: ["go"],
    servos: ["arm"],
    crates: ["coral-crate"],
  };
  const none = { targets: [], backgrounds: [], counters: [], zones: [], lamps: [], servos: [], crates: [] };

  it.each(CHECK_KINDS.map((kind): [string, (typeof CHECK_KINDS)[number]] => [kind.word, kind]))(
    "“%s” begins as something that can be kept",
    (_, kind) => {
      const fresh = kind.fresh(names);
      expect(fresh && kind.schema.safeParse(fresh).success).toBe(true);
      // Without anything to name it is not offered, or needs no name.
      const bare = kind.fresh(none);
      expect(bare === undefined || kind.schema.safeParse(bare).success).toBe(true);
    },
  );
});

describe("a check that cannot be kept", () => {
  const names = { ...NAMES, targets: ["coral"] };
  it.each([
    ["stops within 1e21 cm after coral", "1e21 is more than a phrase may hold", 14],
    ["stops within 90000000 cm after coral", "90000000 is too large here", 14],
    ["count tally is 1.5", "a whole number is expected where “1.5” stands", 16],
  ])("%s is refused at its number", (phrase, message, column) => {
    expect(parseCheck(phrase, names)).toEqual({ problem: { message, column } });
  });
});
