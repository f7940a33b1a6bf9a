import * as z from "zod";
import type { int, num } from "../../arithmetic";
import { percent, printTime, timeIn } from "../../phrases";
import type { Engine } from "../engine/Engine";
import { runWheels, stopWheels } from "../engine/outputs";
import { stepKind, type TravelGoal } from "./StepKind";

const Speed = z.number().min(0.01).max(1);
const Side = z.enum(["left", "right"]);
const schema = z.union([
  z.strictObject({ step: z.literal("turn"), side: Side, speed: Speed, degrees: z.number().positive().max(3600) }),
  z.strictObject({
    step: z.literal("turn"),
    side: Side,
    speed: Speed,
    ms: z.number().positive().max(600_000),
    in: timeIn,
  }),
]);

const wayOfTurn = (degrees: number, trackMm: number): TravelGoal => ({
  of: "difference",
  mm: degrees * (Math.PI / 180) * trackMm,
});

/** Tells whether a turn is over: by time in ms, or by degrees as the wheels count them. */
function hasTurned(e: Engine, amount: num, byTime: int): boolean {
  if (byTime === 1) return e.now - e.sinceAt >= amount;
  const gone = e.wayRight - e.sinceRight - (e.wayLeft - e.sinceLeft);
  return Math.abs(gone) >= amount * (Math.PI / 180) * e.p.machine.trackMm;
}

/** On the spot, the wheels against each other, by degrees as the wheels count them or by time. */
export const turn = stepKind<z.infer<typeof schema>>({
  key: "turn",
  schema,
  needs: "turn",
  opening: "turn",
  templates: [
    "turn {side left|right} {degrees 90} at {speed 30} %",
    "turn {side left|right} {speed 25} % for {time 0.5} s",
  ],
  parse(reader) {
    const side = reader.skip("left") ? "left" : reader.skip("right") ? "right" : reader.fail("left or right");
    const amount = reader.takeAmount("degrees or a speed");
    if (reader.skip("%")) {
      if (amount > 100 || amount < 1) reader.failNumber("a speed from 1 to 100 %");
      reader.take("for");
      return { step: "turn", side, speed: amount / 100, ...reader.takeTime("a time", 600) };
    }
    if (amount > 3600) reader.failNumber("at most 3600 degrees");
    reader.take("at");
    const speed = reader.takePercent("a speed");
    if (speed < 0.01) reader.failNumber("a speed from 1 to 100 %");
    return { step: "turn", side, speed, degrees: amount };
  },
  print: (step) =>
    "degrees" in step
      ? `turn ${step.side} ${step.degrees} at ${percent(step.speed)} %`
      : `turn ${step.side} ${percent(step.speed)} % for ${printTime(step.ms, step.in)}`,
  tell: (step) =>
    "degrees" in step
      ? `turn ${step.side} by ${step.degrees}° at ${percent(step.speed)} %`
      : `turn ${step.side} at ${percent(step.speed)} % for ${printTime(step.ms, step.in)}`,
  acts: {
    turn: {
      takes: ["left", "amount", "byTime"],
      begin: (e, left) => runWheels(e, left, -left),
      ended: (e, _, amount, byTime) => hasTurned(e, amount, byTime),
      end: (e) => stopWheels(e, 0),
    },
  },
  row: ({ side, speed, ...much }) => ({
    act: "turn",
    args: [side === "left" ? -speed : speed, ...("ms" in much ? [much.ms, 1] : [much.degrees, 0])],
  }),
  endsBy: (step, begun) => ("ms" in step ? begun.t + step.ms : Number.POSITIVE_INFINITY),
  goal: (step, { trackMm }) => ("degrees" in step ? wayOfTurn(step.degrees, trackMm) : undefined),
  facts: ({ side, speed }) => ({ wheels: side === "left" ? [-speed, speed] : [speed, -speed], leavesMoving: false }),
});
