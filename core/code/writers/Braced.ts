import { Printer, quietly, type Statement, type Variable, wrapped } from "../../tree";

/** What JavaScript and C write alike: blocks in braces. */
export abstract class BracedPrinter extends Printer {
  protected heading(text: string): string[] {
    return [`/* --- ${quietly(text)} --- */`, ""];
  }

  /** A variable of a function, with its first value. */
  protected abstract made(statement: Extract<Statement, { does: "let" }>): string;
  /** What stands in the brackets of a loop over whole numbers. */
  protected abstract counting(name: string, from: string, to: string): string;

  protected choice(test: string, then: string, otherwise: string): string {
    return `${test} ? ${then} : ${otherwise}`;
  }

  protected statement(s: Statement, indent: string): string[] {
    const inner = (body: readonly Statement[]) => this.block(body, indent + TAB);
    switch (s.does) {
      case "let":
        return [`${indent}${this.made(s)};`];
      case "set":
        return [`${indent}${this.expr(s.place)} = ${this.expr(s.value)};`];
      case "call":
        return [`${indent}${this.expr(s.call)};`];
      case "return":
        return [`${indent}return${s.value === undefined ? "" : ` ${this.expr(s.value)}`};`];
      case "break":
        return [`${indent}break;`];
      case "continue":
        return [`${indent}continue;`];
      case "remark":
        return [`${indent}/* ${quietly(s.text)} */`];
      case "while":
        return [`${indent}while (${this.expr(s.test)}) {`, ...inner(s.body), `${indent}}`];
      case "for": {
        this.types.make(s.name, "int");
        const [from, to] = [this.expr(s.from), this.expr(s.to)];
        return [`${indent}for (${this.counting(this.name(s.name), from, to)}) {`, ...inner(s.body), `${indent}}`];
      }
      case "if": {
        const head = `${indent}if (${this.expr(s.test)})`;
        const then = inner(s.then);
        const short = onOne(head, then);
        const lines = short === undefined ? [`${head} {`, ...then] : [short];
        const { otherwise } = s;
        if (otherwise.length === 0) return short === undefined ? [...lines, `${indent}}`] : lines;
        const or = short === undefined ? `${indent}} else` : `${indent}else`;
        if (otherwise.length === 1 && otherwise[0].does === "if") {
          const [first, ...rest] = this.statement(otherwise[0], indent);
          return [...lines, `${or} ${first.trimStart()}`, ...rest];
        }
        const other = inner(otherwise);
        const shortToo = onOne(or, other);
        return shortToo === undefined ? [...lines, `${or} {`, ...other, `${indent}}`] : [...lines, shortToo];
      }
    }
  }
}

/** Variables that are declared alike, one behind the other, on one line as far as there is room. */
export function declarations(
  all: readonly Variable[],
  begins: (variable: Variable) => string,
  cell: (variable: Variable) => string,
): string[] {
  const lines: string[] = [];
  for (let from = 0; from < all.length; ) {
    const own = begins(all[from]);
    let to = from + 1;
    while (to < all.length && begins(all[to]) === own) to++;
    const cells = all.slice(from, to).map(cell);
    for (const line of wrapped(cells, WIDTH - own.length - 1)) lines.push(`${own} ${line.slice(0, -1)};`);
    from = to;
  }
  return lines;
}

/** A head with one simple statement behind it, where there is room; undefined for all else. */
function onOne(head: string, body: readonly string[]): string | undefined {
  const line = `${head} ${body[0]?.trimStart()}`;
  const isSimple = body.length === 1 && !/^\s*(if|for|while|\/\*|const|let|int|double|bool) /.test(body[0]);
  return isSimple && line.length <= WIDTH ? line : undefined;
}

export const TAB = "  ";
export const WIDTH = 110;
