import { pipeRailCarrier, pottingShed } from "@perceptum/core/demo";
import { numbered } from "@perceptum/core/names";
import { type ProjectDocument, splitProject } from "@perceptum/core/project";
import type { BeltCourse, RailCourse } from "@perceptum/core/world";
import { paceOf, paceWords } from "./pace";
import type { Row } from "./table";

/** The demo's carrier on a loop of 10 m with sleepers and 40 plates, which it answers round after round. */
function onRail(): ProjectDocument {
  const { document } = splitProject(pipeRailCarrier());
  const [course] = document.courses as RailCourse[];
  const [mode] = document.behaviour.modes;
  // It goes on around: what turns it round at the ends of the open rail is left out.
  const responses = mode.responses.filter(({ then }) => then === undefined);
  const targets = ["coral", "teal", "amber", "violet"] as (typeof course.ground)[];
  const loop: RailCourse = {
    ...course,
    size: [6000, 3000],
    checks: [],
    rail: {
      from: [1000, 500],
      heading: 0,
      closed: true,
      way: [{ straight: 3430 }, { arc: 180, radius: 500 }, { straight: 3430 }, { arc: 180, radius: 500 }],
    },
    plates: Array.from({ length: 40 }, (_, i) => ({
      id: `plate-${i + 1}` as never,
      at: 200 + 240 * i,
      length: 60,
      width: 60,
      aside: 0,
      target: targets[i % targets.length],
    })),
  };
  return {
    ...document,
    courses: [loop],
    behaviour: { ...document.behaviour, modes: [{ ...mode, responses }, ...document.behaviour.modes.slice(1)] },
  };
}

/** The demo's sorter, which sends 200 pieces that are drawn by the seed. */
function onBelt(): ProjectDocument {
  const { document } = splitProject(pottingShed());
  const [course] = document.courses as BeltCourse[];
  const [mode] = document.behaviour.modes;
  const targets = ["coral", "teal", "amber", "violet", "chalk"] as (typeof course.ground)[];
  const draw = targets.map((target) => ({ target, weight: 1 }));
  const responses = mode.responses.map((response) => ({
    ...response,
    steps: numbered("step", [{ step: "send" as const, crate: `${response.id.replace("take-", "")}-crate` }]),
  }));
  return {
    ...document,
    courses: [
      { ...course, checks: [], pieces: { ...course.pieces, every: 200, jitterMm: 5, order: { draw, count: 200 } } },
    ],
    behaviour: { ...document.behaviour, modes: [{ ...mode, responses }] },
  };
}

/** Runs on rail and belt. */
export function benchMachines(): Row[] {
  const rail = paceOf(onRail(), "pipes");
  const belt = paceOf(onBelt(), "bench-belt", 300_000);
  return [
    {
      what: "one run of 60 s on a rail, 40 plates",
      measured: paceWords(rail),
      budget: "≥ 5,000 ×",
      met: rail.best >= 5000,
    },
    {
      what: "one run on a belt, 200 pieces sent to four crates",
      measured: paceWords(belt),
      budget: "≥ 5,000 ×",
      met: belt.best >= 5000,
    },
  ];
}
