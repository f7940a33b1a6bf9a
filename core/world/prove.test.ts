import { describe, expect, it } from "vitest";
import { everyStep, namesOf, pacedStep, parseStep, parseTrigger, type Response } from "../behaviour";
import { glasshouseRound, routeCards } from "../demo";
import { type LightId, type ModeId, numbered, type SensorId, type TargetId } from "../names";
import { completions } from "../phrases";
import { type ProjectDocument, splitProject, type WithoutIds, withIds } from "../project";
import { emptyCourse } from "../world";
import {
  Check,
  type Conditions,
  type Course,
  cardsNow,
  cellsOf,
  checkSentence,
  courseAs,
  drawn,
  Floor,
  type FloorCourse,
  type FloorLike,
  fastestInWords,
  fastestThatHolds,
  heldAtMm,
  judgeCheck,
  parseCheck,
  parseCheckFrom,
  partingOf,
  printCheck,
  RunError,
  reportThings,
  run,
  shapeTest,
  speedRanges,
  summarise,
  sweepCell,
  tryStep,
  underConditions,
  verdicts,
  whyResponse,
} from ".";
import { SensorOptics } from "./optics";
import { SIGHT_MM, Signs } from "./sight";

const { document } = splitProject(glasshouseRound());
const t = (id: string) => id as TargetId;
const course = (change: WithoutIds<Partial<FloorLike>>): Course => ({
  ...emptyCourse("yard" as Course["id"], "Yard", t("slate")),
  ...(withIds<Partial<FloorLike>>(change) as Partial<FloorCourse>),
});
const onCourse = (
  change: WithoutIds<Partial<FloorLike>>,
  alter: (p: ProjectDocument) => void = () => {},
): ProjectDocument => {
  const project = structuredClone({ ...document, courses: [course(change)] });
  alter(project);
  return project;
};
const outcomesOf = (trace: ReturnType<typeof run>) => verdicts(trace).map(({ verdict }) => verdict.outcome);

describe("a course", () => {
  const tile = {
    shape: { disc: 80 },
    target: { oneOf: [t("coral"), t("teal")] },
    at: [300, 300] as [number, number],
    angle: 0,
  };

  it("draws its tiles by the seed, evenly, and each by itself", () => {
    const seeds = Array.from({ length: 400 }, (_, seed) => drawn(course({ patches: [tile] }), seed).patches[0].target);
    expect(seeds.filter((x) => x === "coral").length / 400).toBeCloseTo(0.5, 1);
    const two = drawn(course({ patches: [tile, { ...tile, at: [600, 300] }] }), 7).patches.map((p) => p.target);
    expect(two[0]).toBe(drawn(course({ patches: [tile] }), 7).patches[0].target);
  });

  it("holds what lies in a polygon, hollow and turned", () => {
    // An L, whose inner corner is at the origin of its own place.
    const corners: [number, number][] = [
      [-50, -50],
      [50, -50],
      [50, 0],
      [0, 0],
      [0, 50],
      [-50, 50],
    ];
    const shape = { shape: { polygon: corners }, at: [100, 100] as [number, number], angle: 0 };
    expect(shapeTest(shape)(75, 125)).toBe(true);
    expect(shapeTest(shape)(125, 125)).toBe(false);
    expect(shapeTest({ ...shape, angle: 180 })(125, 75)).toBe(true);
    expect(shapeTest({ ...shape, angle: 180 })(75, 75)).toBe(false);
    const floor = new Floor(drawn(course({ patches: [{ ...shape, target: t("coral") }] }), 1), document.targets);
    expect(floor.targetAt(75, 125)).toBe("coral");
    expect(floor.targetAt(125, 125)).toBe("slate");
  });

  it("is darker in the shade, also where two shades meet", () => {
    const shade = [
      { from: [0, 0] as [number, number], to: [500, 500] as [number, number], level: 0.5 },
      { from: [600, 600] as [number, number], to: [400, 400] as [number, number], level: 0.2 },
    ];
    const floor = new Floor(drawn(course({ shade }), 1), document.targets);
    expect([floor.levelAt(100, 100), floor.levelAt(450, 450), floor.levelAt(900, 100)]).toEqual([0.5, 0.1, 1]);
  });

  it("has signs that are seen from their painted side, the nearest first, and no farther than sight", () => {
    const sign = (x: number, target: string) => ({
      target: t(target),
      at: [x, 0] as [number, number],
      angle: 180,
      width: 100,
      height: 100,
    });
    const signs = new Signs(drawn(course({ signs: [sign(400, "coral"), sign(200, "teal")] }), 1), document.targets);
    expect(signs.look(0, 0, 50, 1, 0, 20)).toEqual([{ sign: 1, distance: 200, share: 1 }]);
    expect(signs.look(0, 0, 150, 1, 0, 20)).toEqual([]);
    expect(signs.look(-250, 0, 50, 1, 0, 20)).toEqual([{ sign: 1, distance: 450, share: 1 }]);
    expect(signs.look(-500, 0, 50, 1, 0, 20)).toEqual([]);
    expect(signs.look(700, 0, 50, -1, 0, 20)).toEqual([]);
    // At the boards' edge half of the spot lies on the nearer one; the farther one is behind it.
    const [edge, ...behind] = signs.look(0, 50.4, 50, 1, 0, 20);
    expect(Math.abs(edge.share - 0.5)).toBeLessThan(0.12);
    expect(behind).toEqual([]);
  });

  it("see past a near sign as much of the far one as the near one leaves free", () => {
    const sign = (x: number, y: number, target: string) => ({
      target: t(target),
      at: [x, y] as [number, number],
      angle: 180,
      width: 100,
      height: 100,
    });
    const project = { ...document, courses: [course({ signs: [sign(200, 57, "teal"), sign(400, 0, "coral")] })] };
    const signs = new Signs(drawn(project.courses[0], 1), document.targets);
    const seen = signs.look(0, 0, 50, 1, 0, 20);
    expect(seen.map(({ sign }) => sign)).toEqual([0, 1]);
    expect(seen[0].share).toBeGreaterThan(0.05);
    expect(seen[0].share).toBeLessThan(0.25);
    expect(seen[0].share + seen[1].share).toBeCloseTo(1, 9);
    // Each sign gives back by its share what it does alone, and the glare counts once.
    const optics = new SensorOptics(document.sensors[0], document.lights[0], document.targets);
    const of = (paint: ArrayLike<number>, distance: number) => {
      const out = new Float64Array(3);
      optics.signal(paint, distance, out);
      return out;
    };
    const both = of([0, 0, 0], SIGHT_MM);
    const glare = [...both];
    for (const { sign, share, distance } of seen) optics.add(signs.paintOf(sign), share, distance, both);
    [0, 1, 2].forEach((c) => {
      const alone = seen.map(({ sign, share, distance }) => share * (of(signs.paintOf(sign), distance)[c] - glare[c]));
      expect(both[c]).toBeCloseTo(glare[c] + alone[0] + alone[1], 12);
    });
  });
});

describe("cards and presses", () => {
  const shown = onCourse({
    kind: "hand",
    cards: [
      { target: t("coral"), atMs: 500, forMs: 600 },
      { target: t("violet"), atMs: 1600, forMs: 600 },
    ],
    checks: [{ answersOnce: t("coral") }, { seesInOrder: [t("coral"), t("violet")] }],
  });

  it("are seen by a hand's sensor one after another, and answered as things of their own", () => {
    const {
      motors: _,
      trackMm: __,
      wheelMm: ___,
      tractionMmS2: ____,
      ...rest
    } = shown.robot as Extract<ProjectDocument["robot"], { kind: "cart" }>;
    const hand: ProjectDocument = { ...shown, robot: { ...rest, kind: "hand" } };
    const trace = run(hand, { course: "yard" });
    expect(trace.ending).toBe("time is over");
    expect(trace.endMs).toBe(2200 + 5000);
    expect(outcomesOf(trace)).toEqual(["holds", "holds"]);
    expect(new Set(trace.x)).toEqual(new Set([150]));
    expect(reportThings(trace).map((r) => [r.kind, r.target, r.at])).toEqual([
      ["card", "coral", 500],
      ["card", "violet", 1600],
    ]);
  });

  it("held and pressed live replay exactly, as if they had been written down", () => {
    const bare = onCourse({ kind: "hand" });
    const live = run(bare, { course: "yard", limitMs: 3000, live: { cards: shown.courses[0].cards, presses: [] } });
    const written = run(
      { ...shown, courses: [{ ...shown.courses[0], checks: [] }] },
      { course: "yard", limitMs: 3000 },
    );
    expect(live.notes).toEqual(written.notes);
    expect(live.eyes).toEqual(written.eyes);
  });

  it("held up over another that is still there hide it as long as they are held", () => {
    const course = {
      ...shown.courses[0],
      cards: numbered("card", [{ target: t("coral"), atMs: 500, forMs: 3000 }]),
      checks: [],
    };
    const project = { ...shown, courses: [course] };
    const live = { cards: [{ target: t("violet"), atMs: 1200, forMs: 500 }], presses: [] };
    const seen = run(project, { course: "yard", live }).notes.flatMap((n) => (n.kind === "arrives" ? [n.target] : []));
    expect(seen).toEqual(["coral", "violet", "coral"]);
  });

  it("lie farther from a sensor that is swept higher", () => {
    const near = {
      ...shown,
      courses: [
        { ...shown.courses[0], cards: numbered("card", [{ target: t("coral"), atMs: 500, forMs: 600, heightMm: 20 }]) },
      ],
    };
    const at = (height: number) => underConditions(near, { speed: 1, height, noise: 1 }).courses[0].cards[0].heightMm;
    expect([at(-30), at(0), at(5)]).toEqual([0, 20, 25]);
    // A card that is held at the sensor's best height is moved from there.
    const best = document.sensors[0].optics.bestMm;
    expect(underConditions(shown, { speed: 1, height: 7, noise: 1 }).courses[0].cards[0].heightMm).toBe(best + 7);
    const passes = (height: number) =>
      verdicts(run(underConditions(shown, { speed: 1, height, noise: 1 }), { course: "yard" }))[0].verdict.outcome;
    expect([passes(0), passes(60)]).toEqual(["holds", "does not"]);
  });

  it("are held as far away as is written, and by a jitter that the seed draws for each of them", () => {
    const held = { cards: [{ heightMm: 20 }, {}, { heightMm: 0 }], held: { jitterMm: 0, trembleMm: 0 } };
    expect([0, 1, 2].map((i) => heldAtMm(held, i, 1, 14))).toEqual([20, 14, 1]);
    const heights = Array.from({ length: 500 }, (_, i) =>
      heldAtMm({ ...held, held: { jitterMm: 2, trembleMm: 0 } }, 0, i + 1, 14),
    );
    const mean = heights.reduce((sum, h) => sum + h, 0) / heights.length;
    const deviation = Math.sqrt(heights.reduce((sum, h) => sum + (h - mean) ** 2, 0) / heights.length);
    expect(Math.abs(mean - 20)).toBeLessThan(0.4);
    expect(Math.abs(deviation - 2)).toBeLessThan(0.3);
  });

  it("are before the sensor that they name or else the first, the one held up last seen last", () => {
    const [first, other] = ["first", "other"] as unknown as [SensorId, SensorId];
    const cards = [
      { atMs: 1000, forMs: 500 },
      { atMs: 500, forMs: 2000 },
      { atMs: 500, forMs: 2000, sensor: other },
    ];
    const now = (at: number, sensor = first) => cardsNow({ cards }, at, sensor, first);
    expect([now(499), now(500), now(1000), now(1499), now(1500), now(2500)]).toEqual([
      [],
      [1],
      [1, 0],
      [1, 0],
      [1],
      [],
    ]);
    expect(now(1200, other)).toEqual([2]);
  });

  it("press the robot's buttons", () => {
    const pressed = onCourse({ presses: [{ button: "key", atMs: 400, forMs: 100 }] }, (p) => {
      p.robot.buttons = ["key"];
      const when = parseTrigger("becomes button key", namesOf(p));
      if ("problem" in when) throw new Error(when.problem.message);
      p.behaviour.modes[0].responses = [
        {
          id: "go" as Response["id"],
          when: when.value,
          steps: numbered("step", [{ step: "finish" }]),
          fires: "once per visit",
          busy: "take over",
          on: true,
        },
      ];
    });
    expect(run(pressed, { course: "yard" })).toMatchObject({ ending: "finished", endMs: 400 });
    const why = (at: number) =>
      whyResponse(pressed, { course: "yard" }, at, "patrol" as ModeId, "go" as Response["id"])?.terms.find(
        (term) => term.text === "button key",
      );
    expect(why(395)).toMatchObject({ holds: false, since: 0 });
    expect(why(400)).toMatchObject({ holds: true, since: 400 });
  });
});

describe("a course of another kind", () => {
  const floor = onCourse({
    patches: [{ shape: { disc: 100 }, target: t("coral"), at: [600, 600], angle: 0 }],
    zones: [{ name: "Bay", shape: { disc: 300 }, at: [600, 600], angle: 0 }],
    cards: [{ target: t("coral"), atMs: 500, forMs: 600 }],
    checks: [{ endsIn: "Bay" }, { answersOnce: t("coral") }],
  }).courses[0];

  it("loses what that kind does not have, and says so; the rest stays", () => {
    const { course, lost } = courseAs(floor, "hand");
    expect(lost).toEqual([
      { part: "patches", count: 1 },
      { part: "zones", count: 1 },
      { part: "checks", count: 1 },
    ]);
    expect(course).toEqual({
      ...floor,
      kind: "hand",
      patches: [],
      zones: [],
      checks: [{ id: "check-2", answersOnce: "coral" }],
    });
  });

  it("loses nothing where it has everything", () => {
    // Places on a floor mean nothing along a belt.
    const onBelt = courseAs(floor, "belt");
    expect([onBelt.course.zones, onBelt.course.shade, onBelt.course.cards]).toEqual([[], [], floor.cards]);
    expect(onBelt.lost.map(({ part }) => part)).toEqual(expect.arrayContaining(["zones"]));
    expect(courseAs({ ...floor, kind: "hand" } as Course, "floor")).toEqual({ course: floor, lost: [] });
  });
});

describe("the chalk walk", () => {
  it.each([1, 2, 3])("is gone along its edge and astride in every light, whatever tile is drawn (seed %i)", (seed) => {
    for (const light of ["overcast", "noon-sun", "dusk"]) {
      const trace = run(document, { course: "chalk-walk", light, seed });
      expect(outcomesOf(trace), light).toEqual(new Array(5).fill("holds"));
    }
  });

  it("comes to the same verdicts at half the time step, and so does the aisle", () => {
    for (const [name, light] of [
      ["chalk-walk", "overcast"],
      ["aisle", "overcast"],
      ["aisle", "noon-sun"],
    ])
      for (const seed of [1, 2]) {
        const choice = { course: name, light, seed };
        expect(outcomesOf(run(document, { ...choice, tickMs: 2.5 }))).toEqual(outcomesOf(run(document, choice)));
      }
  });
});

describe("the route cards", () => {
  const { document: cards } = splitProject(routeCards());

  it("are shown, jotted and gone in their order, in both lights and with every seed tried", () => {
    for (const light of ["overcast", "dusk"])
      for (let seed = 1; seed <= 10; seed++) {
        const trace = run(cards, { course: "shed", light, seed });
        expect(outcomesOf(trace), `${light}, seed ${seed}`).toEqual(["holds", "holds", "holds"]);
      }
  });

  it("in another order lead elsewhere", () => {
    const other = structuredClone(cards);
    other.courses[0].cards[0].target = t("teal");
    other.courses[0].cards[2].target = t("coral");
    expect(outcomesOf(run(other, { course: "shed" }))).not.toContain("holds");
  });
});

describe("checks of motion and of what is said", () => {
  const plates = onCourse({
    patches: [{ shape: { rect: [120, 200] }, target: t("coral"), at: [600, 600], angle: 0 }],
    zones: [{ name: "Bay", shape: { disc: 300 }, at: [600, 600], angle: 0 }],
    lines: [
      {
        points: [
          [0, 600],
          [2000, 600],
        ],
        width: 20,
        target: t("chalk"),
      },
    ],
  });
  const doing = (...phrases: string[]) => {
    const project = structuredClone(plates);
    const [mode] = project.behaviour.modes;
    mode.responses = mode.responses.filter((r) => r.id === "water");
    mode.responses[0].steps = numbered(
      "step",
      phrases.map((phrase) => {
        const parsed = parseStep(phrase, namesOf(project));
        if ("problem" in parsed) throw new Error(parsed.problem.message);
        return parsed.value;
      }),
    );
    return run(project, { course: "yard", light: "overcast" });
  };
  const stopped = doing("stop", 'log "here"', 'show "bay 2"', "wait 0.5 s", "finish");

  it("measure the way from the edge to a stand", () => {
    const verdict = judgeCheck({ stopsWithinMm: 40, after: t("coral") }, stopped);
    expect(verdict.outcome).toBe("holds");
    // By an independent route: from where the spot's first point meets the patch's edge at x = 540 to where it stands.
    const way = stopped.eyeX[stopped.eyeX.length - 1] - 540 + (stopped.eyes[0].spot?.mm ?? 0) / 2;
    expect(Math.abs(Number.parseFloat(verdict.figure) * 10 - way)).toBeLessThan(0.6);
    expect(judgeCheck({ stopsWithinMm: way - 0.5, after: t("coral") }, stopped).outcome).toBe("does not");
    expect(judgeCheck({ stopsWithinMm: 40, after: t("teal") }, stopped).outcome).toBe("not reached");
  });

  it("know zones, lines and slip", () => {
    expect(judgeCheck({ endsIn: "Bay" }, stopped)).toMatchObject({ outcome: "holds", figure: "inside" });
    expect(judgeCheck({ staysWithinMm: 5, stays: t("chalk") }, stopped)).toMatchObject({ outcome: "holds" });
    expect(judgeCheck({ neverSlips: true }, stopped).outcome).toBe("holds");
    const rash = doing("drive 100 % for 10 cm", "drive -100 % for 10 cm", "finish");
    expect(judgeCheck({ neverSlips: true }, rash).outcome).toBe("does not");
    expect(judgeCheck({ endsIn: "Bay" }, doing("drive 60 % for 40 cm", "finish"))).toMatchObject({
      outcome: "does not",
      figure: "outside",
    });
  });

  it("read the log and the display", () => {
    expect(judgeCheck({ logIs: ["here"] }, stopped).outcome).toBe("holds");
    expect(judgeCheck({ logIs: ["there"] }, stopped)).toMatchObject({ outcome: "does not", figure: "“here”" });
    expect(judgeCheck({ logIs: ["here", "there"] }, stopped)).toMatchObject({ outcome: "does not", figure: "1/2" });
    expect(judgeCheck({ shownIs: "bay 2" }, stopped).outcome).toBe("holds");
    expect(judgeCheck({ shownIs: "bay 3" }, stopped)).toMatchObject({ outcome: "does not", figure: "“bay 2”" });
  });

  it.each([
    "sees coral, amber",
    "answers every coral once",
    "never answers terracotta",
    "never slips",
    "ends on violet",
    'ends in "Bay 2"',
    "stops within 4.5 cm after coral",
    'log is "a", "b"',
    "log is empty",
    'shown is "bay 2"',
    "count tally is 2",
    "finishes within 45 s",
    "stays within 3 cm of chalk",
  ])("%s is read and written the same", (phrase) => {
    const parsed = parseCheck(phrase, namesOf(document));
    expect("value" in parsed && printCheck(parsed.value)).toBe(phrase);
    expect("value" in parsed && Check.safeParse(parsed.value).success).toBe(true);
  });

  it("say where a phrase of none goes wrong", () => {
    expect(parseCheck("never sees coral", namesOf(document))).toMatchObject({ problem: { column: 1 } });
    expect(parseCheck("stops within 3 km after coral", namesOf(document))).toMatchObject({ problem: { column: 16 } });
    expect(
      completions("ends ", namesOf(document), parseCheckFrom)
        .map(({ word }) => word)
        .sort(),
    ).toEqual(["in", "on"]);
  });

  it("say themselves as sentences", () => {
    const name = (id: string) => id;
    expect(checkSentence({ stopsWithinMm: 45, after: t("coral") }, name)).toBe(
      "Stops within 4.5 cm after coral’s edge",
    );
    expect(checkSentence({ staysWithinMm: 30, stays: t("chalk") }, name)).toBe(
      "Stays within 3 cm of the line of chalk",
    );
  });
});

describe("what a run shows of each thing", () => {
  it("has speed, readings, delay and answers of every patch", () => {
    const trace = run(document, { course: "aisle", light: "overcast", seed: 1 });
    const [coral, moss, amber] = reportThings(trace);
    expect(coral).toMatchObject({ kind: "patch", target: "coral", answers: 1, takenFor: [] });
    // 35 % of 400 mm/s until it arrives; hits 3 of 4 at 20 ms.
    expect(coral.delay?.ms).toBeGreaterThanOrEqual(40);
    expect(coral.delay?.ms).toBeLessThanOrEqual(100);
    expect(coral.delay?.mm).toBeCloseTo(0.14 * (coral.delay?.ms ?? 0), 0);
    expect(moss).toMatchObject({ target: "moss", answers: 0 });
    expect(amber.readings).toBeGreaterThan(10);
    const noon = run(document, { course: "aisle", light: "noon-sun", seed: 1 });
    expect(reportThings(noon).flatMap((r) => r.takenFor)).toEqual([{ target: "coral", times: 1 }]);
  });

  it("names where two runs part", () => {
    const [overcast, noon] = ["overcast", "noon-sun"].map((light) =>
      run(document, { course: "aisle", light, seed: 1 }),
    );
    expect(partingOf(overcast, overcast)).toBeUndefined();
    const parting = partingOf(overcast, noon);
    expect(parting?.second).toMatchObject({ kind: "arrives", target: "coral" });
    expect(parting?.t).toBeLessThan(noon.endMs);
  });
});

describe("why a response runs or not", () => {
  const patrol = "patrol" as ModeId;
  const choice = { course: "aisle", light: "overcast", seed: 1 };

  it("names the condition that was short, by how much and since when", () => {
    const guarded = structuredClone(document);
    guarded.behaviour.modes[0].responses[0].guard = {
      all: [
        { feature: "sat", from: 0.99 },
        { count: "tally", from: 2 },
      ],
    };
    const trace = run(document, choice);
    const fired = trace.notes.find((n) => n.kind === "fires" && n.response === "water")?.t ?? 0;
    const reason = whyResponse(guarded, choice, fired + 40, patrol, "water" as Response["id"]);
    const by = new Map(reason?.terms.map((term) => [term.text, term]));
    expect(by.get("coral")).toMatchObject({ holds: true, since: fired, value: "coral is seen" });
    expect(by.get("sat >= 99 %")).toMatchObject({ holds: false });
    expect(by.get("sat >= 99 %")?.short).toMatch(/^\d+\.\d %$/);
    expect(by.get("tally >= 2")).toMatchObject({ holds: false, value: "0" });
    expect(reason?.firedAt).toBeUndefined();
  });

  it("says what ran instead, and when it last fired", () => {
    const trace = run(document, choice);
    const fired = trace.notes.find((n) => n.kind === "fires" && n.response === "water")?.t ?? 0;
    const reason = whyResponse(document, choice, fired + 500, patrol, "go-on" as Response["id"]);
    expect(reason?.running).toEqual({ response: "water", step: "wait 2 s" });
    expect(reason?.terms.find((term) => term.text === "nothing else runs")).toMatchObject({
      holds: false,
      since: fired,
    });
    expect(whyResponse(document, choice, fired + 500, patrol, "water" as Response["id"])?.firedAt).toBe(fired);
  });
});

describe("a step alone", () => {
  const phrase = (text: string) => {
    const parsed = parseStep(text, namesOf(document));
    if ("problem" in parsed) throw new Error(parsed.problem.message);
    return tryStep(document, parsed.value);
  };

  it("drives its way, turns its angle, and shows what it shows", () => {
    const drive = phrase("drive 30 % for 20 cm");
    expect(drive.ended).toBe(true);
    expect(Math.abs(drive.mm - 200)).toBeLessThan(15);
    const turn = phrase("turn left 90 at 30 %");
    expect(Math.abs(turn.degrees - 90)).toBeLessThan(12);
    expect(turn.mm).toBeLessThan(2);
    expect(phrase("lamp coral").outputs).toEqual(["lamp on"]);
    expect(phrase("do water").ms).toBe(2000);
  });

  it("that goes on is looked at after ten seconds", () => {
    const drive = phrase("drive 30 %");
    expect(drive).toMatchObject({ ended: false, ms: 10_000 });
    // 30 % of 400 mm/s for 10 s, less what the lag takes.
    expect(Math.abs(drive.mm - 120 * (10 - 0.06))).toBeLessThan(2);
  });
});

describe("a sweep", () => {
  const grid = {
    course: "aisle",
    start: ["South door"],
    light: ["overcast", "noon-sun"] as LightId[],
    speed: [1],
    height: [0, 4],
    noise: [1],
    seeds: 3,
  };

  it("has every point of its grid, and refuses what is empty or too large", () => {
    expect(cellsOf(grid)).toHaveLength(4);
    expect(() => cellsOf({ ...grid, light: [] })).toThrow(RunError);
    expect(() => cellsOf({ ...grid, seeds: 10_000_000 })).toThrow(/too many/);
  });

  it("changes motors, mounts and noise, and nothing at the norm", () => {
    expect(underConditions(document, { speed: 1, height: 0, noise: 1 })).toEqual(document);
    const changed = underConditions(document, { speed: 2, height: 4, noise: 3 });
    expect(changed.robot.mounts[0].z).toBe(18);
    expect(changed.sensors[0].optics.read).toBeCloseTo(3 * document.sensors[0].optics.read, 12);
  });

  it("finds the light to be what costs most, and the terracotta check what fails", () => {
    const cells = cellsOf(grid).map((conditions: Conditions) => ({
      conditions,
      runs: [...sweepCell(document, "aisle", conditions, [1, 2, 3])],
    }));
    const summary = summarise(cells, 6);
    expect(summary.axes[0]).toMatchObject({ axis: "light" });
    expect(summary.cells[0].cell.conditions.light).toBe("noon-sun");
    expect(summary.cells[0].failing).toContain(1);
    expect(summary.checks.indexOf(Math.max(...summary.checks))).toBe(2);
    expect(summary.all.runs).toBe(12);
    expect(summary.all.interval[0]).toBeLessThan(summary.all.share);
  });

  it("finds every range of speeds that holds, each to an end that was itself tried", () => {
    expect(speedRanges((x) => x <= 1.637)).toEqual([{ from: 0.5, to: 1.63 }]);
    expect(speedRanges(() => false)).toEqual([]);
    expect(speedRanges((x) => x <= 0.33 && x > 0.1)).toEqual([{ from: 0.11, to: 0.33 }]);
    expect(speedRanges(() => true)).toEqual([{ from: 0.5, to: 4 }]);
    const two = (x: number) => (x >= 0.6 && x < 1.1) || (x > 1.3 && x <= 1.69);
    expect(speedRanges(two)).toEqual([
      { from: 0.6, to: 1.09 },
      { from: 1.31, to: 1.69 },
    ]);
    const shares: number[] = [];
    const asked: number[] = [];
    const found = speedRanges(
      (x) => {
        asked.push(x);
        return two(x);
      },
      (share) => shares.push(share),
    );
    expect(found.flatMap(({ from, to }) => [from, to]).every((end) => asked.includes(end))).toBe(true);
    expect(new Set(asked).size).toBe(asked.length);
    expect(shares).toEqual([...shares].sort((x, y) => x - y));
    expect(shares.at(-1)).toBe(1);
  });

  it("says a highest speed that holds with seeds that the search did not use, and what to type", () => {
    const overcast = cellsOf({ ...grid, light: grid.light.slice(0, 1), height: [0], speed: [1] });
    const checked = {
      ...document,
      courses: document.courses.map((c) => ({ ...c, checks: c.checks.filter((check) => "answersOnce" in check) })),
    };
    const seeds = [1];
    const found = fastestThatHolds(checked, "aisle", overcast, seeds);
    const failing = (project: typeof document, speed: number) =>
      overcast
        .flatMap((point) => [...sweepCell(project, "aisle", { ...point, speed }, [1, 2])])
        .filter((r) => r.failed.length > 0);
    expect(found?.speed).toBeGreaterThan(1);
    expect(failing(checked, found?.speed ?? 0)).toEqual([]);
    expect(found?.ranges.some(({ from, to }) => from <= (found?.speed ?? 0) && (found?.speed ?? 9) <= to)).toBe(true);
    const drive = found?.typed.find(({ from }) => from === 0.35);
    expect(drive?.to).toBeGreaterThan(0.35);
    const typed = (s: number) => found?.typed.find(({ from }) => from === s)?.to ?? s;
    const behaviour = everyStep(document.behaviour, (step) => pacedStep(step, typed));
    expect(failing({ ...checked, behaviour }, 1)).toEqual([]);
    const words = fastestInWords(found, checked, { ...grid, light: grid.light.slice(0, 1), seeds: 1 });
    expect(words).toMatch(
      /^Every check holds at [\d.]+ times the speed \(light Overcast, .*, seed 1, and seed 2, which/,
    );
    expect(words).toMatch(/Type \d+ % instead of 35 %/);
  });
});
