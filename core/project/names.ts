import { type NameKind, type NameVisitor, namedBehaviour } from "../behaviour";
import type { Path, TargetId } from "../names";
import type { TapeHead } from "../readings";
import { courseKindOf, namedCheck, type Painted, type Simulated } from "../world";

/** The parts of a project that name one another. */
export interface Named extends Simulated {
  tapes: TapeHead[];
}

/** Is shown a name with its place and gives what shall stand there. */
type PlacedVisitor = <T extends string>(kind: NameKind, id: T, path: Path) => T;

/** The same parts with every name that one has of another as the visitor gives it. Lists of own names stay. */
export function visitNames<P extends Named>(project: P, visit: PlacedVisitor): P {
  const at =
    (path: Path): NameVisitor =>
    (kind, id, key) =>
      visit(kind, id, [...path, key]);
  const painted = (target: Painted, path: Path): Painted =>
    typeof target === "string"
      ? visit("target", target, path)
      : { oneOf: target.oneOf.map((id) => visit("target", id, path)) };
  return {
    ...project,
    sensors: project.sensors.map((sensor, i) => ({
      ...sensor,
      ruleSet: visit("rule set", sensor.ruleSet, ["sensors", i, "ruleSet"]),
      ...(sensor.codes && {
        codes: Object.fromEntries(
          Object.entries(sensor.codes).map(([code, target]) => [
            code,
            visit("target", target as TargetId, ["sensors", i, "codes", code]),
          ]),
        ),
      }),
    })),
    ruleSets: project.ruleSets.map((set, i) => ({
      ...set,
      rules: set.rules.map((rule, j) => ({
        ...rule,
        target: visit("target", rule.target, ["ruleSets", i, "rules", j, "target"]),
      })),
      nearest: {
        ...set.nearest,
        references: set.nearest.references.map((reference, j) => {
          const path = ["ruleSets", i, "nearest", "references", j];
          return {
            ...reference,
            target: visit("target", reference.target, [...path, "target"]),
            ...(reference.light !== undefined && { light: visit("light", reference.light, [...path, "light"]) }),
          };
        }),
      },
    })),
    tapes: project.tapes.map((tape, i) => ({
      ...tape,
      sensor: visit("sensor", tape.sensor, ["tapes", i, "sensor"]),
      marks: tape.marks.map((mark, j) => {
        const path = ["tapes", i, "marks", j];
        return {
          ...mark,
          target: visit("target", mark.target, [...path, "target"]),
          ...(mark.light !== undefined && { light: visit("light", mark.light, [...path, "light"]) }),
        };
      }),
      ...(tape.boxes && {
        boxes: tape.boxes.map((box, j) => {
          const path = ["tapes", i, "boxes", j];
          return {
            ...box,
            target: visit("target", box.target, [...path, "target"]),
            ...(box.light !== undefined && { light: visit("light", box.light, [...path, "light"]) }),
          };
        }),
      }),
    })),
    robot: {
      ...project.robot,
      mounts: project.robot.mounts.map((mount, i) => ({
        ...mount,
        sensor: visit("sensor", mount.sensor, ["robot", "mounts", i, "sensor"]),
      })),
    },
    behaviour: namedBehaviour(project.behaviour, (path) => at(["behaviour", ...path])),
    courses: project.courses.map((course, i) => {
      const path = ["courses", i];
      const onFloor = <T extends { target: Painted }>(part: string, things: readonly T[]): T[] =>
        things.map((thing, j) => ({ ...thing, target: painted(thing.target, [...path, part, j, "target"]) }));
      const repaint = <T extends Painted>(target: T, ...place: Path) => painted(target, [...path, ...place]) as T;
      return {
        ...(courseKindOf(course).repainted?.(course, repaint) ?? course),
        ground: visit("target", course.ground, [...path, "ground"]),
        patches: onFloor("patches", course.patches),
        signs: onFloor("signs", course.signs),
        cards: onFloor("cards", course.cards).map((card, j) => ({
          ...card,
          ...(card.sensor !== undefined && { sensor: visit("sensor", card.sensor, [...path, "cards", j, "sensor"]) }),
        })),
        presses: course.presses.map((press, j) => ({
          ...press,
          button: visit("button", press.button, [...path, "presses", j, "button"]),
        })),
        lines: course.lines.map((line, j) => ({
          ...line,
          target: visit("target", line.target, [...path, "lines", j, "target"]),
        })),
        checks: course.checks.map((check, j) => namedCheck(check, at([...path, "checks", j]))),
      };
    }),
  };
}

/** Where a name is used, as paths. */
export function usesOfName(project: Named, kind: NameKind, id: string): Path[] {
  const found: Path[] = [];
  visitNames(project, (k, name, path) => {
    if (k === kind && name === id) found.push(path);
    return name;
  });
  return found;
}

/** The same in a person's words, each place once. */
export function tellUses(project: Named, kind: NameKind, id: string): string[] {
  return [...new Set(usesOfName(project, kind, id).map((path) => placeWords(project, path)))];
}

/** Gives a thing another name wherever it is used; its own entry is changed by who renames it. */
export const renamedUses = <P extends Named>(project: P, kind: NameKind, from: string, to: string): P =>
  visitNames(project, (k, name) => (k === kind && name === from ? (to as typeof name) : name));

function placeWords({ sensors, tapes, courses, behaviour }: Named, [room, i, part]: Path): string {
  const n = Number(i);
  switch (room) {
    case "sensors":
      return `${sensors[n].name}`;
    case "ruleSets":
      return part === "nearest" ? "a reference" : "a rule";
    case "tapes":
      return part === "marks" ? `marks of ${tapes[n].name}` : `the tape ${tapes[n].name}`;
    case "courses":
      return part === "checks" ? `checks of ${courses[n].name}` : `the course ${courses[n].name}`;
    case "behaviour":
      if (i === "modes") return `the mode ${behaviour.modes[Number(part)].name}`;
      return i === "routines" ? `the routine ${behaviour.routines[Number(part)].name}` : "where it starts";
    default:
      return "the robot";
  }
}
