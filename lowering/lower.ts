import type { UsedField } from "../core/code/engineParts";
import type { Assignable, Expr, Fn, Operator, Statement, Type, Variable } from "../core/tree";
import type { File, Found, Node, SourceFile } from "./source";
import { World } from "./source";

export { NotPlain, type SourceFile } from "./source";

/*
 * Reads functions of the core that are written in a small part of TypeScript (numbers, truth values and texts; structs of
 * them that are there once; `if`, `while`, loops that count; calls of each other), and gives the tree that code for robots
 * is printed from: what runs in the simulation is what is written for the robot.
 */

/** Functions of `Math` that give exactly the same in every language; `same` ones give what they take. */
const MATH: Readonly<Record<string, "num" | "same">> = {
  max: "same",
  min: "same",
  abs: "same",
  sqrt: "num",
  floor: "num",
};
const OPERATORS: Readonly<Record<string, Operator>> = {
  "===": "==",
  "!==": "!=",
  "&&": "and",
  "||": "or",
  ...Object.fromEntries((["<", "<=", ">", ">=", "+", "-", "*", "/", "%"] as const).map((op) => [op, op])),
};
/** Names that no variable may have: each has a meaning of its own in one of the languages. */
const TAKEN =
  /^(max|min|abs|floor|sqrt|fmod|int|float|list|len|range|str|sum|in|is|not|and|or|def|pass|from|print|double|short|long|char|register|auto|static|inline|volatile|extern|pi|nan|infinity)$/;

/** `hueOf` as `hue_of`; what is written in capitals stays as it is. */
export const snaked = (name: string): string =>
  /^[A-Z]/.test(name) ? name : name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/** The outcome: functions, those that others give, and the constants and fields that they go by. */
export interface Lowered {
  constants: Variable[];
  fields: UsedField[];
  fns: Fn[];
  given: Fn[];
}

/**
 * The functions of some names and all that they call and go by, in the order of the files. A struct is there once: it is
 * not handed on, and its fields are variables; those of `constant` structs are written in capitals.
 *
 * @throws NotPlain for what cannot be said in every language, and Error for a name that no file has
 */
export function lower(
  sources: readonly SourceFile[] | World,
  wanted: Iterable<string>,
  constant: readonly string[] = [],
): Lowered {
  const world = sources instanceof World ? sources : new World(sources);
  const lowered = new Map<string, Fn>();
  const used = new Set<string>();
  const fields = new Map<string, UsedField>();
  const assigned = new Set<string>();
  const given = new Map<string, Fn>();
  const visit = (name: string) => {
    if (lowered.has(name) || given.has(name)) return;
    const found = world.fns.get(name) ?? world.methods.get(name);
    if (found === undefined) throw new Error(`no file has a function ${name}`);
    const body = new Body(name, found, world, constant);
    if (found.given !== false) {
      given.set(name, body.head());
      return;
    }
    lowered.set(name, body.fn());
    for (const own of body.constantsUsed) used.add(own);
    for (const own of body.fieldsUsed) fields.set(own.name, own);
    for (const own of body.assigned) assigned.add(own);
    for (const called of body.calls) visit(called);
  };
  for (const name of wanted) visit(name);
  return {
    constants: constantsOf(world, used),
    fields: [...fields.values()].map((own) => (assigned.has(own.name) ? { ...own, constant: false } : own)),
    fns: [...world.fns.keys()].flatMap((name) => lowered.get(name) ?? []),
    given: [...given.values()],
  };
}

/** Some of the constants of the files, in their order. */
export const constantsOf = (world: World, used: ReadonlySet<string>): Variable[] =>
  [...world.constants].flatMap(([name, { type, value }]) =>
    used.has(name) ? [{ name, type, constant: true, value }] : [],
  );

/** Names a method of the robot's side in code: there it goes by numbers, as the engine does. */
const methodName = (name: string) => `tell_${snaked(name.slice(name.indexOf(".") + 1))}`;

/** The meaning of a name that is no variable: a cell of a row, or the place behind its arguments. */
export interface Cell {
  expr: Expr;
  type: "num" | "int";
}

/** One function on its way into the tree. */
export class Body {
  /** The functions that it calls, by the names that they have in the source. */
  readonly calls = new Set<string>();
  readonly constantsUsed = new Set<string>();
  readonly fieldsUsed: UsedField[] = [];
  /** Variables that it sets. */
  readonly assigned = new Set<string>();
  private readonly locals = new Map<string, Type>();
  /** Names by which it knows structs. */
  private readonly structs = new Map<string, string>();
  private readonly gives: Type | undefined;
  private readonly file: File;
  private readonly node: Node;
  private readonly taken: readonly { name: string; type: Type }[];

  constructor(
    private readonly name: string,
    private readonly found: Found & Node,
    private readonly world: World,
    private readonly constant: readonly string[],
    private readonly cells: ReadonlyMap<string, Cell> = new Map(),
  ) {
    this.file = found.file;
    this.node = found.node ?? found;
    this.gives = world.plainType(this.node.returnType);
    const taken: { name: string; type: Type }[] = [];
    for (const own of this.node.params) {
      if (cells.has(own.name)) continue;
      const type = world.typeOf(own.typeAnnotation);
      if (typeof type === "object") this.structs.set(own.name, type.struct);
      else {
        if (this.found.given === false) this.make(own, type);
        taken.push({ name: snaked(own.name), type: type as Type });
      }
    }
    this.taken = taken;
  }

  /** The head of a function that is not lowered: what it takes and gives. */
  head(): Fn {
    const doc = this.file === undefined ? "" : this.file.doc(this.found.after, this.node.start);
    const name = this.name.includes(".") ? methodName(this.name) : snaked(this.name);
    return { name, takes: this.taken, ...(this.gives && { gives: this.gives }), doc, body: [] };
  }

  fn(): Fn {
    const body = this.block(this.node.body);
    for (const own of this.locals.keys())
      if (this.fieldsUsed.some(({ name }) => name === snaked(own)))
        this.file.refuse(this.node, `${own} is the name of a field that is used, too`);
    return { ...this.head(), body };
  }

  /** A variable of the function, from here on. */
  private make(node: Node, type: Type | undefined): void {
    if (node.type !== "Identifier" || type === undefined) this.file.refuse(node, "it has no plain type");
    if (TAKEN.test(snaked(node.name))) this.file.refuse(node, "the name means something else in another language");
    this.locals.set(node.name, type as Type);
  }

  /** The struct that an expression is; undefined where it is none. */
  private structOf(node: Node): string | undefined {
    if (node?.type === "Identifier") return this.structs.get(node.name);
    if (node?.type !== "MemberExpression" || node.computed) return undefined;
    const outer = this.structOf(node.object);
    const field = outer === undefined ? undefined : this.world.structs.get(outer)?.get(node.property.name);
    return field !== undefined && "struct" in field ? field.struct : undefined;
  }

  /** The variable that a field of a struct is. */
  private fieldName(struct: string, field: string, type: Type): string {
    const constant = this.constant.includes(struct);
    const name = constant ? snaked(field).toUpperCase() : snaked(field);
    this.fieldsUsed.push({ name, struct, field, type, constant });
    return name;
  }

  private block(node: Node): Statement[] {
    if (node.type !== "BlockStatement") return this.statement(node);
    let after = node.start;
    return node.body.flatMap((inner: Node) => {
      const remarks = this.file.remarks(after, inner.start);
      after = inner.end;
      return [...remarks, ...this.statement(inner)];
    });
  }

  private statement(node: Node): Statement[] {
    switch (node.type) {
      case "BlockStatement":
        return this.block(node);
      case "VariableDeclaration":
        return node.declarations.flatMap((one: Node) => this.variables(one));
      case "IfStatement": {
        const { test, consequent, alternate } = node;
        const otherwise = alternate === null ? [] : this.block(alternate);
        return [{ does: "if", test: this.truth(test), then: this.block(consequent), otherwise }];
      }
      case "WhileStatement":
        return [{ does: "while", test: this.truth(node.test), body: this.block(node.body) }];
      case "ForStatement":
        return this.loop(node);
      case "ReturnStatement":
        return [{ does: "return", ...(node.argument && { value: this.expr(node.argument, this.gives)[0] }) }];
      case "BreakStatement":
        return [{ does: "break" }];
      case "ContinueStatement":
        return [{ does: "continue" }];
      case "ExpressionStatement":
        return [this.done(node.expression)];
      default:
        return this.file.refuse(node, "this cannot be said in every language");
    }
  }

  private variables({ id, init }: Node): Statement[] {
    const struct = this.structOf(init);
    if (id.type === "ObjectPattern") {
      if (struct === undefined) return this.file.refuse(id, "only what is there once is taken apart");
      return id.properties.flatMap(({ key, value }: Node) =>
        this.variables({ id: value, init: { type: "MemberExpression", computed: false, object: init, property: key } }),
      );
    }
    if (struct !== undefined) {
      this.structs.set(id.name, struct);
      return [];
    }
    const wanted = this.world.plainType(id.typeAnnotation);
    const [value, type] = this.expr(init, wanted);
    this.make(id, wanted ?? type);
    return [{ does: "let", name: snaked(id.name), value }];
  }

  /** `for (let i = a; i < b; i++)`. */
  private loop(node: Node): Statement[] {
    const { init, test, update, body } = node;
    const [first] = init?.declarations ?? [];
    const name = first?.id.name;
    const counts = test?.operator === "<" && test.left.name === name && update?.operator === "++";
    if (!counts || update.argument.name !== name) return this.file.refuse(node, "a loop counts a whole number up");
    const [from] = this.expr(first.init, "int");
    this.make(first.id, "int");
    const [to] = this.expr(test.right, "int");
    return [{ does: "for", name: snaked(name), from, to, body: this.block(body) }];
  }

  private done(node: Node): Statement {
    if (node.type === "CallExpression") {
      const [call] = this.called(node, undefined, true);
      return { does: "call", call: call as Extract<Expr, { is: "call" }> };
    }
    if (node.type !== "AssignmentExpression") return this.file.refuse(node, "it does nothing");
    const [place, type] = this.expr(node.left);
    this.assigned.add(place.is === "at" ? place.array : (place as Extract<Expr, { is: "name" }>).name);
    const [value] = this.expr(node.right, type);
    const op = node.operator === "=" ? undefined : OPERATORS[node.operator.slice(0, -1)];
    if (node.operator !== "=" && op === undefined) this.file.refuse(node, "the sign is not one of every language");
    return {
      does: "set",
      place: place as Assignable,
      value: op === undefined ? value : { is: "op", op, left: place, right: value },
    };
  }

  private truth(node: Node): Expr {
    const [value, type] = this.expr(node);
    return type === "bool" ? value : this.file.refuse(node, "a test is true or false");
  }

  /** An expression and its type. A whole number that is written out is a number where one is wanted. */
  expr(node: Node, wanted?: Type): [Expr, Type] {
    switch (node.type) {
      case "Literal": {
        const { value } = node;
        if (typeof value === "boolean") return [{ is: "bool", value }, "bool"];
        if (typeof value === "string") return [{ is: "text", value }, "text"];
        if (typeof value !== "number") return this.file.refuse(node, "it is neither number, truth nor text");
        const type = wanted === "num" || !Number.isInteger(value) ? "num" : "int";
        return [{ is: type, value }, type];
      }
      case "Identifier":
        return this.named(node, wanted);
      case "MemberExpression":
        return this.member(node);
      case "UnaryExpression": {
        if (node.operator === "!") return [{ is: "not", of: this.truth(node.argument) }, "bool"];
        const [of, type] = this.expr(node.argument, wanted);
        if (node.operator !== "-") return this.file.refuse(node, "the sign is not one of every language");
        return of.is === type ? [{ is: type, value: -of.value } as Expr, type] : [{ is: "minus", of }, type];
      }
      case "ConditionalExpression": {
        const test = this.truth(node.test);
        const [[then, otherwise], type] = this.alike([node.consequent, node.alternate], wanted);
        return [{ is: "choice", test, then, otherwise }, type];
      }
      case "LogicalExpression":
      case "BinaryExpression":
        return this.operation(node, wanted);
      case "CallExpression":
        return this.called(node, wanted);
      case "ParenthesizedExpression":
        return this.expr(node.expression, wanted);
      default:
        return this.file.refuse(node, "this cannot be said in every language");
    }
  }

  /** Expressions of one type: a number, if one of them is. */
  private alike(nodes: readonly Node[], wanted?: Type): [Expr[], Type] {
    const types = nodes.map((node) => this.expr(node, wanted)[1]);
    const type = types.includes("num") ? "num" : types[0];
    return [nodes.map((node) => this.expr(node, type)[0]), type];
  }

  private operation(node: Node, wanted?: Type): [Expr, Type] {
    const op = OPERATORS[node.operator] ?? this.file.refuse(node, "the sign is not one of every language");
    if (op === "and" || op === "or")
      return [{ is: "op", op, left: this.truth(node.left), right: this.truth(node.right) }, "bool"];
    const counts = "+-*/%".includes(op);
    const [[left, right], type] = this.alike([node.left, node.right], op === "/" ? "num" : counts ? wanted : undefined);
    if (op === "/" && type === "int") this.file.refuse(node, "whole numbers are not divided");
    if (op === "%" && type === "num") return [{ is: "call", fn: "fmod", args: [left, right] }, type];
    return [{ is: "op", op, left, right }, counts ? type : "bool"];
  }

  private named(node: Node, wanted?: Type): [Expr, Type] {
    const { name } = node;
    const cell = this.cells.get(name);
    if (cell !== undefined)
      return cell.type === "num" && wanted === "int"
        ? [{ is: "call", fn: "whole", args: [cell.expr] }, "int"]
        : [cell.expr, cell.type];
    if (name === "Infinity") return [{ is: "name", name: "infinity" }, "num"];
    const type = this.locals.get(name);
    if (type !== undefined) return [{ is: "name", name: snaked(name) }, type];
    const constant = this.world.constants.get(name) ?? this.file.refuse(node, "the name is not known");
    this.constantsUsed.add(name);
    return [{ is: "name", name }, constant.type];
  }

  private member(node: Node): [Expr, Type] {
    const path = node.computed ? "" : `${node.object.name}.${node.property.name}`;
    if (path === "Number.NaN") return [{ is: "name", name: "nan" }, "num"];
    if (path === "Math.PI") return [{ is: "name", name: "pi" }, "num"];
    const at = node.computed ? node.object : node;
    const struct = at.type === "MemberExpression" ? this.structOf(at.object) : undefined;
    const field = struct === undefined ? undefined : this.world.structs.get(struct)?.get(at.property.name);
    if (struct === undefined || field === undefined || "struct" in field || field.isArray !== node.computed)
      return this.file.refuse(node, "the name is not known");
    const name = this.fieldName(struct, at.property.name, field.type);
    if (!field.isArray) return [{ is: "name", name }, field.type];
    const [index, type] = this.expr(node.property, "int");
    if (type !== "int") this.file.refuse(node.property, "a place is a whole number");
    return [{ is: "at", array: name, index }, field.type];
  }

  /** A call; of one that gives nothing only where nothing is wanted. */
  called(node: Node, wanted: Type | undefined, isDone = false): [Expr, Type] {
    const { callee, arguments: args } = node;
    const struct = callee.type === "MemberExpression" ? this.structOf(callee.object) : undefined;
    const owner = struct ?? callee.object?.name;
    const path = callee.type === "MemberExpression" ? `${owner}.${callee.property.name}` : callee.name;
    if (path === "Number.isNaN") {
      // What is no number equals nothing, not even itself.
      const [value] = this.expr(args[0], "num");
      return [{ is: "op", op: "!=", left: value, right: value }, "bool"];
    }
    if (path === "whole") return [{ is: "call", fn: "whole", args: [this.expr(args[0], "num")[0]] }, "int"];
    const math = path.startsWith("Math.") ? MATH[callee.property.name] : undefined;
    if (math !== undefined) {
      const [taken, type] = this.alike(args, math === "num" ? "num" : wanted);
      return [{ is: "call", fn: callee.property.name, args: taken }, type];
    }
    const method = this.world.methods.get(path);
    const known = method ?? this.world.fns.get(path)?.node ?? this.file.refuse(node, "there is no such function");
    const gives = this.world.plainType(known.returnType);
    if (gives === undefined && !isDone) this.file.refuse(node, "it gives nothing plain");
    this.calls.add(path);
    const taken = args.flatMap((arg: Node, i: number) => {
      const type = this.world.typeOf(known.params[i]?.typeAnnotation);
      if (typeof type !== "object") return [this.given(arg, type)];
      return this.structOf(arg) === type.struct ? [] : this.file.refuse(arg, `it is no ${type.struct}`);
    });
    return [{ is: "call", fn: method === undefined ? snaked(path) : methodName(path), args: taken }, gives ?? "num"];
  }

  /** Gives an argument for a parameter of a type. */
  private given(node: Node, wanted: Type | undefined): Expr {
    const [value, type] = this.expr(node, wanted);
    if (wanted === "int" && type === "num") this.file.refuse(node, "a whole number is wanted");
    return value;
  }
}
