import type { Project, ProjectDocument } from "./schema";

/** A place that names something which is not there. */
type Gap = { message: string; path: (string | number)[] };

/** Every place that names something the project does not have, and every id that is given twice. */
export function missingNames(project: ProjectDocument | Project): Gap[] {
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
  const need = (kind: keyof typeof known, id: string, path: (string | number)[]) => {
    if (!known[kind].has(id))
      gaps.push({ message: `names the ${kind} “${id}”, which the project does not have`, path });
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

  project.sensors.forEach((sensor, i) => {
    need("rule set", sensor.ruleSet, ["sensors", i, "ruleSet"]);
    for (const [code, target] of Object.entries(sensor.codes ?? {}))
      need("target", target, ["sensors", i, "codes", code]);
  });
  project.ruleSets.forEach((set, i) => {
    once(
      "rule",
      set.rules.map((x) => x.id),
      ["ruleSets", i, "rules"],
    );
    set.rules.forEach((rule, j) => need("target", rule.target, ["ruleSets", i, "rules", j, "target"]));
    set.nearest.references.forEach((reference, j) => {
      const path = ["ruleSets", i, "nearest", "references", j];
      need("target", reference.target, [...path, "target"]);
      if (reference.light !== undefined) need("light", reference.light, [...path, "light"]);
    });
  });
  project.tapes.forEach((tape, i) => {
    need("sensor", tape.sensor, ["tapes", i, "sensor"]);
    tape.marks.forEach((mark, j) => {
      need("target", mark.target, ["tapes", i, "marks", j, "target"]);
      if (mark.light !== undefined) need("light", mark.light, ["tapes", i, "marks", j, "light"]);
    });
  });
  project.robot.mounts.forEach((mount, i) => need("sensor", mount.sensor, ["robot", "mounts", i, "sensor"]));
  project.courses.forEach((course, i) => {
    need("target", course.ground, ["courses", i, "ground"]);
    for (const part of ["patches", "signs", "cards"] as const)
      course[part].forEach(({ target }, j) => {
        for (const id of typeof target === "string" ? [target] : target.oneOf)
          need("target", id, ["courses", i, part, j, "target"]);
      });
    course.cards.forEach((card, j) => {
      if (card.sensor !== undefined) need("sensor", card.sensor, ["courses", i, "cards", j, "sensor"]);
    });
    course.presses.forEach((press, j) => need("button", press.button, ["courses", i, "presses", j, "button"]));
    course.lines.forEach((l, j) => need("target", l.target, ["courses", i, "lines", j, "target"]));
  });
  need("mode", project.behaviour.start, ["behaviour", "start"]);
  namesWithin(project.behaviour, ["behaviour"], need);
  project.courses.forEach((course, i) => {
    namesWithin(course.checks, ["courses", i, "checks"], need);
  });
  return gaps;
}

type Kind = "target" | "sensor" | "mode" | "lamp" | "counter" | "list" | "routine" | "button" | "servo" | "zone";

/** What a key inside behaviour and checks refers to, wherever it stands. */
const NAMED_BY: Record<string, Kind> = {
  arrives: "target",
  departs: "target",
  target: "target",
  after: "target",
  stays: "target",
  present: "target",
  seen: "target",
  seesInOrder: "target",
  answersOnce: "target",
  neverAnswers: "target",
  endsOn: "target",
  sensor: "sensor",
  mode: "mode",
  then: "mode",
  lamp: "lamp",
  count: "counter",
  counter: "counter",
  list: "list",
  routine: "routine",
  button: "button",
  servo: "servo",
  between: "sensor",
  endsIn: "zone",
};

function namesWithin(
  value: unknown,
  path: (string | number)[],
  need: (kind: Kind, id: string, path: (string | number)[]) => void,
): void {
  if (Array.isArray(value)) {
    value.forEach((item, i) => {
      namesWithin(item, [...path, i], need);
    });
  } else if (value !== null && typeof value === "object") {
    for (const [key, item] of Object.entries(value)) {
      const kind = NAMED_BY[key];
      const ids = typeof item === "string" ? [item] : Array.isArray(item) ? item : [];
      if (kind !== undefined) {
        for (const id of ids) {
          if (typeof id === "string" && id !== "unknown" && !(key === "then" && id === "finish"))
            need(kind, id, [...path, key]);
        }
      }
      if (typeof item === "object") namesWithin(item, [...path, key], need);
    }
  }
}
