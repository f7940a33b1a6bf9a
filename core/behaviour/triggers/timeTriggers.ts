import * as z from "zod";
import type { int, num } from "../../arithmetic";
import { SensorIdSchema, UNKNOWN } from "../../names";
import { inUnit, printTime, timeIn } from "../../phrases";
import type { Engine } from "../engine/Engine";
import { seenBy } from "../engine/eyes";
import { visitedSensor } from "../Visitor";
import { by } from "./by";
import type { Look, Need, TriggerKind } from "./TriggerKind";

const Ms = z.number().positive().max(3_600_000);
const seconds = (ms: number) => `${(ms / 1000).toFixed(2)} s`;

/** A time that must have passed, as something that a response needs. */
const timeNeed = (text: string, wanted: number, passed: (scene: Look) => number): Need => ({
  text,
  holds: (scene) => passed(scene) >= wanted,
  value: (scene) => seconds(passed(scene)),
  short: (scene) => seconds(wanted - passed(scene)),
});

const nothingSchema = z.strictObject({ nothingKnownFor: Ms, in: timeIn, sensor: SensorIdSchema.optional() });
type NothingKnown = z.infer<typeof nothingSchema>;

/** Since when a sensor has seen nothing known, once that is so long, in this mode. */
function whenSilent(e: Engine, eye: int, ms: num): num {
  const since = Math.max(e.knownAt[eye], e.modeSince);
  return seenBy(e, eye) === 0 && e.now - since >= ms ? since : Number.NaN;
}

/** A sensor has seen nothing known for so long, in this mode. */
export const nothingKnownFor: TriggerKind<NothingKnown> = {
  key: "nothingKnownFor",
  schema: nothingSchema,
  onEdge: false,
  staysDue: true,
  comesByItself: true,
  needsSilence: true,
  isOtherwise: true,
  judge: { takes: ["eye", "ms"], when: whenSilent },
  row: ({ nothingKnownFor, sensor }, to) => ({ act: "nothingKnownFor", args: [to.eye(sensor), nothingKnownFor] }),
  templates: ["nothing known for {time 4} s"],
  parse(reader) {
    if (!reader.skip("nothing")) return undefined;
    reader.take("known");
    reader.take("for");
    const { ms, in: unit } = reader.takeTime("a time");
    return { nothingKnownFor: ms, ...inUnit(unit) };
  },
  print: ({ nothingKnownFor, in: unit, sensor }) =>
    `${by(sensor)}nothing known for ${printTime(nothingKnownFor, unit)}`,
  tell: ({ nothingKnownFor, in: unit }, _, eye) =>
    `when ${eye === undefined ? "nothing known is seen" : `${eye} sees nothing known`} for ${printTime(nothingKnownFor, unit)}`,
  named: ({ sensor, ...rest }, visit) => ({ ...rest, ...visitedSensor(sensor, visit) }),
  timer: ({ nothingKnownFor }) => ({ ms: nothingKnownFor, silence: true }),
  needs: (trigger) => [
    timeNeed(nothingKnownFor.print(trigger), trigger.nothingKnownFor, (scene) =>
      scene.seen(trigger.sensor) === UNKNOWN ? scene.t - Math.max(scene.knownAt(trigger.sensor), scene.modeSince) : 0,
    ),
  ],
};

const afterSchema = z.strictObject({ after: Ms, in: timeIn });
type After = z.infer<typeof afterSchema>;

/** The mode has gone on for so long. */
export const after: TriggerKind<After> = {
  key: "after",
  schema: afterSchema,
  onEdge: false,
  staysDue: true,
  comesByItself: true,
  isOtherwise: true,
  judge: { takes: ["ms"], when: (e, ms) => (e.now - e.modeSince >= ms ? 1 : Number.NaN) },
  row: ({ after }) => ({ act: "after", args: [after] }),
  templates: ["after {time 10} s"],
  parse(reader) {
    if (!reader.skip("after")) return undefined;
    const { ms, in: unit } = reader.takeTime("a time");
    return { after: ms, ...inUnit(unit) };
  },
  print: ({ after, in: unit }) => `after ${printTime(after, unit)}`,
  tell: ({ after, in: unit }) => `after ${printTime(after, unit)} in this mode`,
  named: (trigger) => trigger,
  timer: ({ after }) => ({ ms: after, silence: false }),
  needs: (trigger) => [timeNeed(after.print(trigger), trigger.after, (scene) => scene.t - scene.modeSince)],
};
