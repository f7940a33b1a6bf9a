import * as z from "zod";
import type { int, num } from "../../arithmetic";
import { outputKind } from "./OutputKind";

declare module "../engine/Engine" {
  interface RobotSide {
    wheels(left: num, right: num): void;
    /** Brakes, or lets the wheels run out. */
    stop(coasts: int): void;
  }
}

/** Runs the wheels at shares of top speed, −1..1. */
export const wheels = outputKind<{ kind: "wheels"; left: number; right: number }, { wheels: [number, number] }>({
  key: "wheels",
  schema: z.object({ wheels: z.tuple([z.number(), z.number()]) }),
  line: ({ left, right }) => ({ wheels: [left, right] }),
  command: ({ wheels: [left, right] }) => ({ kind: "wheels", left, right }),
  heard: (_, left: number, right: number) => ({ kind: "wheels", left, right }),
  print: ({ left, right }) => `wheels ${left} ${right}`,
  lasts: () => "wheels",
  moves: ({ left, right }, body) => body.command(left, right),
  fn: `fn robot_wheels(left: num, right: num)
  "Runs the wheels at shares of top speed, -1 to 1."`,
  told: `fn tell_wheels(left: num, right: num)
  robot_wheels(left, right)`,
  on: {
    python: `def robot_wheels(left, right):
    """Runs the wheels at shares of top speed, -1 to 1."""
    tell({"wheels": [left, right]})`,
    c: `/* Runs the wheels at shares of top speed, -1 to 1. */
static inline void robot_wheels(double left, double right) {
  printf("{\\"wheels\\": [%.17g, %.17g]}\\n", left, right);
}`,
    javascript: `/** Runs the wheels at shares of top speed, -1 to 1. */
function robotWheels(left, right) {
  tell({ wheels: [left, right] });
}`,
  },
});

/** Stops the wheels: they brake, or run out. */
export const stop = outputKind<{ kind: "stop"; how: "brake" | "coast" }, { stop: "brake" | "coast" }>({
  key: "stop",
  schema: z.object({ stop: z.enum(["brake", "coast"]) }),
  line: ({ how }) => ({ stop: how }),
  command: ({ stop }) => ({ kind: "stop", how: stop }),
  heard: (_, coasts: number) => ({ kind: "stop", how: coasts === 1 ? "coast" : "brake" }),
  print: ({ how }) => (how === "brake" ? "stop" : "stop coast"),
  lasts: () => "wheels",
  moves({ how }, body) {
    const speed = how === "coast" ? null : 0;
    body.command(speed, speed);
  },
  fn: `fn robot_stop(how: text)
  "Stops the wheels: brake or coast."`,
  told: `fn tell_stop(coasts: int)
  robot_stop("coast" if coasts == 1 else "brake")`,
  on: {
    python: `def robot_stop(how):
    """Stops the wheels: brake or coast."""
    tell({"stop": how})`,
    c: `/* Stops the wheels: brake or coast. */
static inline void robot_stop(const char *how) {
  printf("{\\"stop\\": \\"%s\\"}\\n", how);
}`,
    javascript: `/** Stops the wheels: brake or coast. */
function robotStop(how) {
  tell({ stop: how });
}`,
  },
});
