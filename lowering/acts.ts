import { ARGS } from "../core/behaviour/engine/rows";
import type { Act, UsedField } from "../core/code/engineParts";
import type { Expr } from "../core/tree";
import { Body, type Cell } from "./lower";
import type { File, Node, World } from "./source";

/** The functions of all rows, and the kinds of steps that go on beside the others. */
export interface Acts {
  acts: Act[];
  endless: string[];
  /** The functions that they call, by the names that they have in the source, and the fields that they go by. */
  calls: Set<string>;
  fields: UsedField[];
  constants: Set<string>;
}

const PHASES = { acts: ["begin", "during", "ended", "end"], asks: ["ask"], judge: ["when"] } as const;
const OF = { acts: "step", asks: "condition", judge: "trigger" } as const;

/** All that the entries of some files say under `acts`, `asks` and `judge`. @throws NotPlain */
export function actsIn(files: readonly File[], world: World, constant: readonly string[]): Acts {
  const found: Acts = { acts: [], endless: [], calls: new Set(), fields: [], constants: new Set() };
  for (const file of files)
    for (const entry of objectsIn(file.program)) {
      const key = propertyOf(entry, "key")?.value;
      for (const where of ["acts", "asks", "judge"] as const) {
        const own = propertyOf(entry, where);
        if (key === undefined || own?.type !== "ObjectExpression") continue;
        const kinds: [string, Node][] =
          where === "judge" ? [[key, own]] : own.properties.map((p: Node) => [p.key.name ?? p.key.value, p.value]);
        for (const [name, kind] of kinds) {
          if (propertyOf(kind, "isEndless") !== undefined) found.endless.push(name);
          const takes = propertyOf(kind, "takes").elements.length;
          for (const phase of PHASES[where]) {
            const fn = propertyOf(kind, phase);
            if (fn === undefined) continue;
            const expr = actOf(fn, takes, file, world, constant, found);
            found.acts.push({ of: OF[where], name, phase, expr });
          }
        }
      }
    }
  return found;
}

/** Gives what a function does for a row: its arguments are the row's cells. */
function actOf(fn: Node, takes: number, file: File, world: World, constant: readonly string[], found: Acts): Expr {
  const cells = new Map<string, Cell>();
  const params: Node[] = fn.type === "Identifier" ? (world.fns.get(fn.name)?.node.params ?? []) : fn.params;
  const [struct, ...args] = params;
  args.forEach((param, k) => {
    const at: Expr = { is: "op", op: "+", left: { is: "name", name: "at" }, right: { is: "int", value: ARGS + k } };
    const cell: Expr = { is: "at", array: "ROWS", index: at };
    cells.set(param.name, k < takes ? { expr: cell, type: "num" } : { expr: at, type: "int" });
  });
  const e: Node = { type: "Identifier", name: struct?.name ?? "e", typeAnnotation: { typeName: { name: "Engine" } } };
  const node = { params: [e, ...args], start: fn.start, end: fn.end };
  const body = new Body("", { file, node, after: 0, given: false }, world, constant, cells);
  const call: Node =
    fn.type === "Identifier"
      ? { type: "CallExpression", callee: fn, arguments: [e, ...args], start: fn.start, end: fn.end }
      : fn.body;
  if (call.type === "BlockStatement") return file.refuse(fn, "what a row does is one expression");
  const [expr] = call.type === "CallExpression" ? body.called(call, undefined, true) : body.expr(call);
  for (const name of body.calls) found.calls.add(name);
  for (const name of body.constantsUsed) found.constants.add(name);
  found.fields.push(...body.fieldsUsed);
  return expr;
}

const propertyOf = (object: Node, name: string): Node =>
  object.properties?.find((p: Node) => p.key?.name === name || p.key?.value === name)?.value;

/** Every object that is written out within a node, however deep. */
function* objectsIn(node: Node): Generator<Node> {
  if (Array.isArray(node)) for (const one of node) yield* objectsIn(one);
  if (node === null || typeof node !== "object" || Array.isArray(node)) return;
  if (node.type === "ObjectExpression") yield node;
  for (const value of Object.values(node)) if (typeof value === "object") yield* objectsIn(value);
}
