import { describe, expect, it } from "vitest";
import { Engine, type RobotSide } from "../core/behaviour/engine/Engine";
import { labelTaken, sightsTaken } from "../core/behaviour/engine/eyes";
import { clarityOf, featureOf, withNumber } from "../core/behaviour/engine/given";
import { endMoment, holdDown, startMoment } from "../core/behaviour/engine/moment";
import { dispatchFns, ENGINE, fieldVariables, kindName } from "../core/code/engineParts";
import { JavaScriptPrinter } from "../core/code/writers/javascript";
import { BLOB_ORDER } from "../core/vision";
import { programOf } from "../core/world";
import { drawnCase } from "../e2e/drawnBehaviour";
import { Happens } from "../e2e/runBehaviour";

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
  labelTaken(eye: number, label: number): void;
  sightsTaken(eye: number): void;
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
    press: (button, isDown) => holdDown(engine, button, isDown),
    labelTaken: (eye, label) => labelTaken(engine, eye, label),
    sightsTaken: (eye) => sightsTaken(engine, eye),
    blobs: engine.blobs,
  };
  const fresh = new Engine(program.rows, program.naming.kinds, here.robot);
  const structs = {
    Engine: fresh,
    Steadying: fresh.steadying,
    Rows: fresh.p,
    MachineRows: fresh.p.machine,
    NameRows: fresh.p.names,
  };
  const kinds = [...program.naming.numbers].map(([kind, value]) => ({
    name: kindName(kind),
    type: "int" as const,
    constant: true,
    value,
  }));
  const fns = [...ENGINE.fns, ...dispatchFns(program.naming.numbers, program.naming.kinds)];
  const parts = [{ variables: [...ENGINE.constants, ...kinds, ...fieldVariables(structs)], fns, given: ENGINE.given }];
  const text = new JavaScriptPrinter(parts).print().join("\n").replaceAll("export ", "");
  const there = recorder();
  const robotFns = ENGINE.given.filter(({ name }) => name.startsWith("tell_")).map(({ name }) => name.slice(5));
  // What the program itself printed is run here, as a robot would; features are those of the core's readings.
  const written = new Function(
    "robot",
    "featureOf",
    "clarityOf",
    "withNumber",
    `${robotFns.map((fn) => `const tell${fn[0].toUpperCase()}${fn.slice(1)} = (...args) => robot.${fn}(...args);`).join("\n")}
${text}
return { startMoment, endMoment, press: holdDown, labelTaken, sightsTaken, blobs };`,
  )(
    there.robot,
    (eye: number, feature: number) => featureOf(engine, eye, feature),
    (eye: number, label: number) => clarityOf(engine, eye, label),
    withNumber,
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
          for (const side of sides) side.labelTaken(eye, label);
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
            else if (happens === Happens.looks) side.sightsTaken(args[0]);
            else side.endMoment();
      }
      expect(told[1], `project ${seed}`).toEqual(told[0]);
      said += told[0].length;
    }
    expect(said).toBeGreaterThan(10_000);
  });
});
