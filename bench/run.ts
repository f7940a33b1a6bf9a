import { advance, type EngineInput, startState } from "@perceptum/core/behaviour";
import { glasshouseRound } from "@perceptum/core/demo";
import { type ProjectDocument, splitProject } from "@perceptum/core/project";
import type { Light } from "@perceptum/core/readings";
import { cellsOf, programOf, run, underConditions, verdicts } from "@perceptum/core/world";
import { paceOf, paceWords } from "./pace";
import type { Row } from "./table";
import { worldInC } from "./world";

/** The number of runs that are made in C. */
const RUNS_IN_C = 10;

const { document } = splitProject(glasshouseRound());

/** The demo with its first two sensors, driving to and fro for a minute over patches. */
export function withTwoSensors(patches = 20): ProjectDocument {
  const project = structuredClone(document);
  project.robot.mounts = project.robot.mounts.slice(0, 2);
  const [mode] = project.behaviour.modes;
  mode.responses = mode.responses.filter((r) => r.id === "slow" || r.id === "go-on" || r.id === "water");
  mode.responses.push({
    ...mode.responses[0],
    id: "round" as (typeof mode.responses)[0]["id"],
    when: { after: 6000 },
    fires: "while present",
    restMs: 6000,
    busy: "take over",
    steps: [
      { id: "step-1" as never, step: "turn", side: "left", degrees: 180, speed: 0.3 },
      { id: "step-2" as never, step: "drive", speed: 0.35 },
    ],
  });
  const [course] = project.courses;
  course.checks = [];
  course.size = [4000, 4000];
  course.starts = [{ id: "start-1" as never, name: "South door", x: 1000, y: 2000, heading: 0 }];
  const paints = ["coral", "amber", "moss", "terracotta"] as (typeof course.ground)[];
  const side = Math.ceil(Math.sqrt(patches));
  course.patches = Array.from({ length: patches }, (_, i) => ({
    id: `patch-${i + 1}` as never,
    shape: { rect: [60, 60] as [number, number] },
    target: paints[i % paints.length],
    at: [200 + ((i % side) * 3600) / side, 200 + (Math.floor(i / side) * 3600) / side] as [number, number],
    angle: 0,
  }));
  return project;
}

/** Steps of time a second that the engine alone makes, with a reading every fourth. */
function engineRate(): number {
  const program = programOf(withTwoSensors());
  const raws = [
    [699, 120, 90],
    [200, 200, 210],
  ];
  const still: EngineInput = { readings: [], travel: { left: 0, right: 0 } };
  const read = raws.map((raw): EngineInput => ({ readings: [{ eye: 0, raw }], travel: { left: 0, right: 0 } }));
  let best = 0;
  const steps = 200_000;
  for (let round = 0; round < 6; round++) {
    const state = startState(program);
    const start = performance.now();
    for (let i = 0; i < steps; i++) advance(state, i % 4 === 0 ? read[(i >> 8) & 1] : still, 5);
    best = Math.max(best, steps / (performance.now() - start));
  }
  return best * 1000;
}

/** Simulation, engine and sweep, and that cost grows linearly. */
export function benchRun(): Row[] {
  const two = withTwoSensors();
  const pace = paceOf(two, "aisle");
  const half = paceOf(two, "aisle", 30_000);
  const many = paceOf(withTwoSensors(2000), "aisle");
  const aisle = paceOf(document, "aisle");
  const engine = engineRate();
  const cells = cellsOf({
    course: "aisle",
    start: ["South door"],
    light: document.lights.map((l) => l.id),
    speed: [0.9, 1, 1.1],
    height: [-2, 0, 2],
    noise: [1],
    seeds: 1,
  });
  const start = performance.now();
  let runs = 0;
  for (const cell of cells) {
    const changed = underConditions(two, cell);
    for (const seed of [1, 2]) {
      verdicts(run(changed, { course: "aisle", light: cell.light, seed, limitMs: 60_000 }));
      runs++;
    }
  }
  const each = (performance.now() - start) / runs;
  const light = document.lights.find(({ id }) => id === "noon-sun") as Light;
  const inC = worldInC(two, light, RUNS_IN_C, 60_000);
  const times = inC === undefined ? undefined : (RUNS_IN_C * 60_000 * 1e6) / inC / pace.best;
  return [
    {
      what: "one run of 60 s on a floor, two sensors",
      measured: paceWords(pace),
      budget: "≥ 8,000 ×",
      met: pace.best >= 8000,
    },
    times === undefined
      ? { what: "… the same world in C", measured: "no C compiler here", budget: "" }
      : {
          what: "… time against the same world in C without a behaviour (cc -O2, the same traces)",
          measured: `${times.toFixed(2)} ×`,
          budget: "≤ 2.5 ×",
          met: times <= 2.5,
        },
    { what: "… of 30 s, for comparison", measured: paceWords(half), budget: "" },
    {
      what: "… with 2,000 patches against 20",
      measured: `${(pace.best / many.best).toFixed(2)} × the time`,
      budget: "≤ 3 ×",
      met: pace.best / many.best <= 3,
    },
    { what: "one run of the demo's aisle, four sensors", measured: paceWords(aisle), budget: "" },
    {
      what: "engine alone, a reading every fourth step",
      measured: `${(engine / 1e6).toFixed(1)} M steps/s`,
      budget: "≥ 3 M steps/s",
      met: engine >= 3e6,
    },
    {
      what: `sweep of 1,000 such runs, reckoned for two cores from ${runs} on one`,
      measured: `${((each * 1000) / 2 / 1000).toFixed(1)} s`,
      budget: "≤ 20 s",
      met: each * 500 <= 20_000,
    },
  ];
}
