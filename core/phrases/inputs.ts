import { INPUT_KINDS, type InputKind, type InputValue } from "./inputKinds";
import type { PhraseReader } from "./PhraseReader";
import { lengthOf, percent, printLength, printTime } from "./units";

/** Takes a value of any kind. */
export function takeAnyInput(reader: PhraseReader): InputValue {
  if (reader.peekIs("text")) return { kind: "text", value: `"${reader.takeText("a text")}"` };
  if (!reader.peekIs("number")) return { kind: "target", value: reader.takeName("targets") };
  const column = reader.column;
  const number = reader.takeNumber("a value");
  if (reader.skip("%")) {
    if (Math.abs(number) > 100) reader.failNumber("a speed from −100 to 100 %");
    return { kind: "speed", value: `${number} %` };
  }
  const time = number > 0 ? reader.timeOf(number, "a time", column) : undefined;
  if (time !== undefined) return { kind: "time", value: printTime(time.ms, time.in) };
  const length = number > 0 ? lengthOf(reader, number) : undefined;
  if (length !== undefined) return { kind: "length", value: printLength(length.mm, length.in) };
  if (!Number.isInteger(number)) reader.failNumber(Object.values(INPUT_KINDS).join(", "));
  return { kind: "number", value: String(number) };
}

/** Takes a value of a kind. */
export function takeInput(reader: PhraseReader, kind: InputKind): string {
  switch (kind) {
    case "time": {
      const { ms, in: unit } = reader.takeTime("a time");
      return printTime(ms, unit);
    }
    case "length": {
      const amount = reader.takeAmount("a length");
      const { mm, in: unit } = lengthOf(reader, amount) ?? reader.fail("cm, mm or m");
      return printLength(mm, unit);
    }
    case "speed":
      return `${percent(reader.takePercent("a speed"))} %`;
    case "number": {
      const number = reader.takeNumber("a whole number");
      return Number.isInteger(number) ? String(number) : reader.failNumber("a whole number");
    }
    case "target":
      return reader.takeName("targets");
    case "text":
      return `"${reader.takeText("a text")}"`;
  }
}
