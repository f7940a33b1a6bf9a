import * as z from "zod";
import type { int, num } from "../../arithmetic";
import { type SensorId, SensorIdSchema, type TargetId, TargetIdSchema } from "../../names";
import { percent } from "../../phrases";
import { BLOB_ERROR, BLOB_HALF_FRAME, type Engine } from "../engine/Engine";
import { blobOf } from "../engine/eyes";
import { clarityOf } from "../engine/given";
import { own, runWheels, WHEELS } from "../engine/outputs";
import { visitedSensor } from "../Visitor";
import { stepKind } from "./StepKind";
import {
  brakeAfter,
  isOver,
  namedTravel,
  parseTravel,
  printTravel,
  straightFacts,
  Travel,
  tellTravel,
  travelArgs,
  travelling,
  travelUntil,
} from "./travel";

const Speed = z.number().min(0.01).max(1);
const common = { step: z.literal("follow"), target: TargetIdSchema, speed: Speed, travel: Travel.optional() };
const schema = z.union([
  z.strictObject({ ...common, edge: z.enum(["left", "right"]), sensor: SensorIdSchema.optional() }),
  z.strictObject({ ...common, by: z.literal("camera"), sensor: SensorIdSchema.optional() }),
  z.strictObject({ ...common, between: z.tuple([SensorIdSchema, SensorIdSchema]) }),
]);

/** At a reading as clear as this the wheels turn as sharply as they will. */
const SHARPEST_AT = 0.12;
/** The sharpest turn: how much faster one wheel runs and how much slower the other, as a share of the speed. */
const SHARPEST = 0.8;

/**
 * Follows a line: one sensor over its left or right edge, two astride it, or a camera's largest blob of it. Steers by how clearly each reading is of
 * the target, so that the spot stays where it is just as well taken for the line as for what lies beside it.
 */
export const follow = stepKind<z.infer<typeof schema>>({
  key: "follow",
  schema,
  needs: "turn",
  opening: "follow",
  templates: [
    "follow {targets} {side left|right} edge at {speed 25} %",
    "follow {targets} {side left|right} edge at {speed 25} % until {condition}",
    "follow {targets} {side left|right} edge at {speed 25} % for {way 40} cm",
    "follow {targets} between {sensors} and {sensors} at {speed 25} %",
    "follow {targets} between {sensors} and {sensors} at {speed 25} % until {condition}",
  ],
  cameraTemplates: [
    "follow {targets} by camera at {speed 25} %",
    "follow {targets} by camera at {speed 25} % until {condition}",
  ],
  parse(reader) {
    const target = reader.takeName("targets") as TargetId;
    const sensorBy = (): { sensor?: SensorId } =>
      reader.skip("by") ? { sensor: reader.takeName("sensors") as SensorId } : {};
    const speed = () => {
      reader.take("at");
      const value = reader.takePercent("a speed");
      return value < 0.01 ? reader.failNumber("a speed from 1 to 100 %") : value;
    };
    const travel = () => {
      const parsed = parseTravel(reader);
      return parsed === undefined ? {} : { travel: parsed };
    };
    // Offered only where there is a camera.
    if ((reader.hasCameras || reader.peekWord() === "by") && reader.skip("by")) {
      reader.take("camera");
      return { step: "follow", target, by: "camera", speed: speed(), ...travel() };
    }
    if (reader.skip("between")) {
      const left = reader.takeName("sensors") as SensorId;
      reader.take("and");
      const right = reader.takeName("sensors") as SensorId;
      return { step: "follow", target, between: [left, right], speed: speed(), ...travel() };
    }
    const edge = reader.skip("left")
      ? "left"
      : reader.skip("right")
        ? "right"
        : reader.fail("left edge, right edge or between two sensors");
    reader.take("edge");
    return { step: "follow", target, edge, ...sensorBy(), speed: speed(), ...travel() };
  },
  print(step) {
    const by =
      "by" in step
        ? "by camera"
        : "between" in step
          ? `between ${step.between[0]} and ${step.between[1]}`
          : `${step.edge} edge${step.sensor === undefined ? "" : ` by ${step.sensor}`}`;
    return `follow ${step.target} ${by} at ${percent(step.speed)} %${printTravel(step.travel)}`;
  },
  tell(step, name) {
    const where =
      "by" in step
        ? "by camera"
        : "between" in step
          ? `with ${name(step.between[0])} and ${name(step.between[1])} astride`
          : `at its ${step.edge} edge${step.sensor === undefined ? "" : ` by ${name(step.sensor)}`}`;
    return `follow ${name(step.target)} ${where} at ${percent(step.speed)} %${tellTravel(step.travel, name)}`;
  },
  acts: {
    follow: {
      takes: ["speed", "way", "label", "eye", "otherEye", "by", "amount"],
      begin: (e) => own(e, WHEELS),
      during: steer,
      ended: (e, _speed, _way, _label, _eye, _other, by, amount, until) => isOver(e, by, amount, until),
      end: (e, _speed, _way, _label, _eye, _other, by) => brakeAfter(e, by),
    },
    "follow on": {
      takes: ["speed", "way", "label", "eye", "otherEye"],
      begin: (e) => own(e, WHEELS),
      during: steer,
      isEndless: true,
    },
  },
  row(step, to) {
    const [way, eye, other] =
      "by" in step
        ? [BY_CAMERA, to.camera(step.sensor), 0]
        : "between" in step
          ? [BETWEEN, to.clear(step.target, step.between[0]), to.clear(step.target, step.between[1])]
          : [step.edge === "left" ? LEFT_EDGE : RIGHT_EDGE, to.clear(step.target, step.sensor), 0];
    const args = [step.speed, way, to.label(step.target), eye, other];
    if (step.travel === undefined) return { act: "follow on", args };
    return { act: "follow", args: [...args, ...travelArgs(step.travel)], ...travelUntil(step.travel) };
  },
  endless: ({ travel }) => travel === undefined,
  ...travelling,
  named(step, visit) {
    const head = { target: visit("target", step.target, "target"), ...namedTravel(step.travel, visit) };
    if ("between" in step) {
      const [left, right] = step.between;
      return { ...step, ...head, between: [visit("sensor", left, "between"), visit("sensor", right, "between")] };
    }
    return { ...step, ...head, ...visitedSensor(step.sensor, visit) };
  },
  facts: ({ speed, travel }) => straightFacts(speed, travel),
  paced: (step, to) => ({ ...step, speed: to(step.speed) }),
});

/** Ways to follow a line. */
const LEFT_EDGE = 0;
const RIGHT_EDGE = 1;
const BETWEEN = 2;
const BY_CAMERA = 3;

/** Brings a number into −1..1; NaN becomes 0. */
function share(x: num): num {
  return Number.isNaN(x) ? 0 : Math.max(-1, Math.min(1, x));
}

/** Turns towards the line. */
function steer(e: Engine, speed: num, way: int, label: int, eye: int, other: int): void {
  const turn = SHARPEST * leftward(e, way, label, eye, other);
  runWheels(e, speed * (1 - turn), speed * (1 + turn));
}

/** Gives how sharply to turn left, −1..1. */
function leftward(e: Engine, way: int, label: int, eye: int, other: int): num {
  // Towards the middle of the largest blob; straight on where there is none.
  if (way === BY_CAMERA) return -share(blobOf(e, eye, label, BLOB_ERROR) / blobOf(e, eye, label, BLOB_HALF_FRAME));
  const on = share(clarityOf(e, eye, label) / SHARPEST_AT);
  if (way === BETWEEN) return (on - share(clarityOf(e, other, label) / SHARPEST_AT)) / 2;
  return way === LEFT_EDGE ? on : -on;
}
