import * as z from "zod";
import { type int, type num, whole } from "../../arithmetic";
import { type SensorId, SensorIdSchema, type TargetId, TargetIdSchema } from "../../names";
import type { Engine } from "../engine/Engine";
import { sees, visitOf } from "../engine/eyes";
import type { Row, RowMaker } from "../rowKinds";
import { visitedSensor } from "../Visitor";
import { by } from "./by";
import { conditionNeed } from "./conditionNeed";
import type { TriggerKind } from "./TriggerKind";

const Targets = z.array(TargetIdSchema).min(1).max(50);
const sensor = SensorIdSchema.optional();
const or = (targets: readonly string[]) => targets.join(" or ");

const arrivesSchema = z.strictObject({ arrives: Targets, sensor });
type Arrives = z.infer<typeof arrivesSchema>;

/** `Coral tag arrives`, or `Left eye sees Coral tag arrive`. */
const comes = (eye: string | undefined, what: string, verb: string) =>
  eye === undefined ? `${what} ${verb}s` : `${eye} sees ${what} ${verb}`;

/** A row of some targets of a sensor: behind it and their number stand their labels. */
const targetsRow = (act: string, targets: readonly TargetId[], sensor: SensorId | undefined, to: RowMaker): Row => ({
  act,
  args: [to.eye(sensor), targets.length],
  numbers: targets.map((id) => to.label(id)),
});

/** Tells whether a label is one of `count` that stand from a cell on. */
function isAmong(e: Engine, label: int, count: int, labels: int): boolean {
  for (let i = 0; i < count; i++) if (e.p.rows[labels + i] === label) return true;
  return false;
}

/** The visit of the first of some targets that arrived with this moment. */
function whenArrived(e: Engine, eye: int, count: int, labels: int): num {
  for (let i = 0; i < e.arrivals; i++) {
    if (e.arrivalEye[i] !== eye || !isAmong(e, e.arrivalLabel[i], count, labels)) continue;
    e.byEye = eye;
    e.byLabel = e.arrivalLabel[i];
    return visitOf(e, eye, e.byLabel);
  }
  return Number.NaN;
}

/** The visit of the first of some targets that departed with this moment. */
function whenDeparted(e: Engine, eye: int, count: int, labels: int): num {
  for (let i = 0; i < e.departures; i++) {
    if (e.departureEye[i] !== eye || !isAmong(e, e.departureLabel[i], count, labels)) continue;
    e.byEye = eye;
    e.byLabel = e.departureLabel[i];
    return e.departureVisit[i];
  }
  return Number.NaN;
}

/** The visit of the first of some targets that is seen. */
function whilePresent(e: Engine, eye: int, count: int, labels: int): num {
  for (let i = 0; i < count; i++) {
    const label = whole(e.p.rows[labels + i]);
    if (!sees(e, eye, label)) continue;
    e.byEye = eye;
    e.byLabel = label;
    return visitOf(e, eye, label);
  }
  return Number.NaN;
}

/** One of some targets begins to be seen. */
export const arrives: TriggerKind<Arrives> = {
  key: "arrives",
  schema: arrivesSchema,
  onEdge: false,
  byEvents: true,
  byVisits: true,
  answers: ({ arrives, sensor }) => [{ targets: arrives, sensor }],
  judge: { takes: ["eye", "count"], when: whenArrived },
  row: ({ arrives, sensor }, to) => targetsRow("arrives", arrives, sensor, to),
  templates: ["{targets} arrives", "{sensors}: {targets} arrives"],
  afterTargets: { words: [["arrives"], ["arrive"]], make: (arrives) => ({ arrives }) },
  print: ({ arrives, sensor }) => `${by(sensor)}${or(arrives)} arrives`,
  tell: ({ arrives }, name, eye) => `when ${comes(eye, or(arrives.map(name)), "arrive")}`,
  named: ({ arrives, sensor }, visit) => ({
    arrives: arrives.map((id) => visit("target", id, "arrives")),
    ...visitedSensor(sensor, visit),
  }),
  targets: ({ arrives }) => arrives,
  about: (trigger, target) => ({ ...trigger, arrives: [target] }),
  needs: ({ arrives, sensor }) => [conditionNeed({ seen: arrives, ...(sensor && { sensor }) })],
};

const departsSchema = z.strictObject({ departs: Targets, sensor });
type Departs = z.infer<typeof departsSchema>;

/** One of some targets ceases to be seen. */
export const departs: TriggerKind<Departs> = {
  key: "departs",
  schema: departsSchema,
  onEdge: false,
  byEvents: true,
  judge: { takes: ["eye", "count"], when: whenDeparted },
  row: ({ departs, sensor }, to) => targetsRow("departs", departs, sensor, to),
  templates: ["{targets} departs"],
  afterTargets: { words: [["departs"], ["depart"]], make: (departs) => ({ departs }) },
  print: ({ departs, sensor }) => `${by(sensor)}${or(departs)} departs`,
  tell: ({ departs }, name, eye) => `when ${comes(eye, or(departs.map(name)), "depart")}`,
  named: ({ departs, sensor }, visit) => ({
    departs: departs.map((id) => visit("target", id, "departs")),
    ...visitedSensor(sensor, visit),
  }),
  targets: ({ departs }) => departs,
  about: (trigger, target) => ({ ...trigger, departs: [target] }),
  needs: (trigger) => [
    {
      text: departs.print(trigger),
      holds: (scene) => scene.departed(trigger.departs, trigger.sensor),
    },
  ],
};

const presentSchema = z.strictObject({ present: Targets, sensor });
type Present = z.infer<typeof presentSchema>;

/** One of some targets is seen. */
export const present: TriggerKind<Present> = {
  key: "present",
  schema: presentSchema,
  onEdge: false,
  byVisits: true,
  answers: ({ present, sensor }) => [{ targets: present, sensor }],
  whileSeen: true,
  judge: { takes: ["eye", "count"], when: whilePresent },
  row: ({ present, sensor }, to) => targetsRow("present", present, sensor, to),
  templates: ["{targets} is present"],
  afterTargets: {
    words: [["is", "present"], ["are", "present"], ["present"]],
    make: (present: TargetId[]) => ({ present }),
  },
  print: ({ present, sensor }) => `${by(sensor)}${or(present)} is present`,
  tell: ({ present }, name, eye) =>
    `while ${eye === undefined ? `${or(present.map(name))} is present` : `${eye} sees ${or(present.map(name))}`}`,
  named: ({ present, sensor }, visit) => ({
    present: present.map((id) => visit("target", id, "present")),
    ...visitedSensor(sensor, visit),
  }),
  targets: ({ present }) => present,
  about: (trigger, target) => ({ ...trigger, present: [target] }),
  needs: ({ present, sensor }) => [conditionNeed({ seen: present, ...(sensor && { sensor }) })],
};
