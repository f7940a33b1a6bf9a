/** A number as people type it: a decimal comma and a unit behind it are fine. NaN for nothing and for what is none. */
export function typedNumber(text: string): number {
  const clean = text
    .trim()
    .replace(",", ".")
    .replace(/\s*[%°]$/, "");
  return clean === "" ? Number.NaN : Number(clean);
}

const MOST_NAME = 80;

/** What is wrong with a name; nothing where it can be one. */
export function nameProblem(name: string): string | undefined {
  const { length } = name.trim();
  return length === 0 || length > MOST_NAME ? `A name has 1 to ${MOST_NAME} characters.` : undefined;
}

/** Takes a name that was typed: as it is without spaces around it, or what is wrong with it. */
export const takingName =
  (take: (name: string) => void) =>
  (text: string): string | undefined => {
    const problem = nameProblem(text);
    if (problem === undefined) take(text.trim());
    return problem;
  };
