import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { GATE_RESERVE, namesOf, parseStep, parseTrigger, type Step } from "../../behaviour";
import { pottingShed } from "../../demo";
import { numbered, type TargetId } from "../../names";
import { type ProjectDocument, readProject, splitProject } from "../../project";
import {
  type BeltCourse,
  belongings,
  Course,
  courseKindOf,
  drawn,
  piecesAMinute,
  reportPieces,
  run,
  type SorterRobot,
  speedRanges,
  traceJsonLines,
  underConditions,
  verdicts,
  whySorted,
} from "..";

const { document } = splitProject(pottingShed());
const names = namesOf(document);
const robot = document.robot as SorterRobot;
const [course] = document.courses as BeltCourse[];
const t = (id: string) => id as TargetId;
const name = (id: string) => document.targets.find((target) => target.id === id)?.name ?? id;
const step = (phrase: string): Step => {
  const read = parseStep(phrase, names);
  if ("problem" in read) throw new Error(read.problem.message);
  return read.value;
};

/** The demo with other answers, by target, other pieces, another robot. */
function shed(
  answers: Record<string, string[]>,
  pieces: Partial<BeltCourse["pieces"]> = {},
  change: Partial<SorterRobot> = {},
  entering = ["drive 40 %"],
): ProjectDocument {
  const [mode] = document.behaviour.modes;
  const [like] = mode.responses;
  const responses = Object.entries(answers).map(([target, phrases]) => {
    const when = parseTrigger(`${target} arrives`, names);
    if ("problem" in when) throw new Error(when.problem.message);
    return {
      ...like,
      id: `take-${target}` as typeof like.id,
      when: when.value,
      steps: numbered("step", phrases.map(step)),
    };
  });
  return {
    ...document,
    robot: { ...robot, ...change },
    behaviour: {
      ...document.behaviour,
      modes: [{ ...mode, entering: numbered("step", entering.map(step)), responses }],
    },
    courses: [{ ...course, pieces: { ...course.pieces, ...pieces } }],
  };
}
const COLOURS = ["coral", "teal", "amber", "violet"];
const SEND = Object.fromEntries(COLOURS.map((id) => [id, [`send to ${id}-crate`]]));
const intoOf = (project: ProjectDocument, seed = 1) => {
  const trace = run(project, { course: course.id, seed });
  return { trace, into: reportPieces(trace).map(({ into }) => into) };
};

describe("send to", () => {
  it("sorts 40 pieces of five paints, many under way at once, none lost, in every light that the sensor was taught in", () => {
    const order = Array.from({ length: 40 }, (_, i) =>
      t(["coral", "chalk", "violet", "teal", "amber"][(i * 7 + (i >> 2)) % 5]),
    );
    const project = shed(SEND, { order, every: 200, jitterMm: 8 });
    for (const light of ["overcast", "noon-sun", "dusk"]) {
      const trace = run(project, { course: course.id, light });
      expect(trace.ending).toBe("the belt is empty");
      expect(verdicts(trace).map(({ verdict }) => verdict.outcome)).toEqual(course.checks.map(() => "holds"));
    }
  });

  it("sorts whatever comes, in any order, at any speed, where gaps leave room for the gates", () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom("coral", "teal", "amber", "violet", "chalk"), { minLength: 1, maxLength: 10 }),
        fc.integer({ min: 20, max: 70 }),
        fc.integer({ min: 1, max: 1000 }),
        fc.boolean(),
        fc.boolean(),
        fc.constantFrom(100, 300),
        (order, percent, seed, disc, regulated, travelMs) => {
          const speed = (percent / 100) * robot.belt.topSpeed;
          // Reach of the gate, its way while it moves, the spot and a reading's way; see the finding.
          const room = 80 + (speed * travelMs * GATE_RESERVE) / 1000 + 8 + speed * 0.02;
          const size = disc ? { disc: 50 } : { rect: [40, 60] as [number, number] };
          const pieces = { order: order.map(t), every: Math.ceil(50 + room + 10), jitterMm: 5, size };
          // A belt that nobody regulates goes up to 4 % faster or slower than it was told.
          // Far enough from the sensor for any of these speeds.
          const gates = robot.gates.map((gate) => ({ ...gate, travelMs, atMm: gate.atMm + 100 }));
          const change = { belt: { ...robot.belt, regulated }, gates };
          const { into } = intoOf(shed(SEND, pieces, change, [`drive ${percent} %`]), seed);
          expect(into).toEqual(order.map((id) => (id === "chalk" ? "end-crate" : `${id}-crate`)));
        },
      ),
      { numRuns: 80 },
    );
  });

  it("to the end crate moves no gate, and what cannot be sent is noted", () => {
    const end = intoOf(shed({ coral: ["send to end-crate"] }, { order: [t("coral")] }));
    expect(end.into).toEqual(["end-crate"]);
    expect(end.trace.notes.filter(({ kind }) => kind === "gate" || kind === "trouble")).toEqual([]);
    const nothing = intoOf(shed({}, { order: [t("coral")] }, {}, ["drive 40 %", "send to coral-crate"]));
    expect(nothing.trace.notes.find(({ kind }) => kind === "trouble")).toMatchObject({
      text: "no piece fired that could be sent to coral-crate",
    });
    const none = intoOf(shed({ coral: ["send to coral-crate"] }, { order: [t("coral")] }, { gates: [] }));
    expect(none.trace.notes.find(({ kind }) => kind === "trouble")).toMatchObject({
      text: "no gate behind the sensor leads to coral-crate",
    });
  });

  it("holds while the belt stands between sensor and gate", () => {
    const halt = { coral: ["send to coral-crate", "drive 40 % for 3 cm", "wait 2 s", "drive 40 %"] };
    expect(intoOf(shed(halt, { order: [t("coral")] })).into).toEqual(["coral-crate"]);
  });

  it("keeps a gate open for another of the same that comes close behind", () => {
    const { into, trace } = intoOf(shed(SEND, { order: [t("amber"), t("amber")], every: 115, jitterMm: 0 }));
    expect(into).toEqual(["amber-crate", "amber-crate"]);
    expect(trace.notes.filter(({ kind }) => kind === "gate")).toHaveLength(1);
  });

  it("sends what departs, too, and what a routine is done for", () => {
    const trigger = parseTrigger("coral departs", names);
    if ("problem" in trigger) throw new Error(trigger.problem.message);
    const project = shed({ coral: ["send to coral-crate"] }, { order: [t("coral"), t("chalk")] });
    project.behaviour.modes[0].responses[0].when = trigger.value;
    expect(intoOf(project).into).toEqual(["coral-crate", "end-crate"]);
    const routine = { id: "take", name: "Take", steps: numbered("step", [step("send to coral-crate")]) };
    const done = shed({ coral: [] }, { order: [t("coral")] });
    done.behaviour = { ...done.behaviour, routines: [routine] };
    done.behaviour.modes[0].responses[0].steps = numbered("step", [{ step: "do", routine: "take", times: 1 } as Step]);
    expect(intoOf(done).into).toEqual(["coral-crate"]);
  });
});

describe("plain gates", () => {
  it("sort a piece alone, and of two that come close miss the second, which says why", () => {
    const alone = intoOf({ ...document, courses: [{ ...course, pieces: { ...course.pieces, order: [t("violet")] } }] });
    expect(alone.into).toEqual(["violet-crate"]);
    const order = [t("violet"), t("coral")];
    const close = {
      ...document,
      courses: [{ ...course, pieces: { ...course.pieces, order, every: 300, jitterMm: 0 } }],
    };
    const { into, trace } = intoOf(close);
    expect(into).toEqual(["violet-crate", "end-crate"]);
    expect(whySorted(trace, reportPieces(trace)[1], name)).toMatch(
      /^It went on to End crate; it was not answered: it was seen at [\d.]+ s, when the response to Violet tag that began at [\d.]+ s was still running\.$/,
    );
  });

  it("that open for the wrong one say for which it was, and where the other then was", () => {
    // Coral opens its gate far too late: what comes then is another one.
    const late = { coral: ["wait 1.2 s", "gate coral-gate open", "wait 0.9 s", "gate coral-gate close"] };
    const { trace, into } = intoOf(shed(late, { order: [t("coral"), t("chalk")], every: 240, jitterMm: 0 }));
    expect(into).toEqual(["end-crate", "coral-crate"]);
    const [first, second] = reportPieces(trace).map((report) => whySorted(trace, report, name));
    expect(first).toMatch(
      /^It went on to End crate; it was seen at .* and passed Coral gate at .*, which opened at .*, when it was \d+ mm past it\.$/,
    );
    expect(second).toMatch(
      /^It fell into Coral crate at .*; Coral gate had been opened at .* for piece 1 \(Coral tag\), when this piece was \d+ mm before its middle\.$/,
    );
    expect(verdicts(trace)[0].verdict).toMatchObject({ outcome: "does not", figure: "0/2" });
  });

  it("that close on a piece lose it, and the run goes on", () => {
    const snap = { coral: ["gate coral-gate open", "wait 0.55 s", "gate coral-gate close"] };
    const { trace, into } = intoOf(shed(snap, { order: [t("coral"), t("chalk")], every: 300, jitterMm: 0 }));
    expect(into).toEqual([null, "end-crate"]);
    expect(whySorted(trace, reportPieces(trace)[0], name)).toMatch(
      /^Coral gate closed on it at [\d.]+ s; that was meant for this piece\.$/i,
    );
    const outcomes = Object.fromEntries(
      verdicts(trace).map(({ check, verdict }) => [Object.keys(check).find((key) => key !== "id"), verdict.outcome]),
    );
    expect(outcomes).toMatchObject({ losesNoPiece: "does not", jamsNever: "does not", sortsEveryPiece: "does not" });
  });

  it("take what was taken for something else, which is said", () => {
    const { trace } = intoOf(shed({ teal: ["send to coral-crate"] }, { order: [t("teal")] }));
    expect(whySorted(trace, reportPieces(trace)[0], name)).toMatch(
      /had been opened at .* for it: it was taken for Teal tag\.$/,
    );
  });
});

describe("a run on a belt", () => {
  it("is the same for the same seed, byte for byte, and another for another", () => {
    const made = (seed: number) => traceJsonLines(run(document, { course: course.id, seed, limitMs: 12_000 }));
    expect(made(3)).toBe(made(3));
    expect(made(3)).not.toBe(made(4));
    expect(made(1)).toContain('"kind":"piece"');
  });

  it("counts pieces a minute over the whole time of the run", () => {
    const { trace } = intoOf(shed({}, { order: Array(7).fill(t("chalk")), every: 200, jitterMm: 0 }));
    expect(trace.ending).toBe("the belt is empty");
    expect(piecesAMinute(trace)).toBeCloseTo((7 * 60_000) / trace.endMs, 9);
    // A belt that stands after the second piece sorts no more, however fast these two came.
    const stood = {
      ...trace,
      notes: trace.notes.filter((note) => note.kind !== "piece" || note.piece < 2),
      endMs: 60_000,
    };
    expect(piecesAMinute(stood)).toBe(2);
  });

  it("has a highest speed, which gives the most pieces a minute that can all be sorted", () => {
    const project = shed(SEND, { order: COLOURS.map(t), every: 220, jitterMm: 0 });
    project.courses = project.courses.map((one) => ({ ...one, checks: course.checks.slice(0, 3) }));
    const made = (speed: number) =>
      run(underConditions(project, { speed, height: 0, noise: 1 }), { course: course.id });
    const passes = (speed: number) => verdicts(made(speed)).every(({ verdict }) => verdict.outcome === "holds");
    const highest = speedRanges(passes).at(-1)?.to ?? 0;
    expect(highest).toBeGreaterThan(1);
    expect(highest).toBeLessThan(4);
    expect(passes(highest)).toBe(true);
    expect(piecesAMinute(made(highest))).toBeGreaterThan(piecesAMinute(made(1)));
  });

  it("lays each piece at its own place, drawn by shares, and none on another", () => {
    const order = {
      draw: [
        { target: t("coral"), weight: 3 },
        { target: t("teal"), weight: 1 },
      ],
      count: 400,
    };
    const laid = (more: Partial<BeltCourse["pieces"]>, seed: number) =>
      drawn({ ...course, pieces: { ...course.pieces, order, ...more } } as Course, seed).patches;
    const pieces = laid({ every: 55, jitterMm: 30, offsetMm: 4 }, 5);
    expect(pieces).toHaveLength(400);
    for (let i = 1; i < pieces.length; i++)
      expect(pieces[i - 1].at[0] - pieces[i].at[0]).toBeGreaterThanOrEqual(50 - 1e-9);
    const coral = pieces.filter(({ target }) => target === "coral").length;
    expect(coral).toBeGreaterThan(260);
    expect(coral).toBeLessThan(340);
    expect(new Set(pieces.map(({ at }) => at[1])).size).toBeGreaterThan(300);
    // More pieces change nothing about those before them.
    expect(laid({ order: { ...order, count: 410 }, every: 55, jitterMm: 30, offsetMm: 4 }, 5).slice(0, 400)).toEqual(
      pieces,
    );
    expect(laid({}, 6)).not.toEqual(laid({}, 5));
  });

  it("counts the pieces that come into a zone along it, of which those are none that fell before", () => {
    const order = ["coral", "chalk", "teal", "chalk"].map(t);
    const project = shed(SEND, { order });
    const zone = (at: number) => ({
      name: "Scale",
      shape: { rect: [60, 120] as [number, number] },
      at: [at, 60] as [number, number],
      angle: 0,
    });
    const outcome = (at: number, times: number) => {
      const courses = [{ ...project.courses[0], zones: [zone(at)], checks: [{ visits: "Scale", times }] }] as Course[];
      const [{ verdict }] = verdicts(run({ ...project, courses }, { course: course.id }));
      return [verdict.outcome, verdict.figure];
    };
    expect(outcome(60, 4)).toEqual(["holds", "4/4"]);
    // Coral and teal fell through their gates, at 220 and at 360 mm.
    expect(outcome(290, 3)).toEqual(["holds", "3/3"]);
    expect(outcome(800, 2)).toEqual(["holds", "2/2"]);
    expect(outcome(800, 3)).toEqual(["does not", "2/3"]);
    expect(outcome(800, 1)).toEqual(["does not", "2/1"]);
  });

  it("is seen in a shade that stays where it is while the pieces go on", () => {
    const shade = numbered("shade", [
      { from: [60, 0] as [number, number], to: [100, 120] as [number, number], level: 0 },
    ]);
    const bright = shed({}, { order: [t("chalk")] });
    const dark = { ...bright, courses: bright.courses.map((one) => ({ ...one, shade })) };
    const mean = (project: ProjectDocument) => {
      const { channels } = run(project, { course: course.id, light: "noon-sun" }).eyes[0].readings;
      return Object.values(channels)[0].reduce((a, b) => a + b, 0);
    };
    expect(mean(dark)).toBeLessThan(mean(bright));
  });
});

describe("a piece belongs", () => {
  const belong = (crates: string[], ...targets: string[]) => {
    const named = (names: string[]) => names.map((one) => ({ id: one.toLowerCase().replace(/ /g, "-"), name: one }));
    const machine = { gates: [], crates: [...named(crates), { id: "end", name: "The rest" }], end: "end", looksAt: [] };
    const made = belongings(machine, named(targets) as { id: TargetId; name: string }[]);
    return targets.map((_, i) => made[Object.keys(made)[i] as TargetId]);
  };

  it.each([
    [
      ["Coral crate", "Teal crate"],
      ["Coral rim", "Teal rim", "Chalk rim"],
      ["coral-crate", "teal-crate", "end"],
    ],
    [
      ["Coral rims", "Teals"],
      ["Coral rim", "Teal rim"],
      ["coral-rims", "teals"],
    ],
    [
      ["Coral", "Teal"],
      ["Rim coral", "Rim teal"],
      ["coral", "teal"],
    ],
    [
      ["Dark green", "Green"],
      ["Green", "Dark green"],
      ["green", "dark-green"],
    ],
    [["Rims"], ["Coral rim", "Teal rim"], ["end", "end"]],
  ])("into the crate that has what tells it from the others: %j for %j", (crates, targets, where) => {
    expect(belong(crates, ...targets)).toEqual(where);
  });
});

describe("a file with a belt", () => {
  const file = (change: (project: ProjectDocument) => void): string[] => {
    const project = structuredClone(pottingShed());
    change(project as unknown as ProjectDocument);
    const read = readProject(JSON.stringify(project));
    return "problem" in read ? [`${read.problem.place}: ${read.problem.message}`] : [];
  };
  const sorter = (project: ProjectDocument) => project.robot as SorterRobot;
  const onlyBelt = (project: ProjectDocument) => project.courses[0] as BeltCourse;

  it("is taken as it is", () => expect(file(() => {})).toEqual([]));

  it.each([
    [
      "a gate before the sensor",
      (p) => {
        sorter(p).gates[1].atMm = 100;
      },
      /robot.gates\[1\].atMm: Teal gate begins 60 mm along the belt and every sensor looks at 80 mm or later/,
    ],
    [
      "a gate before what a tilted sensor looks at",
      (p) => {
        // Mounted at 80 mm, 14 mm above the belt and tilted by 60°, it looks 24 mm farther on.
        sorter(p).mounts[0].tilt = 60;
        sorter(p).gates[1].atMm = 130;
      },
      /robot.gates\[1\].atMm: Teal gate begins 90 mm along the belt and every sensor looks at 104.2 mm or later/,
    ],
    [
      "a crate that does not exist",
      (p) => {
        sorter(p).gates[0].crate = "pot";
      },
      /robot.gates\[0\].crate: Coral gate leads to the crate “pot”, which is not there/,
    ],
    [
      "an end that is no crate",
      (p) => {
        sorter(p).end = "bin";
      },
      /robot.end: the end crate “bin” is none of the crates/,
    ],
    [
      "a gate that is there twice",
      (p) => {
        sorter(p).gates[1].id = "coral-gate";
      },
      /robot.gates\[1\]: the gate “coral-gate” is there twice/,
    ],
    [
      "a step for a gate that is not there",
      (p) => {
        sorter(p).gates[0].id = "flap";
      },
      /names the gate “coral-gate”, which the project does not have/,
    ],
    [
      "a check of a crate that is not there",
      (p) => {
        sorter(p).crates[0].id = "pot";
        sorter(p).gates[0].crate = "pot";
      },
      /names the crate “coral-crate”/,
    ],
    [
      "a piece of no target",
      (p) => {
        onlyBelt(p).pieces.order = [t("gold")];
      },
      /courses\[0\].pieces.order\[0\]: names the target “gold”/,
    ],
    [
      "a patch on the belt",
      (p) => {
        onlyBelt(p).patches = [
          { id: "patch-1" as never, shape: { disc: 20 }, target: t("coral"), at: [1, 1], angle: 0 },
        ];
      },
      /courses\[0\].patches: a belt has no patches/,
    ],
    [
      "pieces that reach too far back",
      (p) => {
        Object.assign(onlyBelt(p).pieces, {
          order: { draw: [{ target: "coral", weight: 1 }], count: 900 },
          every: 900,
        });
      },
      /courses\[0\].pieces.every: the pieces reach 810 m back/,
    ],
  ] as [string, (p: ProjectDocument) => void, RegExp][])("with %s is refused with its place", (_, change, message) => {
    expect(file(change).join("\n")).toMatch(message);
  });

  it("renames the targets of its pieces", () => {
    const { repainted } = courseKindOf(course);
    const order = { draw: [{ target: t("coral"), weight: 1 }], count: 2 };
    const shares = { ...course, pieces: { ...course.pieces, order } };
    const seen: string[] = [];
    const made = repainted?.(shares, (target, ...path) => {
      seen.push(`${path.join(".")} ${target}`);
      return t("teal") as never;
    }) as BeltCourse;
    expect(seen).toEqual(["pieces.order.draw.0.target coral"]);
    expect(made.pieces.order).toEqual({ draw: [{ target: "teal", weight: 1 }], count: 2 });
    expect(Course.parse(made)).toEqual(made);
  });
});
