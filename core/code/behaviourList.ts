import { DoneRoutines, type PartItem, type Program, phraseWords, type RowItem, STAYS } from "../behaviour";
import { oneLine } from "../names";
import type { ProjectDocument } from "../project";
import { FEATURES } from "../readings";
import { type Expr, type ListArg, type ListPart, type ListRow, name, num } from "../tree";
import { kindName } from "./engineParts";
import { type CodeEye, eyeName, labelName, word } from "./rulesTree";

/** Limits of arguments that are measures: the least and the most that one of a name can be. */
const LIMITS: Readonly<Record<string, readonly [least: number, most: number]>> = {
  speed: [-1, 1],
  left: [-1, 1],
  right: [-1, 1],
  ms: [0, Number.POSITIVE_INFINITY],
  atMostMs: [0, Number.POSITIVE_INFINITY],
  restMs: [0, Number.POSITIVE_INFINITY],
  times: [1, Number.POSITIVE_INFINITY],
  amount: [0, Number.POSITIVE_INFINITY],
  hertz: [0, 20_000],
  blinkHz: [0, 20],
  degreesPerSecond: [0, Number.POSITIVE_INFINITY],
  colour: [-1, 0xffffff],
};

/** Names of numbers that say which of a few ways, by the argument's name: those of the engine's constants. */
const WAYS: Readonly<Record<string, readonly string[]>> = {
  by: ["NONE", "BY_TIME", "BY_WAY", "BY_TURNS", "BY_CONDITION"],
  byTime: ["NONE", "BY_TIME"],
  how: ["CLOSED", "OPEN", "ROUND"],
  what: ["SAYS_TEXT", "SAYS_SEEN", "SAYS_COUNTER", "SAYS_FEATURE"],
  way: ["LEFT_EDGE", "RIGHT_EDGE", "BETWEEN", "BY_CAMERA"],
};

/** Names of what a project has by its own words: each kind's, by the arguments that mean it. */
export interface OwnNumbers {
  /** Constants with the numbers that they stand for. */
  constants: ReadonlyMap<string, number>;
  /** The name of a number that an argument has; undefined where it has none. */
  named(argument: string, value: number): string | undefined;
  /** The least and the most that such an argument can be; undefined for one that is no number of a named thing. */
  limits(argument: string): readonly [least: number, most: number] | undefined;
}

/** Gives the constants by which a project's rows name its counters, lamps, modes …; none is called as one of `taken`. */
export function ownNumbers(
  project: ProjectDocument,
  program: Program,
  eyes: readonly CodeEye[],
  taken: ReadonlySet<string>,
): OwnNumbers {
  const { naming } = program;
  const constants = new Map<string, number>();
  const tables = new Map<string, string[]>();
  const put = (args: readonly string[], begins: string, ids: readonly string[]) => {
    const names = ids.map((id, i) => {
      let own = `${begins}_${word(id).replace(/\W/g, "_").toUpperCase()}`;
      while (taken.has(own) || constants.has(own)) own += "_";
      constants.set(own, i);
      return own;
    });
    for (const arg of args) tables.set(arg, names);
  };
  put(["counter"], "COUNTER", naming.counters);
  put(["list"], "LIST", naming.lists);
  put(["button"], "BUTTON", naming.buttons);
  put(["lamp"], "LAMP", naming.lamps);
  put(["servo"], "SERVO", naming.servos);
  put(["gate"], "GATE", naming.gates);
  put(["crate"], "CRATE", naming.crates);
  put(["feature"], "FEATURE", FEATURES);
  put(
    ["routine"],
    "DO",
    new DoneRoutines(project.behaviour).all.map(({ key }) => key),
  );
  put(
    ["mode", "leads"],
    "TO",
    program.modes.map(({ mode }) => mode.id),
  );
  const eyeNames = eyes.map(({ sensor }) => eyeName(sensor));
  const labels = ["LABEL_UNKNOWN", ...program.targets.map(labelName)];
  for (const arg of ["eye", "otherEye"]) tables.set(arg, eyeNames);
  for (const arg of ["label", "otherLabel"]) tables.set(arg, labels);
  for (const [arg, names] of Object.entries(WAYS)) {
    tables.set(arg, [...names]);
    // The engine has those that it asks for: one of them is what is left.
    names.forEach((own, i) => void (taken.has(own) || constants.set(own, i)));
  }
  return {
    constants,
    named(argument, value) {
      if (argument === "leads" && value < 0) return value === STAYS ? "STAYS" : "FINISHES";
      return tables.get(argument)?.[value];
    },
    limits(argument) {
      const names = tables.get(argument);
      // A sensor may be any camera, or none.
      return names && [/eye/i.test(argument) ? -2 : 0, names.length - 1];
    },
  };
}

/** Gives the behaviour as a list of rows: each by names, with its phrase. */
export function behaviourList(project: ProjectDocument, program: Program, names: OwnNumbers): ListPart[] {
  const words = phraseWords(project);
  const value = (argument: string, number: number): Expr => {
    const own = names.named(argument, number);
    if (own !== undefined) return name(own);
    return number === Number.POSITIVE_INFINITY ? name("infinity") : num(number);
  };
  /** An argument; `means` is the name of what it stands for, where that goes by another one. */
  const arg = (own: string, number: number, means = own): ListArg => {
    const limits = LIMITS[own] ?? names.limits(own);
    return { name: own, value: value(means, number), ...(limits && { limits }) };
  };
  const row = (item: RowItem, doc?: string): ListRow => {
    const { takes, args, numbers, conditions, step, parts } = item;
    // What is said is a text, a counter or a feature, by how it is said.
    const what = takes.includes("what") ? ["text", "", "counter", "feature"][args[takes.indexOf("what")]] : undefined;
    const isBetween = args[takes.indexOf("way")] === WAYS.way.indexOf("BETWEEN");
    const means = takes.map((one) => {
      if (one === "which") return what ?? "";
      // A sensor that nothing asks for is no sensor.
      if ((one === "eye" && what !== undefined && what !== "feature") || (one === "otherEye" && !isBetween)) return "";
      return one;
    });
    return {
      kind: kindName(`${item.of} ${item.act}`),
      args: takes.map((one, i) => ({
        ...arg(one, args[i], means[i]),
        ...(means[i] === "text" && { text: program.naming.texts[args[i]] }),
      })),
      behind: numbers.map((number, i) => value(behindOf(takes, i), number)),
      parts,
      ...(conditions && { conditions: conditions.map((one) => row(one)) }),
      ...(step && { step: row(step) }),
      ...(doc !== undefined && { doc }),
    };
  };
  const leadsTo = (then: string) => (then === "finish" ? then : `go to ${words.show("mode", then)}`);
  const part = (item: PartItem): ListPart => {
    const steps = item.steps.map(({ step, row: own }) => row(own, words.step(step)));
    if (item.part !== "when") return { begins: item.part, doc: oneLine(item.name), steps };
    const { when, guard, then } = item.response;
    const doc = [
      words.trigger(when),
      ...(guard === undefined ? [] : [`only if ${words.condition(guard)}`]),
      ...(then === undefined ? [] : [`then ${leadsTo(then)}`]),
    ];
    return {
      begins: "when",
      doc: doc.join("; "),
      args: Object.entries(item.args).map(([own, number]) => arg(own, number)),
      trigger: row(item.trigger),
      ...(item.guard && { guard: item.guard.map((one) => row(one)) }),
      steps,
    };
  };
  return program.naming.parts.map(part);
}

/** Tells what the numbers behind a row are: labels, pairs of sensor and label, or numbers as they are. */
function behindOf(takes: readonly string[], i: number): string {
  if (takes.includes("count")) return "label";
  return takes.includes("pairs") ? ["eye", "label"][i % 2] : "";
}
