const TOKEN =
  // biome-ignore lint/suspicious/noControlCharactersInRegex: RFC 8259 forbids them inside strings
  /\s*(?:("[^"\\\u0000-\u001f]*(?:\\(?:["\\/bfnrt]|u[0-9a-fA-F]{4})[^"\\\u0000-\u001f]*)*")|(-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][-+]?\d+)?)|(true|false|null)|([{}[\],:]))/y;

/** What may come next, by where one is. */
type Expecting = "value" | "value or ]" | "key" | "key or }" | ":" | ", or end";

/**
 * Where a text stops being JSON (RFC 8259): the index of the first thing that may not stand there, or the text's
 * length where it ends too early. Engines say it in different ways, or not at all.
 */
export function jsonErrorAt(text: string): number {
  const open: ("{" | "[")[] = [];
  let expecting: Expecting = "value";
  let at = 0;
  for (;;) {
    TOKEN.lastIndex = at;
    const match = TOKEN.exec(text);
    const here = at + (/^\s*/.exec(text.slice(at, at + 10_000))?.[0].length ?? 0);
    if (match === null) return here;
    const [, string, number, word, sign] = match;
    const next = step(
      expecting,
      open,
      string !== undefined,
      string !== undefined || number !== undefined || word !== undefined,
      sign,
    );
    if (next === undefined) return here;
    expecting = next;
    at = TOKEN.lastIndex;
    if (expecting === ", or end" && open.length === 0) return at + (/^\s*/.exec(text.slice(at))?.[0].length ?? 0);
  }
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
