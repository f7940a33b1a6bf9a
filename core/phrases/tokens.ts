/** A piece of a phrase, with its column (from 1). */
export interface Token {
  kind: "number" | "word" | "text" | "sign" | "end" | "stray";
  text: string;
  column: number;
  /** Its end, as a place in the phrase. */
  end: number;
  /** It stands in the place of another value; the input whose name stood there, if one did. */
  put?: { input?: string };
}

const TOKEN =
  /\s+|(-?\d+(?:\.\d+)?(?:e[-+]?\d+)?)|([A-Za-z][A-Za-z0-9#]*(?:-[a-z0-9]+)*)|("[^"]*")|(#[0-9a-fA-F]{6}|\.\.|>=|<=|[-+><=%(),:/])/y;

/** Takes a phrase apart into tokens, from a place on. A sign of no phrase is one too: a name may have it. */
export function tokensOf(phrase: string, from = 0): Token[] {
  const tokens: Token[] = [];
  TOKEN.lastIndex = from;
  while (TOKEN.lastIndex < phrase.length) {
    const column = TOKEN.lastIndex + 1;
    const match = TOKEN.exec(phrase);
    if (match === null) {
      const [stray] = phrase.slice(column - 1);
      const end = column - 1 + stray.length;
      tokens.push({ kind: "stray", text: stray, column, end });
      TOKEN.lastIndex = end;
      continue;
    }
    const [, number, word, text, sign] = match;
    const end = TOKEN.lastIndex;
    if (number !== undefined) tokens.push({ kind: "number", text: number, column, end });
    else if (word !== undefined) tokens.push({ kind: "word", text: word, column, end });
    else if (text !== undefined) tokens.push({ kind: "text", text: text.slice(1, -1), column, end });
    else if (sign !== undefined) tokens.push({ kind: "sign", text: sign, column, end });
  }
  tokens.push({ kind: "end", text: "", column: phrase.length + 1, end: phrase.length });
  return tokens;
}
