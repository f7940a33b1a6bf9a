import { describe, expect, it } from "vitest";
import { Engine, type RobotSide } from "../core/behaviour/engine/Engine";
import { takeLabel, takeSights } from "../core/behaviour/engine/eyes";
import { clarityOf, featureOf, withNumber, withoutNumber } from "../core/behaviour/engine/given";
import { endMoment, press, startMoment } from "../core/behaviour/engine/moment";
import { JavaScriptPrinter } from "../core/code/writers/javascript";
import { BLOB_ORDER } from "../core/vision";
import { programOf } from "../core/world";
import { drawnCase } from "../e2e/drawnBehaviour";
import { Happens } from "../e2e/runBehaviour";
import { engineParts, loweredEngine } from "./engine";

const lowered = loweredEngine();

/** What the robot's side is called with, in words. */
function recorder(): { told: string[]; robot: RobotSide } {
  const told: string[] = [];
  const robot = new Proxy({} as RobotSide, {
    get:
      (_, name) =>
      (...args: unknown[]) =>
        void told.push([String(name), ...args].join(" ")),
  });
  return { told, robot };
}

interface Runs {
  startMoment(t: number, left: number, right: number): void;
  endMoment(): void;
  press(button: number, isDown: number): void;
  takeLabel(eye: number, label: number): void;
  takeSights(eye: number): void;
  blobs: { [at: number]: number };
}

/** A drawn behaviour in the core's engine, and in the same as it is written for robots; each with what it tells. */
function both(seed: number) {
  const { project, script } = drawnCase(seed);
  const program = programOf(project);
  const here = recorder();
  const engine = new Engine(program.rows, program.naming.kinds, here.robot);
  const core: Runs = {
    startMoment: (t, left, right) => startMoment(engine, t, left, right),
    endMoment: () => endMoment(engine),
    press: (button, isDown) => press(engine, button, isDown),
    takeLabel: (eye, label) => takeLabel(engine, eye, label),
    takeSights: (eye) => takeSights(engine, eye),
    blobs: engine.blobs,
  };
  const parts = engineParts(
    lowered,
    new Engine(program.rows, program.naming.kinds, here.robot),
    program.naming.numbers,
  );
  const text = new JavaScriptPrinter(parts).print().join("\n").replaceAll("export ", "");
  const there = recorder();
  const robotFns = lowered.given.filter(({ name }) => name.startsWith("robot_")).map(({ name }) => name.slice(6));
  // What the program itself printed is run here, as a robot would; features are those of the core's readings.
  const written = new Function(
    "robot",
    "featureOf",
    "clarityOf",
    "withNumber",
    "withoutNumber",
    `${robotFns.map((fn) => `const robot${fn[0].toUpperCase()}${fn.slice(1)} = (...args) => robot.${fn}(...args);`).join("\n")}
${text}
return { startMoment, endMoment, press, takeLabel, takeSights, blobs };`,
  )(
    there.robot,
    (eye: number, feature: number) => featureOf(engine, eye, feature),
    (eye: number, label: number) => clarityOf(engine, eye, label),
    withNumber,
    withoutNumber,
  ) as Runs;
  return { script, program, engine, sides: [core, written], told: [here.told, there.told] };
}

describe("the engine as it is written for robots", () => {
  it("does and says to the last figure what the core's does, whatever behaviour is drawn and whatever comes in", () => {
    let said = 0;
    for (let seed = 7000; seed < 7150; seed++) {
      const { script, program, engine, sides, told } = both(seed);
      for (const line of script) {
        const [happens, ...args] = line.split(" ").map(Number);
        if (happens === Happens.reads) {
          const [eye, ...raw] = args;
          engine.features[eye] = program.eyes[eye].read(raw);
          const label = program.eyes[eye].labelOf(engine.features[eye]);
          for (const side of sides) side.takeLabel(eye, label);
        } else if (happens === Happens.blob) {
          const [place, ...values] = args;
          for (const side of sides)
            values.forEach((value, k) => {
              side.blobs[place * BLOB_ORDER.length + k] = value;
            });
        } else
          for (const side of sides)
            if (happens === Happens.begins) side.startMoment(args[0], args[1], args[2]);
            else if (happens === Happens.presses) side.press(args[0], args[1]);
            else if (happens === Happens.looks) side.takeSights(args[0]);
            else side.endMoment();
      }
      expect(told[1], `project ${seed}`).toEqual(told[0]);
      said += told[0].length;
    }
    expect(said).toBeGreaterThan(10_000);
  });
});
