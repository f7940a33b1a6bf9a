import { Printer, quietly, type Statement } from "../../tree";

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
        const lines = [`${indent}if (${this.expr(s.test)}) {`, ...inner(s.then)];
        const { otherwise } = s;
        if (otherwise.length === 0) return [...lines, `${indent}}`];
        if (otherwise.length === 1 && otherwise[0].does === "if") {
          const [first, ...rest] = this.statement(otherwise[0], indent);
          return [...lines, `${indent}} else ${first.trimStart()}`, ...rest];
        }
        return [...lines, `${indent}} else {`, ...inner(otherwise), `${indent}}`];
      }
    }
  }
}

export const TAB = "  ";
export const WIDTH = 110;
