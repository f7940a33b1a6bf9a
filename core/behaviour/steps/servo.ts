import * as z from "zod";
import type { int, num } from "../../arithmetic";
import { percent } from "../../phrases";
import type { Engine } from "../engine/Engine";
import { turnServo } from "../engine/outputs";
import { stepKind } from "./StepKind";

const Speed = z.number().positive().max(2000);
const schema = z.union([
  z.strictObject({ step: z.literal("servo"), servo: z.string(), to: z.number().min(-360).max(360), speed: Speed }),
  // A share of its range: 0 is the lowest angle, 1 the highest.
  z.strictObject({ step: z.literal("servo"), servo: z.string(), share: z.number().min(0).max(1), speed: Speed }),
]);

/** Turns a servo, no farther than its range; its step ends when it is there. */
function begin(e: Engine, servo: int, degrees: num, degreesPerSecond: num): void {
  const m = e.p.machine;
  const reached = Math.max(m.servoFrom[servo], Math.min(m.servoTo[servo], degrees));
  e.sinceMs = (Math.abs(reached - e.servoAt[servo]) / degreesPerSecond) * 1000;
  turnServo(e, servo, reached, degreesPerSecond);
}

/**
 * Turns a servo to an angle in degrees, at so many degrees a second, no farther than its range; the next step follows
 * when it is there.
 */
export const servo = stepKind<z.infer<typeof schema>>({
  key: "servo",
  schema,
  opening: "servo",
  templates: ["servo {servos} to {angle 90} at {speed 60}", "servo {servos} to {share 50} % at {speed 60}"],
  parse(reader) {
    const name = reader.takeName("servos");
    reader.take("to");
    const to = reader.takeNumber("an angle in degrees, or a share of its range in %");
    const isShare = reader.skip("%");
    if (isShare && (to < 0 || to > 100)) reader.failNumber("a share from 0 to 100 %");
    if (Math.abs(to) > 360) reader.failNumber("an angle from −360 to 360");
    reader.take("at");
    const speed = reader.takeAmount("degrees a second");
    if (speed > 2000) reader.failNumber("at most 2000 degrees a second");
    return { step: "servo", servo: name, ...(isShare ? { share: to / 100 } : { to }), speed };
  },
  print: ({ servo, speed, ...step }) =>
    `servo ${servo} to ${"to" in step ? step.to : `${percent(step.share)} %`} at ${speed}`,
  tell: ({ servo, speed, ...step }) =>
    `turn ${servo} to ${"to" in step ? `${step.to}°` : `${percent(step.share)} % of its range`} at ${speed}° a second`,
  acts: {
    servo: { takes: ["servo", "degrees", "degreesPerSecond"], begin, ended: (e) => e.now - e.sinceAt >= e.sinceMs },
  },
  row({ servo, speed, ...step }, to) {
    const degrees = "to" in step ? step.to : to.angle(servo, step.share);
    return { act: "servo", args: [to.servo(servo), degrees, speed] };
  },
  endsBy: (_, begun) => begun.t + (begun.ms ?? 0),
  // A share of the range is never beyond it.
  facts: (step) => ("to" in step ? { turns: { servo: step.servo, to: step.to } } : {}),
  turnedWithin: (step, low, high) => ("to" in step ? { ...step, to: Math.max(low, Math.min(high, step.to)) } : step),
  named: (step, visit) => ({ ...step, servo: visit("servo", step.servo, "servo") }),
});
