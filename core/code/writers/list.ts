import { type Expr, type ListArg, type ListPart, type ListRow, rowsIn } from "../../tree";

/** How a language writes a list of rows as calls within lists. */
export interface ListStyle {
  /** A name as the language writes names. */
  name(name: string): string;
  /** A number, or a named one. */
  cell(value: Expr): string;
  text(text: string): string;
  remark(text: string): string;
  /** What is said by name behind what stands in order; nothing where there is nothing. */
  options(all: readonly (readonly [name: string, value: string])[]): string;
}

/** The word for rows of a kind: `drive`, `arrives`, `if_seen`. */
const wordOf = (kind: string): string => kind.toLowerCase().replace(/^(step|when)_/, "");

/** A word that a list goes by: the kind of its rows, what it takes, and whether it is a condition made of others. */
export interface Word {
  word: string;
  kind: string;
  takes: readonly string[];
  isMadeOf: boolean;
}

/** The words of a list, in the order of their first rows. A kind behind whose rows a condition stands takes `until`. */
export function wordsIn(list: readonly ListPart[]): Word[] {
  const words = new Map<string, Word>();
  for (const { kind, args, parts, conditions } of rowsIn(list)) {
    const known = words.get(kind)?.takes ?? args.map(({ name }) => name);
    const takes = conditions === undefined || known.includes("until") ? known : [...known, "until"];
    words.set(kind, { word: wordOf(kind), kind, takes, isMadeOf: parts > 0 });
  }
  return [...words.values()];
}

/** A number as it stands in a row: whole where it is whole, colours in hexadecimal digits. */
export function cellOf(
  { name, value, text }: ListArg,
  style: Pick<ListStyle, "cell"> & Partial<Pick<ListStyle, "text">>,
): string {
  if (text !== undefined && style.text !== undefined) return style.text(text);
  const isColour = name === "colour" && value.is === "num" && value.value >= 0;
  return isColour ? `0x${value.value.toString(16).padStart(6, "0")}` : style.cell(value);
}

/** A list as lines: a call for each row, and a list of calls for the steps of each part. */
export function nestedList(list: readonly ListPart[], indent: string, tab: string, style: ListStyle): string[] {
  const condition = (rows: readonly ListRow[]) => {
    // Those that a condition is made of stand before it.
    const waiting: string[] = [];
    for (const row of rows) {
      const parts = waiting.splice(waiting.length - row.parts, row.parts);
      waiting.push(row.parts > 0 ? `${style.name(wordOf(row.kind))}(${parts.join(", ")})` : call(row));
    }
    return waiting.join(", ");
  };
  const call = (row: ListRow): string => {
    const { args, behind, conditions, step } = row;
    const more = [
      ...behind.map((value) => style.cell(value)),
      ...(conditions === undefined ? [] : [condition(conditions)]),
      ...(step === undefined ? [] : [call(step)]),
    ];
    const given = args.filter(({ name }) => EACH[name] === undefined);
    // What is nothing at the end need not be said.
    let said = given.length;
    if (more.length === 0) while (said > 0 && isNothing(given[said - 1])) said--;
    const cells = given.slice(0, said).map((arg) => cellOf(arg, style));
    return `${style.name(wordOf(row.kind))}(${[...cells, ...more].join(", ")})`;
  };
  const remark = (doc: string | undefined, line: string) =>
    doc === undefined || doc === line.replace(/\(\),$/, "") ? "" : `  ${style.remark(doc)}`;
  return list.flatMap(({ begins, doc, args = [], trigger, guard, steps }) => {
    const options = [
      ...(guard === undefined ? [] : [["only_if", condition(guard)] as const]),
      ...args.flatMap(({ name, value }) => {
        const cell = style.cell(value);
        return cell === USUAL[name] ? [] : [[OPTIONS[name], cell] as const];
      }),
    ];
    const head = `${begins}(${trigger === undefined ? "" : `${call(trigger)}, `}[`;
    const tail = `]${style.options(options)}),`;
    if (steps.length === 0) return [`${indent}${head}${tail}  ${style.remark(doc)}`];
    return [
      `${indent}${head}  ${style.remark(doc)}`,
      ...steps.map((step) => {
        const line = `${call(step)},`;
        return `${indent}${tab}${line}${remark(step.doc, line)}`;
      }),
      `${indent}${tail}`,
    ];
  });
}

const isNothing = ({ value, text }: ListArg) =>
  text === undefined &&
  ((value.is === "num" && value.value === 0) || (value.is === "name" && /^(NONE|SAYS_TEXT)$/.test(value.name)));

/** Arguments that say how much stands behind a row: so many numbers are one. A list counts them itself. */
export const EACH: Readonly<Record<string, number>> = { count: 1, pairs: 2, tones: 2 };

/** What a response's arguments are called behind its steps, and what each is where nothing is said. */
const OPTIONS: Readonly<Record<string, string>> = {
  once: "once",
  patient: "patient",
  restMs: "rest_ms",
  leads: "then",
};
const USUAL: Readonly<Record<string, string>> = { once: "1", patient: "1", restMs: "0", leads: "STAYS" };

/** The limits of what a list's rows and responses take, by the arguments' names. */
export const limitsIn = (list: readonly ListPart[]): [name: string, limits: readonly [number, number]][] => [
  ...new Map(
    rowsIn(list).flatMap(({ args }) => args.flatMap(({ name, limits }) => (limits ? [[name, limits] as const] : []))),
  ),
];
