import { OUTPUTS, type Program, TROUBLES, textsOf } from "../behaviour";
import { type Fn, readFns, type Variable } from "../tree";
import { ENGINE } from "./engineParts";
import { texts } from "./rulesTree";

/** Functions of the robot's side: it is told what to do, and notes what happened. Each language says how. */
export const robotFns = (): Fn[] =>
  readFns(`
${OUTPUTS.entries.map(({ fn }) => fn).join("\n\n")}

fn robot_note(kind: text, what: text, more: text, also: text, number: num)
  "Something happened: for a log, or for nothing."

fn with_number(before: text, number: num, after: text): text
  "A whole number between two texts."

fn colour_text(colour: int): text
  "A colour 0xRRGGBB like #e4573d; an empty text for one below 0."
`);

/** Functions by which the robot's side hears in names what the engine tells in numbers. */
const TELLS = `
fn tell_log(words: text)
  robot_note("log", words, "", "", 0.0)

fn phrase_of(at: int): text
  "The phrase of the step whose row begins at a cell."
  let low = 0
  let high = STEPS - 1
  while low < high
    let middle = low + whole(floor((high - low + 0.0) / 2.0))
    if STEP_AT[middle] < at
      low = middle + 1
    else
      high = middle
  return PHRASES[low]

fn press(button: int, is_down: bool)
  "A button is held down, or let go: it counts from the next moment on."
  hold_down(button, 1 if is_down else 0)
`;

/** The note of each thing that happens, by the constants of the engine. */
const NOTES: Readonly<Record<string, string>> = {
  NOTE_ARRIVES: 'robot_note("arrives", IDS_OF_EYES[a], NAMES[b], "", 0.0)',
  NOTE_DEPARTS: 'robot_note("departs", IDS_OF_EYES[a], NAMES[b], "", 0.0)',
  NOTE_FIRES:
    'robot_note("fires", IDS_OF_RESPONSES[a], NAMES[c] if c != 0 else "", IDS_OF_EYES[b] if c != 0 else "", 0.0)',
  NOTE_DROPPED: 'robot_note("dropped", IDS_OF_RESPONSES[a], IDS_OF_MODES[mode_now], "", 0.0)',
  NOTE_STEP: 'robot_note("step", phrase_of(a), "", "", 0.0)',
  NOTE_ENDED: 'robot_note("ended", IDS_OF_RESPONSES[a] if a >= 0 else "", "", "", 0.0)',
  NOTE_MODE: 'robot_note("mode", IDS_OF_MODES[a], "", "", 0.0)',
  NOTE_COUNTER: 'robot_note("counter", IDS_OF_COUNTERS[a], "", "", x)',
  NOTE_LIST: 'robot_note("list", IDS_OF_LISTS[a], NAMES[b], "", c + 0.0)',
  NOTE_GATE:
    'robot_note("gate", IDS_OF_GATES[a], "open" if b == 1 else "close", IDS_OF_RESPONSES[c] if c >= 0 else "", x)',
  NOTE_FINISH: 'robot_note("finish", "", "", "", 0.0)',
};

/** Names of a trouble's numbers in its note. */
const NUMBERS = { about: "b", other: "c", x: "whole(x)" } as const;

/** Troubles: the name of each one's number, and of the texts of each of its pieces. */
const troubles = ENGINE.constants.flatMap(({ name, value }) =>
  name.startsWith("TROUBLE_")
    ? [{ name, pieces: TROUBLES[value as number].map((piece, i) => ({ piece, own: `${name}_${i + 1}` })) }]
    : [],
);

/** The texts of troubles that are about something that has a name. */
export const troubleTexts = (program: Program): Variable[] =>
  troubles.flatMap(({ pieces }) =>
    pieces.flatMap(({ piece, own }) => (piece.names === undefined ? [] : [texts(own, textsOf(program, piece))])),
  );

/** The note of a trouble, with its pieces as texts. */
function troubleNote(pieces: (typeof troubles)[number]["pieces"]): string {
  const said = pieces.map(({ piece: { before = "", by }, own }) =>
    by === undefined ? JSON.stringify(before) : `${own}[${NUMBERS[by]}]`,
  );
  return `robot_note("trouble", ${[...said, '""', '""'].slice(0, 3).join(", ")}, 0.0)`;
}

/** The functions by which the engine tells and notes, for what of it `goesBy` names. */
export function tellFns(goesBy: (name: string) => boolean): Fn[] {
  const notes = Object.entries(NOTES).flatMap(([kind, does]) =>
    goesBy(kind) ? [`  if kind == ${kind}`, `    ${does}`] : [],
  );
  const wrong = troubles.flatMap(({ name, pieces }) =>
    goesBy(name) ? [`    if a == ${name}`, `      ${troubleNote(pieces)}`] : [],
  );
  const all = [...notes, ...(wrong.length === 0 ? [] : ["  if kind == NOTE_TROUBLE", ...wrong])];
  return [
    ...readFns(`${OUTPUTS.entries.map(({ told }) => told).join("\n\n")}\n\n${TELLS}`),
    ...readFns(`fn tell_note(kind: int, a: int, b: int, c: int, x: num)
  "Notes what happened, in names."
${all.join("\n") || "  return"}
`),
  ];
}
