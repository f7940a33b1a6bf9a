import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { glasshouseRound } from "../demo";
import { numbered } from "../names";
import { splitProject } from "../project";
import { Acting, DRIVE_EVERY_MS, type LinkState, LiveRobot } from ".";

const { document } = splitProject(glasshouseRound());
const coral = (t: number) => `${JSON.stringify({ s: "belly", t, v: [700, 150, 100] })}\n`;

/** An acting behaviour with a clock of its own, and all that comes of it. */
function begun(watched = true, commands = true) {
  const said: string[] = [];
  const states: LinkState[] = [];
  const acting = new Acting(
    { say: (lines) => said.push(...lines), moment: () => undefined, state: (state) => states.push(state) },
    { watched, goOn: "let it act again", commands },
  );
  let now = 1000;
  /** Lets time pass; `does` is called at each tick. */
  const pass = (ms: number, does: (now: number) => void = () => undefined) => {
    for (const end = now + ms; now < end; ) {
      now += DRIVE_EVERY_MS;
      does(now);
      acting.tick(now);
    }
  };
  const troubles = () => states.map(({ trouble }) => trouble);
  const clock = { get: () => now, leap: (ms: number) => (now += ms) };
  /** A robot that goes on reading, and somebody who watches. */
  const lively = (act: string) => (at: number) => {
    acting.watch(act, at);
    acting.take(coral(at), at);
  };
  return { acting, said, states, pass, troubles, clock, lively };
}
const quiet = (lines: readonly string[]) => lines.filter((line) => !/^\{"(alive|stop)"/.test(line));

describe("what acts on a robot", () => {
  it("commands nothing where it only watches, and goes on whatever is not heard or held up", () => {
    const { acting, said, states, pass, clock, lively, troubles } = begun(false, false);
    acting.start("act", document, clock.get());
    pass(300, lively("act"));
    pass(7000);
    clock.leap(4000);
    acting.away("the line is away", clock.get());
    pass(2000);
    acting.back(clock.get());
    pass(300, lively("act"));
    expect(said).toEqual([]);
    expect(states.every(({ acting: goesOn }) => goesOn)).toBe(true);
    expect(troubles()).toContain("nothing has been heard from the robot for 2 s");
    acting.stop();
    expect(said).toEqual([]);
  });

  it("commands, tells, and brakes when it is stopped; an act that was stopped never starts again", () => {
    const { acting, said, states, pass, lively, clock } = begun();
    expect(acting.start("a", document, clock.get())).toBe(true);
    pass(200, lively("a"));
    expect(said).toContain('{"wheels":[0.35,0.35]}');
    expect(states[0]).toMatchObject({ act: "a", acting: true, trouble: null });
    acting.stop("a");
    expect(said.at(-1)).toBe('{"stop":"brake"}');
    expect(states.at(-1)).toMatchObject({ act: "a", acting: false });
    const { length } = said;
    expect(acting.start("a", document, clock.get())).toBe(false);
    expect(acting.change("a", document)).toBe(false);
    pass(1000, lively("a"));
    expect(said).toHaveLength(length);
    // A stop may come before its start.
    acting.stop("b");
    expect(acting.start("b", document, clock.get())).toBe(false);
    expect(acting.start("c", document, clock.get())).toBe(true);
  });

  it("never says more than stop and alive after a stop, whatever order the requests come in", () => {
    const request = fc.record({
      act: fc.constantFrom("a", "b", "c"),
      kind: fc.constantFrom("start", "change", "stop", "pass"),
    });
    fc.assert(
      fc.property(fc.array(request, { maxLength: 40 }), (requests) => {
        const { acting, said, pass, lively, clock } = begun();
        const stopped = new Set<string>();
        for (const { act, kind } of requests) {
          const before = said.length;
          if (kind === "start") expect(acting.start(act, document, clock.get())).toBe(!stopped.has(act));
          else if (kind === "change") acting.change(act, document);
          else if (kind === "stop") {
            acting.stop(act);
            stopped.add(act);
            expect(acting.isActing).toBe(false);
          } else {
            const acts = acting.isActing;
            pass(60, lively(act));
            if (!acts) expect(quiet(said.slice(before))).toEqual([]);
          }
        }
      }),
      { numRuns: 200 },
    );
  });

  it("stops when whoever watches does not say so for 1.5 s", () => {
    const { acting, said, pass, troubles, clock } = begun();
    acting.start("a", document, clock.get());
    pass(1400, (now) => acting.take(coral(now), now));
    expect(acting.isActing).toBe(true);
    pass(200, (now) => acting.take(coral(now), now));
    expect(acting.isActing).toBe(false);
    expect(said.at(-1)).toBe('{"stop":"brake"}');
    expect(troubles().at(-1)).toBe("the page did not answer for 1.5 s, so the robot was stopped; let it act again");
  });

  it("says that a robot is silent after 2 s, stops it after 5 s, and hears it again", () => {
    const { acting, pass, troubles, states, clock } = begun(false);
    acting.start("a", document, clock.get());
    pass(500, (now) => acting.take(coral(now), now));
    pass(1990);
    expect(troubles().at(-1)).toBeNull();
    pass(20);
    expect(troubles().at(-1)).toBe("nothing has been heard from the robot for 2 s");
    acting.take(coral(clock.get()), clock.get());
    expect(states.at(-1)).toMatchObject({ acting: true, trouble: null });
    pass(5010);
    expect(states.at(-1)).toMatchObject({
      acting: false,
      trouble: "nothing was heard from the robot for 5 s, so it was stopped; let it act again",
    });
    // It comes back, and stands until it is let act again.
    acting.take(coral(clock.get()), clock.get());
    expect(states.at(-1)).toMatchObject({ acting: false, trouble: expect.stringContaining("let it act again") });
  });

  it("says so where nothing acts, too, and is content once something comes", () => {
    const { acting, pass, troubles, clock } = begun();
    acting.renew(clock.get());
    pass(2010);
    expect(troubles()).toEqual(["nothing has been heard from the robot for 2 s"]);
    acting.take(coral(0), clock.get());
    expect(troubles().at(-1)).toBeNull();
  });

  it("does not go on when it was held up for so long that the robot has stopped by itself", () => {
    const { acting, said, pass, lively, troubles, clock } = begun();
    acting.start("a", document, clock.get());
    pass(200, lively("a"));
    clock.leap(1600);
    const { length } = said;
    acting.take(coral(clock.get()), clock.get());
    expect(said.slice(length)).toEqual(['{"stop":"brake"}']);
    expect(troubles().at(-1)).toMatch(/held up for 1.5 s, so the robot has stopped by itself/);
  });

  it("tells a robot that was away for a moment where it stands, and stops one that was away for longer", () => {
    const { acting, said, pass, lively, troubles, clock } = begun();
    acting.start("a", document, clock.get());
    pass(300, lively("a"));
    acting.away("the broker went away", clock.get());
    expect(troubles().at(-1)).toBe("the broker went away");
    pass(500, (now) => acting.watch("a", now));
    const { length } = said;
    acting.back(clock.get());
    const again = said.slice(length);
    // Coral was seen: it stands, the lamp blinks.
    expect(again).toContain('{"stop":"brake"}');
    expect(again).toContain('{"lamp":"main","rgb":"#e4573d","blink":2}');
    expect(troubles().at(-1)).toBeNull();
    acting.away("the broker went away", clock.get());
    pass(1600, (now) => acting.watch("a", now));
    expect(acting.isActing).toBe(false);
    const late = said.length;
    acting.back(clock.get());
    expect(said.slice(late)).toEqual(['{"stop":"brake"}']);
    expect(troubles().at(-1)).toMatch(/the broker went away: the robot has stopped by itself/);
  });

  it("says stop to a robot that was stopped while its line was away, and nothing to one that was only watched", () => {
    const watched = begun();
    watched.acting.renew(0);
    watched.acting.away("the broker went away", 10);
    watched.acting.back(20);
    expect(watched.said).toEqual([]);
    const { acting, said, clock } = begun();
    acting.start("a", document, clock.get());
    acting.away("the broker went away", clock.get());
    acting.stop("a");
    const { length } = said;
    acting.back(clock.get());
    expect(said.slice(length)).toEqual(['{"stop":"brake"}']);
  });

  it("ends with its behaviour", () => {
    const short = structuredClone(document);
    short.behaviour.modes[0].entering = numbered("step", [{ step: "wait", ms: 100 }, { step: "finish" }]);
    const { acting, pass, lively, states, clock } = begun();
    acting.start("a", short, clock.get());
    pass(500, lively("a"));
    expect(acting.finished).toBe(true);
    expect(states.at(-1)).toMatchObject({ acting: false, trouble: "the behaviour has finished" });
  });
});

describe("readings that come in batches", () => {
  it("keep their even times: no jump is counted, and time does not run ahead of them", () => {
    const robot = new LiveRobot(
      document,
      () => undefined,
      () => undefined,
    );
    const per = 50;
    for (let batch = 0; batch < 12; batch++) {
      const lines = Array.from({ length: per }, (_, i) => coral(20 * (batch * per + i)));
      robot.feed(lines.join(""), 1000 * batch);
      robot.settle();
      for (let ms = 0; ms < 1000; ms += 5) robot.passTime(ms);
    }
    expect(robot.counts).toMatchObject({ readings: 600, refused: 0, jumps: 0 });
  });
});
