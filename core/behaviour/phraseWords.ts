import { plainName, RESERVED_WORDS } from "../names";
import { allNamed, type Named, type Names, named } from "../phrases";
import { type Condition, namedCondition, printCondition } from "./conditions";
import { gateName } from "./Machine";
import { namesOf } from "./program";
import { withInputs } from "./routines";
import { namedStep, parseStep, printStep, type Step, type Takes } from "./steps";
import { namedTrigger, printTrigger, type Trigger } from "./triggers";
import type { NameKind } from "./Visitor";

/** A thing with an id in the file and a name that people see. */
interface Thing {
  id: string;
  name: string;
}

/** Phrases as people see them: with the names of things in the place of their ids. */
export interface PhraseWords {
  /** For reading phrases: things are understood by name and by id. */
  names: Names;
  /** Gives each id as phrases show it. */
  show<T extends string>(kind: NameKind, id: T): T;
  /** A step's phrase; what a routine's step takes stands in it by name. */
  step(step: Step & { takes?: Takes | undefined }): string;
  trigger(trigger: Trigger): string;
  condition(condition: Condition): string;
  /** A step's phrase that was written with ids, as a trace's log has it. */
  written(phrase: string): string;
}

/** Words that may stand behind a name: a name that goes on with one could be read as a shorter one and the word. */
const GOING_ON = new Set([...RESERVED_WORDS, "arrives", "departs", "is", "present", "known", "open", "close"]);

const goesOn = (words: string) => GOING_ON.has(words.split(" ")[0]) || /^[^\p{L}\p{N}]/u.test(words);

/**
 * Things of one kind as phrases show them: by name, but by id where the name would be read as something else: as another
 * thing, or as words of the phrase. `all` are the names and ids of all other things, of whatever kind.
 */
function shown(things: readonly Thing[], all: readonly string[], ids: ReadonlySet<string>): Named[] {
  return things.map(({ id, name }) => {
    const own = plainName(name);
    const [first, ...rest] = own.split(" ");
    const others = things.filter((other) => other.id !== id).map((other) => plainName(other.name));
    const isOther = others.includes(own) || [own, own.replace(/ /g, "-")].some((form) => form !== id && ids.has(form));
    const opensWith = (text: string, other: string) => text === other || text.startsWith(`${other} `);
    // “Bed or pot” beside a “Bed”, “or bed”, “is present”: a shorter name and a word, or words alone.
    const asPhrase =
      RESERVED_WORDS.has(own) ||
      all.some((other) => other !== own && opensWith(own, other) && goesOn(own.slice(other.length + 1))) ||
      (goesOn(first) &&
        (goesOn(rest[0] ?? "") ||
          all.some((other) => opensWith(rest.join(" "), other) || opensWith(other, rest.join(" ")))));
    return named(
      id,
      isOther || asPhrase || !/^[\p{L}\p{N}][^"“”:,]*$/u.test(own) ? id : name.trim().replace(/\s+/g, " "),
    );
  });
}

/** The words of a project's phrases as people see them. */
export function phraseWords(
  project: Parameters<typeof namesOf>[0] & { targets: readonly Thing[]; sensors: readonly Thing[] },
): PhraseWords {
  const byId = namesOf(project);
  const ids = new Set(allNamed(byId).map(String));
  const { modes, routines } = project.behaviour;
  const { crates = [] } = project.robot;
  const gates = (project.robot.gates ?? []).map((gate) => ({ id: gate.id, name: gateName(gate) }));
  const things: Thing[] = [...project.targets, ...project.sensors, ...modes, ...routines, ...crates, ...gates];
  const all = [...ids, ...things.map(({ name }) => plainName(name))];
  const [target, sensor, mode, routine, crate, gate] = [
    project.targets,
    project.sensors,
    modes,
    routines,
    crates,
    gates,
  ].map((kind) => shown(kind, all, ids));
  const kinds: Partial<Record<NameKind, readonly Named[]>> = { target, sensor, mode, routine, crate, gate };
  const names: Names = {
    ...byId,
    targets: target,
    sensors: sensor,
    modes: mode,
    routines: routine,
    crates: crate,
    gates: gate,
  };
  const show: PhraseWords["show"] = (kind, id) =>
    (kinds[kind]?.find((thing) => thing.id === id)?.name ?? id) as typeof id;
  const shownStep: PhraseWords["step"] = (step) => withInputs(printStep(namedStep(step, show)), names, step.takes);
  return {
    names,
    show,
    step: shownStep,
    trigger: (trigger) => printTrigger(namedTrigger(trigger, show)),
    condition: (condition) => printCondition(namedCondition(condition, show)),
    written(phrase) {
      const read = parseStep(phrase, byId);
      return "value" in read ? shownStep(read.value) : phrase;
    },
  };
}
