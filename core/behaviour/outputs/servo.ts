import * as z from "zod";
import type { int, num } from "../../arithmetic";
import { degreesAt } from "./Face";
import { outputKind } from "./OutputKind";

declare module "../engine/Engine" {
  interface RobotSide {
    servo(servo: int, degrees: num, degreesPerSecond: num): void;
  }
}

/** Turns a servo to an angle. */
export const servo = outputKind<
  { kind: "servo"; servo: string; degrees: number; degreesPerSecond: number },
  { servo: string; to: number; dps: number }
>({
  key: "servo",
  schema: z.object({ servo: z.string(), to: z.number(), dps: z.number() }),
  line: ({ servo, degrees, degreesPerSecond }) => ({ servo, to: degrees, dps: degreesPerSecond }),
  command: ({ servo, to, dps }) => ({ kind: "servo", servo, degrees: to, degreesPerSecond: dps }),
  heard: ({ naming }, servo: number, degrees: number, degreesPerSecond: number) => ({
    kind: "servo",
    servo: naming.servos[servo],
    degrees,
    degreesPerSecond,
  }),
  print: ({ servo, degrees, degreesPerSecond }) => `servo ${servo} ${degrees} ${degreesPerSecond}`,
  tell: ({ servo, degrees }) => `${servo} to ${degrees}°`,
  lasts: ({ servo }) => `servo ${servo}`,
  shows({ servo, degrees, degreesPerSecond }, at, { servos }) {
    const before = servos.get(servo);
    servos.set(servo, { from: before === undefined ? 0 : degreesAt(before, at), to: degrees, at, degreesPerSecond });
  },
  fn: `fn robot_servo(servo: text, degrees: num, degrees_per_second: num)
  "Turns a servo to an angle."`,
  told: `fn tell_servo(servo: int, degrees: num, degrees_per_second: num)
  robot_servo(IDS_OF_SERVOS[servo], degrees, degrees_per_second)`,
  on: {
    python: `def robot_servo(servo, degrees, degrees_per_second):
    """Turns a servo to an angle; the behaviour goes on meanwhile."""
    tell({"servo": servo, "to": degrees, "dps": degrees_per_second})`,
    c: `/* Turns a servo to an angle; the behaviour goes on meanwhile. */
static inline void robot_servo(const char *servo, double degrees, double degrees_per_second) {
  printf("{\\"servo\\": \\"%s\\", \\"to\\": %.17g, \\"dps\\": %.17g}\\n", servo, degrees, degrees_per_second);
}`,
    javascript: `/** Turns a servo to an angle; the behaviour goes on meanwhile. */
function robotServo(servo, degrees, degreesPerSecond) {
  tell({ servo, to: degrees, dps: degreesPerSecond });
}`,
  },
});
