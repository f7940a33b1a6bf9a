import { type Named, visitNames } from "./names";

/** A place that names something which is not there. */
type Gap = { message: string; path: (string | number)[] };

/** Every place that names something the project does not have, and every id that is given twice. */
export function missingNames(project: Named): Gap[] {
  const gaps: Gap[] = [];
  const known = {
    target: new Set<string>(project.targets.map((x) => x.id)),
    sensor: new Set<string>(project.sensors.map((x) => x.id)),
    light: new Set<string>(project.lights.map((x) => x.id)),
    "rule set": new Set<string>(project.ruleSets.map((x) => x.id)),
    mode: new Set<string>(project.behaviour.modes.map((x) => x.id)),
    lamp: new Set<string>(project.robot.lamps),
    counter: new Set<string>(project.behaviour.counters),
    list: new Set<string>(project.behaviour.lists),
    routine: new Set<string>(project.behaviour.routines.map((x) => x.id)),
    button: new Set<string>(project.robot.buttons),
    servo: new Set<string>(project.robot.servos.map((x) => x.id)),
    zone: new Set<string>(project.courses.flatMap((course) => course.zones.map((x) => x.name))),
  };
  const once = (what: string, ids: readonly string[], path: (string | number)[]) => {
    const seen = new Set<string>();
    ids.forEach((id, i) => {
      if (seen.has(id)) gaps.push({ message: `the ${what} “${id}” is there twice`, path: [...path, i] });
      seen.add(id);
    });
  };
  once(
    "target",
    project.targets.map((x) => x.id),
    ["targets"],
  );
  once(
    "sensor",
    project.sensors.map((x) => x.id),
    ["sensors"],
  );
  once(
    "light",
    project.lights.map((x) => x.id),
    ["lights"],
  );
  once(
    "rule set",
    project.ruleSets.map((x) => x.id),
    ["ruleSets"],
  );
  once(
    "tape",
    project.tapes.map((x) => x.id),
    ["tapes"],
  );
  once(
    "course",
    project.courses.map((x) => x.id),
    ["courses"],
  );
  once(
    "mode",
    project.behaviour.modes.map((x) => x.id),
    ["behaviour", "modes"],
  );
  once("counter", project.behaviour.counters, ["behaviour", "counters"]);
  once("list", project.behaviour.lists, ["behaviour", "lists"]);
  once("button", project.robot.buttons, ["robot", "buttons"]);
  once("lamp", project.robot.lamps, ["robot", "lamps"]);
  once(
    "servo",
    project.robot.servos.map((x) => x.id),
    ["robot", "servos"],
  );
  once(
    "routine",
    project.behaviour.routines.map((x) => x.id),
    ["behaviour", "routines"],
  );

  project.ruleSets.forEach((set, i) => {
    once(
      "rule",
      set.rules.map((x) => x.id),
      ["ruleSets", i, "rules"],
    );
  });
  visitNames(project, (kind, id, path) => {
    if (!known[kind].has(id))
      gaps.push({ message: `names the ${kind} “${id}”, which the project does not have`, path: [...path] });
    return id;
  });
  return gaps;
}
