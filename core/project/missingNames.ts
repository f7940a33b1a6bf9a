import type { NameKind } from "../behaviour";
import type { Path } from "../names";
import { COURSE_PARTS, machineOf, THINGS } from "../world";
import { type Named, visitNames } from "./names";
import { idsOf, phraseIds } from "./phraseIds";

/** Something that does not go together in a project, and its place. */
export type Gap = { message: string; path: Path };

/** Every place that names something the project does not have, and every id that is given twice. */
export function missingNames(project: Named): Gap[] {
  const gaps: Gap[] = [];
  const { behaviour, robot } = project;
  const once = (what: string, ids: readonly string[], ...path: (string | number)[]): ReadonlySet<string> => {
    const seen = new Set<string>();
    ids.forEach((id, i) => {
      if (seen.has(id)) gaps.push({ message: `the ${what} “${id}” is there twice`, path: [...path, i] });
      seen.add(id);
    });
    return seen;
  };
  const known: Record<NameKind, ReadonlySet<string>> = {
    target: once("target", idsOf(project.targets), "targets"),
    sensor: once("sensor", idsOf(project.sensors), "sensors"),
    light: once("light", idsOf(project.lights), "lights"),
    "rule set": once("rule set", idsOf(project.ruleSets), "ruleSets"),
    mode: once("mode", idsOf(behaviour.modes), "behaviour", "modes"),
    counter: once("counter", behaviour.counters, "behaviour", "counters"),
    list: once("list", behaviour.lists, "behaviour", "lists"),
    routine: once("routine", idsOf(behaviour.routines), "behaviour", "routines"),
    button: once("button", robot.buttons, "robot", "buttons"),
    lamp: once("lamp", robot.lamps, "robot", "lamps"),
    servo: once("servo", idsOf(robot.servos), "robot", "servos"),
    gate: once("gate", idsOf(machineOf(robot).belt?.gates ?? []), "robot", "gates"),
    crate: once("crate", idsOf(machineOf(robot).belt?.crates ?? []), "robot", "crates"),
    // Each course has zones of its own.
    zone: new Set(project.courses.flatMap((course) => course.zones.map((zone) => zone.name))),
  };
  // A phrase tells things of different kinds apart by nothing but their ids.
  const owners = new Map<string, string>();
  for (const { kind, id, path } of phraseIds(project)) {
    const other = owners.get(id);
    if (other !== undefined && other !== kind)
      gaps.push({ message: `the ${kind} “${id}” has the id of a ${other}: a phrase could not tell them apart`, path });
    owners.set(id, other ?? kind);
  }
  behaviour.modes.forEach((mode, i) => {
    const path = ["behaviour", "modes", i];
    once("response", idsOf(mode.responses), ...path, "responses");
    once("step", idsOf(mode.entering), ...path, "entering");
    mode.responses.forEach(({ steps }, j) => {
      once("step", idsOf(steps), ...path, "responses", j, "steps");
    });
  });
  behaviour.routines.forEach(({ steps }, i) => {
    once("step", idsOf(steps), "behaviour", "routines", i, "steps");
  });
  once("tape", idsOf(project.tapes), "tapes");
  project.tapes.forEach(({ marks, boxes = [] }, i) => {
    once("mark", idsOf(marks), "tapes", i, "marks");
    once("box", idsOf(boxes), "tapes", i, "boxes");
  });
  once("course", idsOf(project.courses), "courses");
  project.courses.forEach((course, i) => {
    for (const part of COURSE_PARTS) once(THINGS[part], idsOf(course[part]), "courses", i, part);
    if ("plates" in course) once("plate", idsOf(course.plates), "courses", i, "plates");
    once("check", idsOf(course.checks), "courses", i, "checks");
  });
  project.ruleSets.forEach((set, i) => {
    once("rule", idsOf(set.rules), "ruleSets", i, "rules");
    set.rules.forEach((rule, j) => {
      once("clause", idsOf(rule.any), "ruleSets", i, "rules", j, "any");
    });
    once("reference", idsOf(set.nearest.references), "ruleSets", i, "nearest", "references");
  });
  visitNames(project, (kind, id, path) => {
    if (!known[kind].has(id))
      gaps.push({ message: `names the ${kind} “${id}”, which the project does not have`, path: [...path] });
    return id;
  });
  return gaps;
}
