/** What may come next, by where one is. */
type Expecting = "value" | "value or ]" | "key" | "key or }" | ":" | ", or end";

const NUMBER = /-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][-+]?\d+)?/y;
/** Many numbers in a list, each with its comma: columns of readings are passed at once. */
const NUMBERS = /(?:-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][-+]?\d+)?,){1,500}/y;
const WORDS = ["true", "false", "null"] as const;
const SIGNS = new Set(Array.from("{}[],:", (sign) => sign.charCodeAt(0)));
const NINE = 0x39;
const QUOTE = 0x22;
const BACKSLASH = 0x5c;

/**
 * Where a text stops being JSON (RFC 8259): the index of the first thing that may not stand there, or the text's
 * length where it ends too early. Engines say it in different ways, or not at all. Time grows linearly with the text.
 */
export function jsonErrorAt(text: string): number {
  const open: ("{" | "[")[] = [];
  let expecting: Expecting = "value";
  let at = 0;
  for (;;) {
    while (isSpace(text.charCodeAt(at))) at++;
    if (at >= text.length || (expecting === ", or end" && open.length === 0)) return at;
    const code = text.charCodeAt(at);
    if (expecting === "value" && open.at(-1) === "[" && code <= NINE) {
      NUMBERS.lastIndex = at;
      if (NUMBERS.test(text)) {
        at = NUMBERS.lastIndex;
        continue;
      }
    }
    const isValue = !SIGNS.has(code);
    const end = isValue ? valueEnd(text, at, code) : at + 1;
    if (end < 0) return at;
    const next = step(expecting, open, code === QUOTE, isValue, isValue ? undefined : text[at]);
    if (next === undefined) return at;
    expecting = next;
    at = end;
  }
}

const isSpace = (code: number) => code === 0x20 || code === 0x0a || code === 0x0d || code === 0x09;

/** The index after the string, number or word that begins at `at`; −1 where none does. */
function valueEnd(text: string, at: number, first: number): number {
  if (first === QUOTE) return stringEnd(text, at + 1);
  if (first > NINE) {
    const word = WORDS.find((w) => text.startsWith(w, at));
    return word === undefined ? -1 : at + word.length;
  }
  NUMBER.lastIndex = at;
  return NUMBER.test(text) ? NUMBER.lastIndex : -1;
}

/** The index after the closing quote; −1 where the string is cut off or holds what a string may not. */
function stringEnd(text: string, from: number): number {
  for (let at = from; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === QUOTE) return at + 1;
    if (code < 0x20) return -1;
    if (code !== BACKSLASH) continue;
    const escaped = text[at + 1];
    if (escaped === "u") {
      if (!/^[0-9a-fA-F]{4}$/.test(text.slice(at + 2, at + 6))) return -1;
      at += 5;
    } else if (escaped !== undefined && '"\\/bfnrt'.includes(escaped)) at++;
    else return -1;
  }
  return -1;
}

/** What is expected after a token, or undefined where the token may not stand. */
function step(
  expecting: Expecting,
  open: ("{" | "[")[],
  isString: boolean,
  isValue: boolean,
  sign: string | undefined,
): Expecting | undefined {
  if (expecting === "value" || expecting === "value or ]") {
    if (isValue) return ", or end";
    if (sign === "{" || sign === "[") {
      open.push(sign);
      return sign === "{" ? "key or }" : "value or ]";
    }
    if (sign !== "]" || expecting !== "value or ]") return undefined;
    open.pop();
    return ", or end";
  }
  if (expecting === "key" || expecting === "key or }") {
    if (isString) return ":";
    if (sign !== "}" || expecting !== "key or }") return undefined;
    open.pop();
    return ", or end";
  }
  if (expecting === ":") return sign === ":" ? "value" : undefined;
  const inside = open.at(-1);
  if (sign === ",") return inside === "{" ? "key" : "value";
  if (sign !== (inside === "{" ? "}" : "]")) return undefined;
  open.pop();
  return ", or end";
}
