import { parseSync } from "vite";
import type { Statement, Type } from "../core/tree";

// biome-ignore lint/suspicious/noExplicitAny: the parser has a hundred forms of nodes, each looked at by its own type
export type Node = any;

/** One file of source, by the name under which faults are told. */
export interface SourceFile {
  path: string;
  text: string;
  /** Its functions are there in every language, by other means: they are called, and not lowered. */
  given?: true;
}

/** Source that cannot be said in every language, with its file and line. */
export class NotPlain extends Error {}

const TYPES: Readonly<Record<string, Type>> = { int: "int", num: "num" };
const KEYWORDS: Readonly<Record<string, Type>> = {
  TSNumberKeyword: "num",
  TSBooleanKeyword: "bool",
  TSStringKeyword: "text",
};
const ARRAYS: Readonly<Record<string, Type>> = { Int32Array: "int", Float64Array: "num" };

/** A function with the file that it stands in. */
export interface Found {
  file: File;
  node: Node;
  /** The place from which its comment may begin. */
  after: number;
  given: boolean;
}

/** A field of a struct: one value, as many as it has places, or a struct of its own. */
export type Field = { type: Type; isArray: boolean } | { struct: string };

/** Declarations of the files. */
export class World {
  readonly fns = new Map<string, Found>();
  readonly constants = new Map<string, { type: Type; value: number }>();
  /** The fields of classes and interfaces, and the methods that are called on them. */
  readonly structs = new Map<string, Map<string, Field>>();
  readonly methods = new Map<string, Node>();

  readonly files: readonly File[];

  constructor(sources: readonly SourceFile[]) {
    this.files = sources.map((source) => new File(source));
    for (const file of this.files) file.declare(this);
  }

  /** The type that is written behind a name; a struct by its name, undefined for all else. */
  typeOf(annotation: Node): Type | { struct: string } | undefined {
    const node = annotation?.typeAnnotation ?? annotation;
    const name = node?.typeName?.name;
    return KEYWORDS[node?.type] ?? TYPES[name] ?? (this.structs.has(name) ? { struct: name } : undefined);
  }

  /** The same where only a plain type will do. */
  plainType(annotation: Node): Type | undefined {
    const type = this.typeOf(annotation);
    return typeof type === "string" ? type : undefined;
  }
}

/** The text of a file with its nodes. */
export class File {
  readonly program: Node;
  private readonly comments: readonly Node[];

  constructor(private readonly source: SourceFile) {
    const { program, comments, errors } = parseSync(source.path, source.text) as Node;
    if (errors.length > 0) throw new NotPlain(`${source.path}: ${errors[0].message}`);
    this.program = program;
    this.comments = comments;
  }

  /** Adds its functions, structs, and those of its constants that are numbers. */
  declare(world: World): void {
    let after = 0;
    for (const statement of this.program.body) {
      const node = statement.type === "ExportNamedDeclaration" ? statement.declaration : statement;
      if (node?.type === "FunctionDeclaration") {
        if (world.fns.has(node.id.name)) this.refuse(node, `there are two functions ${node.id.name}`);
        world.fns.set(node.id.name, { file: this, node, after, given: this.source.given === true });
      }
      // Another file may add to an interface.
      if (node?.type === "TSModuleDeclaration")
        for (const added of node.body.body)
          if (added.type === "TSInterfaceDeclaration") this.declareStruct(added, world);
      if (node?.type === "ClassDeclaration" || node?.type === "TSInterfaceDeclaration") this.declareStruct(node, world);
      for (const { id, init } of node?.type === "VariableDeclaration" ? node.declarations : []) {
        const value = constantOf(init, world);
        const known = world.constants.get(id.name);
        if (value !== undefined && known !== undefined && known.value !== value)
          this.refuse(id, "there are two constants of this name");
        if (value !== undefined) world.constants.set(id.name, { type: Number.isInteger(value) ? "int" : "num", value });
      }
      after = statement.end;
    }
  }

  private declareStruct(node: Node, world: World): void {
    const fields = world.structs.get(node.id.name) ?? new Map<string, Field>();
    world.structs.set(node.id.name, fields);
    const add = (key: Node, annotation: Node, value?: Node) => {
      const field = fieldOf(annotation?.typeAnnotation, value);
      if (field !== undefined) fields.set(key.name, field);
    };
    for (const member of node.body.body) {
      if (member.type === "PropertyDefinition") add(member.key, member.typeAnnotation, member.value);
      if (member.type === "TSPropertySignature") add(member.key, member.typeAnnotation);
      if (member.type === "TSMethodSignature") world.methods.set(`${node.id.name}.${member.key.name}`, member);
      if (member.kind !== "constructor") continue;
      for (const taken of member.value.params)
        if (taken.type === "TSParameterProperty") add(taken.parameter, taken.parameter.typeAnnotation);
    }
  }

  refuse(node: Node, why: string): never {
    const { path, text } = this.source;
    const line = text.slice(0, node.start).split("\n").length;
    throw new NotPlain(`${path}:${line}: ${why}: “${text.slice(node.start, node.end).split("\n")[0]}”`);
  }

  /** The comment before a function, as one line. */
  doc(after: number, before: number): string {
    const doc = this.comments.findLast((c) => c.type === "Block" && c.start >= after && c.end <= before);
    return doc === undefined
      ? ""
      : doc.value
          .replace(/^\s*\*/gm, "")
          .replace(/\s+/g, " ")
          .trim();
  }

  /** The remarks between two places. */
  remarks(after: number, before: number): Statement[] {
    return this.comments
      .filter((c) => c.type === "Line" && c.start >= after && c.end <= before)
      .map((c) => ({ does: "remark", text: c.value.trim() }));
  }
}

/** The kind of a field, by its type or its first value; any other class's or interface's name is a struct's. */
function fieldOf(type: Node, value: Node): Field | undefined {
  if (type?.type === "TSTypeOperator") return fieldOf(type.typeAnnotation, value);
  if (type?.type === "TSArrayType") {
    const of = fieldOf(type.elementType, null);
    return of === undefined || "struct" in of ? undefined : { type: of.type, isArray: true };
  }
  const name = type?.typeName?.name ?? value?.callee?.name;
  const plain = KEYWORDS[type?.type] ?? TYPES[name];
  if (plain !== undefined) return { type: plain, isArray: false };
  if (ARRAYS[name] !== undefined) return { type: ARRAYS[name], isArray: true };
  if (typeof value?.value === "boolean") return { type: "bool", isArray: false };
  return type?.typeName?.name === undefined ? undefined : { struct: name };
}

/** The value of an expression of numbers and constants alone. */
function constantOf(node: Node, world: World): number | undefined {
  if (node?.type === "Literal" && typeof node.value === "number") return node.value;
  if (node?.type === "Identifier") return world.constants.get(node.name)?.value;
  if (node?.type === "UnaryExpression" && node.operator === "-") {
    const value = constantOf(node.argument, world);
    return value === undefined ? undefined : -value;
  }
  if (node?.type !== "BinaryExpression") return undefined;
  const [a, b] = [constantOf(node.left, world), constantOf(node.right, world)];
  if (a === undefined || b === undefined) return undefined;
  return { "+": a + b, "-": a - b, "*": a * b, "/": a / b }[node.operator as string];
}
