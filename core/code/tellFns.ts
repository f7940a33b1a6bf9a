import { type Fn, readFns } from "../tree";

/** What the robot's side has: what it is told, and what is noted of what happened. Each language says how. */
export const robotFns: readonly Fn[] = readFns(`
fn robot_wheels(left: num, right: num)
  "Runs the wheels at shares of top speed, -1 to 1."

fn robot_stop(how: text)
  "Stops the wheels: brake or coast."

fn robot_lamp(lamp: text, colour: text, blink_hz: num)
  "Lights a lamp in a colour like #e4573d, or with an empty one switches it off; 0 does not blink."

fn robot_tone(hertz: num, ms: num)
  "Sounds a tone."

fn robot_tune(first: int, count: int)
  "Plays tones one after the other: pairs of hertz and ms in ROWS, from first on; 0 hertz is a rest."

fn robot_say(words: text)
  "Speaks a word, or plays a sound of that name."

fn robot_show(words: text)
  "Writes on the display."

fn robot_picture(picture: text)
  "Shows a picture on the display."

fn robot_servo(servo: text, degrees: num, degrees_per_second: num)
  "Turns a servo to an angle."

fn robot_gate(gate: text, open: bool)
  "Opens or closes a gate."

fn robot_note(kind: text, what: text, more: text, also: text, number: num)
  "Something happened: for a log, or for nothing."

fn with_number(before: text, number: num, after: text): text
  "A whole number between two texts."

fn colour_text(colour: int): text
  "A colour 0xRRGGBB like #e4573d; an empty text for one below 0."
`);

/** How the robot's side hears in names what the engine tells in numbers. */
const TELLS = readFns(`
fn tell_wheels(left: num, right: num)
  robot_wheels(left, right)

fn tell_stop(coasts: int)
  robot_stop("coast" if coasts == 1 else "brake")

fn tell_lamp(lamp: int, colour: int, blink_hz: num)
  robot_lamp(IDS_OF_LAMPS[lamp], colour_text(colour), blink_hz)

fn tell_tone(hertz: num, ms: num)
  robot_tone(hertz, ms)

fn tell_tune(at: int, count: int)
  robot_tune(at, count)

fn tell_say(words: text)
  robot_say(words)

fn tell_show(words: text)
  robot_show(words)

fn tell_picture(picture: int)
  robot_picture(PICTURES[picture])

fn tell_servo(servo: int, degrees: num, degrees_per_second: num)
  robot_servo(IDS_OF_SERVOS[servo], degrees, degrees_per_second)

fn tell_gate(gate: int, opens: int)
  robot_gate(IDS_OF_GATES[gate], opens == 1)

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
`);

/** What is noted of each thing that happens, by the constants of the engine. */
const NOTES: Readonly<Record<string, string>> = {
  NOTE_ARRIVES: 'robot_note("arrives", IDS_OF_EYES[a], NAMES[b], "", 0.0)',
  NOTE_DEPARTS: 'robot_note("departs", IDS_OF_EYES[a], NAMES[b], "", 0.0)',
  NOTE_FIRES:
    'robot_note("fires", IDS_OF_RESPONSES[a], NAMES[c] if c != 0 else "", IDS_OF_EYES[b] if c != 0 else "", 0.0)',
  NOTE_DROPPED: 'robot_note("dropped", IDS_OF_RESPONSES[a], IDS_OF_MODES[mode], "", 0.0)',
  NOTE_STEP: 'robot_note("step", phrase_of(a), "", "", 0.0)',
  NOTE_ENDED: 'robot_note("ended", IDS_OF_RESPONSES[a] if a >= 0 else "", "", "", 0.0)',
  NOTE_MODE: 'robot_note("mode", IDS_OF_MODES[a], "", "", 0.0)',
  NOTE_COUNTER: 'robot_note("counter", IDS_OF_COUNTERS[a], "", "", x)',
  NOTE_LIST: 'robot_note("list", IDS_OF_LISTS[a], NAMES[b], "", c + 0.0)',
  NOTE_GATE:
    'robot_note("gate", IDS_OF_GATES[a], "open" if b == 1 else "close", IDS_OF_RESPONSES[c] if c >= 0 else "", x)',
  NOTE_FINISH: 'robot_note("finish", "", "", "", 0.0)',
};

/** What is said of each trouble: texts before, what it is about, after. */
const TROUBLES: Readonly<Record<string, string>> = {
  TROUBLE_CIRCLE: '"modes and steps follow each other in a circle without time passing", "", ""',
  TROUBLE_NESTED: '"steps are nested too deeply", "", ""',
  TROUBLE_CANNOT: '"this robot cannot do that; the step was skipped", "", ""',
  TROUBLE_BESIDES: '"too many steps run beside each other", "", ""',
  TROUBLE_NOTHING_FIRED: '"no target fired that could be jotted to ", IDS_OF_LISTS[b], ""',
  TROUBLE_FULL: 'IDS_OF_LISTS[b], " is full: it holds 1000", ""',
  TROUBLE_NO_ANSWER: "NO_ANSWER_IN[b], NAMES[whole(x)], HELD_BY[c]",
  TROUBLE_NO_PIECE: '"no piece fired that could be sent to ", IDS_OF_CRATES[b], ""',
  TROUBLE_NO_GATE: '"no gate behind the sensor leads to ", IDS_OF_CRATES[b], ""',
  TROUBLE_SENT: '"too many pieces are under way", "", ""',
};

/** The functions by which the engine tells and notes, for what of it `goesBy` names. */
export function tellFns(goesBy: (name: string) => boolean): Fn[] {
  const notes = Object.entries(NOTES).flatMap(([kind, does]) =>
    goesBy(kind) ? [`  if kind == ${kind}`, `    ${does}`] : [],
  );
  const troubles = Object.entries(TROUBLES).flatMap(([which, texts]) =>
    goesBy(which) ? [`    if a == ${which}`, `      robot_note("trouble", ${texts}, 0.0)`] : [],
  );
  const all = [...notes, ...(troubles.length === 0 ? [] : ["  if kind == NOTE_TROUBLE", ...troubles])];
  return [
    ...TELLS,
    ...readFns(`fn tell_note(kind: int, a: int, b: int, c: int, x: num)
  "Notes what happened, in names."
${all.join("\n") || "  return"}
`),
  ];
}
