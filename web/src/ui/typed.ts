import { MOST_NAME, plainName, RESERVED_WORDS } from "@perceptum/core/names";

/** A number as people type it: a decimal comma and a unit behind it are fine. NaN for nothing and for what is none. */
export function typedNumber(text: string): number {
  const clean = text
    .trim()
    .replace(",", ".")
    .replace(/\s*[%°]$/, "");
  return clean === "" ? Number.NaN : Number(clean);
}

/** What is wrong with a name beside those of other things; nothing where it can be one. Phrases read names in any case. */
export function nameProblem(name: string, others: readonly string[] = []): string | undefined {
  const { length } = name.trim();
  if (length === 0 || length > MOST_NAME) return `A name has 1 to ${MOST_NAME} characters.`;
  const same = others.find((other) => plainName(other) === plainName(name));
  if (same !== undefined) return `There is “${same}” already; take another name.`;
  return RESERVED_WORDS.has(plainName(name))
    ? `“${name.trim()}” is a word of the phrases; take another name.`
    : undefined;
}

/** Takes a name that was typed: as it is without spaces around it, or what is wrong with it. */
export const takingName =
  (take: (name: string) => string | undefined, others: readonly string[] = []) =>
  (text: string): string | undefined => {
    const problem = nameProblem(text, others);
    return problem ?? take(text.trim());
  };
