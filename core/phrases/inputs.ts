import { INPUT_KINDS, type InputKind, type InputValue, NUMERIC } from "./inputKinds";
import type { PhraseReader } from "./PhraseReader";
import { lengthOf, printLength, printTime } from "./units";

/** Takes a value of any kind: it says its kind itself. */
export const takeAnyInput = (reader: PhraseReader): InputValue =>
  takeOneOf(reader, Object.keys(INPUT_KINDS) as InputKind[]);

/** Takes a value of a kind. */
export const takeInput = (reader: PhraseReader, kind: InputKind): string => takeOneOf(reader, [kind]).value;

/** The units of each kind that has some. */
const UNIT_WORDS: Partial<Record<InputKind, string>> = { time: "s or ms", length: "cm, mm or m", speed: "“%”" };

function takeOneOf(reader: PhraseReader, kinds: readonly InputKind[]): InputValue {
  const isOne = (kind: InputKind) => kinds.includes(kind);
  const what = kinds.length === 1 ? INPUT_KINDS[kinds[0]] : "a value";
  const isNumeric = kinds.some((kind) => NUMERIC.includes(kind));
  if (isOne("text") && (kinds.length === 1 || reader.peekIs("text")))
    return { kind: "text", value: `"${reader.takeText(what)}"` };
  if (isOne("target") && !(isNumeric && reader.peekIs("number")))
    return { kind: "target", value: reader.takeName("targets") };
  const { column } = reader;
  const number = reader.takeNumber(what);
  if (isOne("speed") && reader.skip("%")) {
    if (Math.abs(number) > 100) reader.failNumber("a speed from −100 to 100 %");
    return { kind: "speed", value: `${number} %` };
  }
  if (number <= 0 && (!isOne("number") || reader.peekWord() !== "")) reader.failNumber("more than 0");
  const time = isOne("time") ? reader.timeOf(number, "a time", column) : undefined;
  if (time !== undefined) return { kind: "time", value: printTime(time.ms, time.in) };
  const length = isOne("length") ? lengthOf(reader, number) : undefined;
  if (length !== undefined) return { kind: "length", value: printLength(length.mm, length.in) };
  if (isOne("number") && Number.isInteger(number)) return { kind: "number", value: String(number) };
  const unit = kinds.length === 1 ? UNIT_WORDS[kinds[0]] : undefined;
  return unit === undefined ? reader.failNumber(kinds.map((kind) => INPUT_KINDS[kind]).join(", ")) : reader.fail(unit);
}
