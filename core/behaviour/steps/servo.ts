import * as z from "zod";
import type { int, num } from "../../arithmetic";
import type { Engine } from "../engine/Engine";
import { turnServo } from "../engine/outputs";
import { stepKind } from "./StepKind";

const schema = z.strictObject({
  step: z.literal("servo"),
  servo: z.string(),
  to: z.number().min(-360).max(360),
  speed: z.number().positive().max(2000),
});

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
  templates: ["servo {servos} to {angle 90} at {speed 60}"],
  parse(reader) {
    const name = reader.takeName("servos");
    reader.take("to");
    const to = reader.takeNumber("an angle in degrees");
    if (Math.abs(to) > 360) reader.failNumber("an angle from −360 to 360");
    reader.take("at");
    const speed = reader.takeAmount("degrees a second");
    if (speed > 2000) reader.failNumber("at most 2000 degrees a second");
    return { step: "servo", servo: name, to, speed };
  },
  print: ({ servo, to, speed }) => `servo ${servo} to ${to} at ${speed}`,
  tell: ({ servo, to, speed }) => `turn ${servo} to ${to}° at ${speed}° a second`,
  acts: {
    servo: { takes: ["servo", "degrees", "degreesPerSecond"], begin, ended: (e) => e.now - e.sinceAt >= e.sinceMs },
  },
  row: ({ servo, to: degrees, speed }, to) => ({ act: "servo", args: [to.servo(servo), degrees, speed] }),
  endsBy: (_, begun) => begun.t + (begun.ms ?? 0),
  facts: ({ servo, to }) => ({ turns: { servo, to } }),
  turnedWithin: (step, low, high) => ({ ...step, to: Math.max(low, Math.min(high, step.to)) }),
  named: (step, visit) => ({ ...step, servo: visit("servo", step.servo, "servo") }),
});
