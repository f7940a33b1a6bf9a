import { describe, expect, it } from "vitest";
import { namesOf, parseStep, parseTrigger, type Response } from "../behaviour";
import { must } from "../behaviour/arbitrary";
import { glasshouseRound } from "../demo";
import { numbered, type TargetId } from "../names";
import { type ProjectDocument, splitProject, type WithoutIds, withIds } from "../project";
import { type Check, type Course, emptyCourse, judgeCheck, reportThings, run } from ".";

const { document } = splitProject(glasshouseRound());
const t = (id: string) => id as TargetId;
const tile = (target: string, x: number, size = 60) => ({
  shape: { rect: [size, 200] as [number, number] },
  target: t(target),
  at: [x, 600] as [number, number],
  angle: 0,
});

/** The cart drives east at a speed and answers; its sensor crosses what lies on y = 600. */
function driving(speed: number, course: WithoutIds<Partial<Course>>, ...answers: [when: string, ...steps: string[]][]) {
  const names = namesOf(document);
  const steps = (phrases: readonly string[]) => phrases.map((phrase) => must(parseStep(phrase, names)));
  const project: ProjectDocument = {
    ...document,
    courses: [
      {
        ...emptyCourse("yard" as Course["id"], "Yard", t("slate")),
        starts: numbered("start", [{ name: "here", x: 100, y: 600, heading: 0 }]),
        ...withIds<Partial<Course>>(course),
      } as Course,
    ],
    behaviour: {
      ...document.behaviour,
      start: document.behaviour.modes[0].id,
      modes: [
        {
          ...document.behaviour.modes[0],
          entering: numbered("step", steps([`drive ${speed} %`])),
          responses: answers.map(
            ([when, ...phrases], i): Response => ({
              id: `r-${i}` as Response["id"],
              when: must(parseTrigger(when, names)),
              steps: numbered("step", steps(phrases)),
              fires: "once per visit",
              busy: "let it finish",
              on: true,
            }),
          ),
        },
      ],
    },
  };
  return run(project, { course: "yard", light: "overcast" });
}
const once = (target: string): Check => ({ answersOnce: t(target) });
const verdict = (trace: ReturnType<typeof run>, check: Check) => judgeCheck(check, trace).outcome;

describe("an answer", () => {
  it.each([1, 2, 3, 5, 8, 12, 20, 30, 45])("at a tile’s edge counts for that tile, at %i %", (speed) => {
    const trace = driving(speed, { patches: [tile("coral", 400)] }, ["coral arrives", "stop", "wait 0.5 s", "finish"]);
    expect(trace.answers).toMatchObject([{ target: "coral", truth: "coral", patch: 0 }]);
    for (const check of [once("coral"), { stopsWithinMm: 60, after: t("coral") }, { endsOn: t("coral") }] as Check[])
      expect(judgeCheck(check, trace)).toMatchObject({ outcome: "holds" });
    expect(reportThings(trace)[0]).toMatchObject({ answers: 1, takenFor: [] });
    expect(reportThings(trace)[0].at).toBeDefined();
  });

  it("belongs to the thing of its target, where one lies right behind another", () => {
    const tiles = { patches: [tile("coral", 400), tile("amber", 460)] };
    for (const speed of [3, 10, 25]) {
      const trace = driving(speed, tiles, ["coral arrives", "lamp coral"], ["amber arrives", "stop", "finish"]);
      expect(trace.answers.map((a) => [a.target, a.truth, a.patch])).toEqual([
        ["coral", "coral", 0],
        ["amber", "amber", 1],
      ]);
    }
  });

  it("is no departure", () => {
    const tiles = { patches: [tile("coral", 400), tile("amber", 460)] };
    const trace = driving(20, tiles, ["coral departs", "lamp coral"], ["amber departs", "stop", "finish"]);
    expect(trace.notes.filter((n) => n.kind === "fires").map((n) => n.kind === "fires" && n.target)).toEqual([
      "coral",
      "amber",
    ]);
    expect(trace.answers).toEqual([]);
    expect(judgeCheck(once("amber"), trace)).toMatchObject({ outcome: "does not", figure: "0/1" });
  });

  it.each(["becomes coral", "becomes coral and not unknown", "holds coral or teal", "coral is present"])(
    "is also what “%s” starts",
    (when) => {
      const trace = driving(20, { patches: [tile("coral", 400)] }, [when, "stop", "finish"]);
      expect(verdict(trace, once("coral"))).toBe("holds");
    },
  );

  it("belongs to the longest touched, where two tiles of one target make one visit", () => {
    const trace = driving(
      20,
      { patches: [tile("coral", 400, 40), tile("coral", 445, 40)] },
      ["coral arrives", "wait 0.05 s"],
      ["after 6 s", "stop", "finish"],
    );
    expect(trace.answers.map((a) => a.patch)).toEqual([0]);
    expect(judgeCheck(once("coral"), trace)).toMatchObject({ outcome: "does not", figure: "1/2" });
  });

  it("of what is not there is wrong, and belongs to what was touched most", () => {
    const trace = driving(
      20,
      { patches: [tile("moss", 400)] },
      ["amber arrives", "lamp amber"],
      ["after 3 s", "finish"],
    );
    const [moss] = reportThings(trace);
    for (const { truth } of trace.answers) expect(truth).not.toBe("amber");
    expect(moss.answers).toBe(0);
  });

  it("can be one to a line, which is a thing like any other", () => {
    const line = {
      points: [
        [400, 300],
        [400, 900],
      ] as [number, number][],
      width: 60,
      target: t("chalk"),
    };
    const trace = driving(15, { lines: [line] }, ["chalk arrives", "stop", "wait 0.5 s", "finish"]);
    expect(verdict(trace, once("chalk"))).toBe("holds");
    expect(judgeCheck({ stopsWithinMm: 80, after: t("chalk") }, trace)).toMatchObject({ outcome: "holds" });
    expect(reportThings(trace)).toMatchObject([{ kind: "line", target: "chalk", answers: 1 }]);
  });

  it("that never came is explained with the readings that there were", () => {
    const trace = driving(45, { patches: [tile("coral", 400, 5)] }, ["coral arrives", "stop"], ["after 3 s", "finish"]);
    expect(judgeCheck(once("coral"), trace, (id) => id.toUpperCase())).toMatchObject({
      outcome: "does not",
      why: expect.stringMatching(
        /^The CORAL patch at 40, 60 cm was passed from .* unanswered; \d of the \d readings on it were CORAL.*too few to see it\.$/,
      ),
    });
  });
});

describe("a check", () => {
  it("that holds goes on holding when the robot drives slower", () => {
    const checks: Check[] = [
      once("coral"),
      once("amber"),
      { endsOn: t("amber") },
      { seesInOrder: [t("coral"), t("amber")] },
    ];
    const tiles = { patches: [tile("coral", 500), tile("amber", 800)] };
    let held = checks.map(() => false);
    for (const speed of [60, 45, 30, 20, 12, 8, 5, 3]) {
      const trace = driving(speed, tiles, ["coral arrives", "lamp coral"], ["amber arrives", "stop", "finish"]);
      const holds = checks.map((check) => verdict(trace, check) === "holds");
      holds.forEach((now, i) => expect(now || !held[i], `${JSON.stringify(checks[i])} at ${speed} %`).toBe(true));
      held = holds;
    }
    expect(held).toEqual([true, true, true, true]);
  });
});
