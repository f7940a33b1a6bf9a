import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { ModeId, ResponseId } from "../names";
import type { ProjectDocument } from "../project";
import type { Target } from "../rules";
import { BLOB_ORDER, type Blob } from "../vision";
import { programOf } from "../world";
import { advance, CONDITIONS, type EngineInput, type EngineState, isQuiet, type Note, STEPS, startState } from ".";
import { behaviours, type Colour, type ModeSketch, project, RAW, withCamera } from "./arbitrary";
import { didSpans } from "./didSpans";
import { BLOB_CELLS, BLOB_ERROR, BLOB_HALF_FRAME, BLOB_X } from "./engine/Engine";
import { rehearse } from "./rehearse";

/** Lets colours pass under the sensor, one reading every 20 ms, and gives all notes, in words. */
function play(
  p: ProjectDocument,
  colours: Colour[],
  travel = (_: number) => ({ left: 0, right: 0 }),
  pressed?: (_: number) => string[],
): { story: string[]; state: EngineState; commands: string[] } {
  const program = programOf(p);
  const state = startState(program);
  const notes: Note[] = [];
  const commands: string[] = [];
  colours.forEach((colour, i) => {
    const moment = advance(
      state,
      { readings: [{ eye: 0, raw: RAW[colour] }], travel: travel(i), ...(pressed && { pressed: pressed(i) }) },
      i === 0 ? 0 : 20,
    );
    notes.push(...moment.notes);
    commands.push(...moment.commands.map((c) => `${i} ${c.kind}${c.kind === "wheels" ? ` ${c.left} ${c.right}` : ""}`));
  });
  const story = notes.flatMap((n) => {
    const i = n.t / 20;
    if (n.kind === "fires") return [`${i} ${n.response}`];
    if (n.kind === "dropped") return [`${i} drops ${n.response}`];
    if (n.kind === "mode") return [`${i} mode ${n.mode}`];
    if (n.kind === "finish") return [`${i} finish`];
    if (n.kind === "trouble") return [`${i} trouble`];
    return [];
  });
  return { story, state, commands };
}

/** The state of a behaviour: all that may make a difference later. */
function standing({ engine }: EngineState): object {
  const {
    p: _p,
    robot: _robot,
    brings: _brings,
    waiting: _waiting,
    truths: _truths,
    byEye: _eye,
    byLabel: _label,
    ...all
  } = engine;
  return { ...all, sinceAt: 0, sinceLeft: 0, sinceRight: 0, sinceMs: 0, arrivals: 0, departures: 0 };
}

const times = (n: number, colour: Colour): Colour[] => new Array(n).fill(colour);

describe("the engine", () => {
  it("enters the first mode and runs its steps", () => {
    const { story, commands } = play(project({ patrol: { entering: ["drive 35 %"] } }), ["none"]);
    expect(story).toEqual(["0 mode patrol"]);
    expect(commands).toEqual(["0 wheels 0.35 0.35"]);
  });

  it("answers an arrival once a visit, and again on the next", () => {
    const p = project({ patrol: { on: [["red arrives", ["stop"]]] } });
    expect(play(p, ["none", "red", "red", "none", "red"]).story).toEqual(["0 mode patrol", "1 patrol-1", "4 patrol-1"]);
  });

  it("tells the turns of responses of one id apart by their modes", () => {
    const p = project({
      patrol: { on: [["red arrives", ["stop"], { then: "home" as never }]] },
      home: { on: [["green arrives", ["stop"]]] },
    });
    const ID = "answer" as ResponseId;
    for (const mode of p.behaviour.modes) for (const response of mode.responses) response.id = ID;
    expect(play(p, ["none", "red"]).state.spent(ID)).toBeNaN();
    const { state } = play(p, ["none", "red", "green"]);
    expect([state.mode, state.spent(ID)]).toEqual(["home", state.engine.steadying.visit[0]]);
  });

  it("shows and logs what a target is called now, whatever it was called when it was made", () => {
    const made = project({ patrol: { on: [["red arrives", ["show seen", "log seen"]]] } });
    const renamed = { ...made, targets: made.targets.map((t) => (t.id === "red" ? { ...t, name: "Cherry tag" } : t)) };
    const said = (p: ProjectDocument) => {
      const program = programOf(p);
      const { commands, notes } = advance(
        startState(program),
        { readings: [{ eye: 0, raw: RAW.red }], travel: { left: 0, right: 0 } },
        0,
      );
      return [commands.filter((c) => c.kind === "show"), notes.filter((n) => n.kind === "log")];
    };
    expect(said(renamed)).toEqual([
      [expect.objectContaining({ text: "Cherry tag" })],
      [expect.objectContaining({ text: "Cherry tag" })],
    ]);
  });

  it("re-arms what fires while present when its steps have ended, not sooner than its rest", () => {
    const p = project({ patrol: { on: [["red is present", ["wait 0.04 s"], { fires: "while present" }]] } });
    expect(play(p, times(7, "red")).story.slice(1)).toEqual(["0 patrol-1", "3 patrol-1", "6 patrol-1"]);
    const rested = project({ patrol: { on: [["red is present", ["stop"], { fires: "while present", restMs: 60 }]] } });
    expect(play(rested, times(7, "red")).story.slice(1)).toEqual(["0 patrol-1", "3 patrol-1", "6 patrol-1"]);
  });

  it("lets what runs finish and drops the trigger, for the whole visit where it fires once", () => {
    const p = project({
      patrol: {
        on: [
          ["red arrives", ["wait 0.06 s"]],
          ["green is present", ["stop"]],
        ],
      },
    });
    expect(play(p, ["red", "green", "green", "green", "green", "none", "green"]).story.slice(1)).toEqual([
      "0 patrol-1",
      "1 drops patrol-2",
      "6 patrol-2",
    ]);
  });

  it("lets a present one start as soon as the other is done, if it fires while present", () => {
    const p = project({
      patrol: {
        on: [
          ["red arrives", ["wait 0.06 s"]],
          ["green is present", ["stop"], { fires: "while present", restMs: 1000 }],
        ],
      },
    });
    expect(play(p, ["red", "green", "green", "green", "green", "green"]).story.slice(1)).toEqual([
      "0 patrol-1",
      "4 patrol-2",
    ]);
  });

  it("takes over where the response says so", () => {
    const p = project({
      patrol: {
        on: [
          ["red arrives", ["wait 1 s"]],
          ["green arrives", ["stop"], { busy: "take over" }],
        ],
      },
    });
    expect(play(p, ["red", "green"]).story.slice(1)).toEqual(["0 patrol-1", "1 patrol-2"]);
  });

  it("starts the first in the mode's order when several could", () => {
    const p = project({
      patrol: {
        on: [
          ["red arrives", ["stop"]],
          ["red is present", ["stop"]],
        ],
      },
    });
    expect(play(p, ["red", "red"]).story.slice(1)).toEqual(["0 patrol-1", "0 drops patrol-2"]);
  });

  it("goes on to the next mode when the steps have ended, with timers at 0 and other responses", () => {
    const p = project({
      patrol: { on: [["red arrives", ["wait 0.04 s"], { then: "bay" as ModeId }]] },
      bay: {
        entering: ["drive 20 %"],
        on: [
          ["after 0.06 s", ["stop"], { then: "finish" }],
          ["red arrives", ["stop"]],
        ],
      },
    });
    expect(play(p, times(8, "red")).story).toEqual([
      "0 mode patrol",
      "0 patrol-1",
      "2 mode bay",
      "5 bay-1",
      "5 finish",
    ]);
  });

  it("answers silence once until something is known again", () => {
    const p = project({ patrol: { on: [["nothing known for 0.06 s", ["stop"]]] } });
    expect(play(p, [...times(6, "none"), "red", ...times(5, "none")]).story.slice(1)).toEqual([
      "3 patrol-1",
      "10 patrol-1",
    ]);
  });

  it("fires when a condition becomes true, not while it stays so, and not if it was so on entering", () => {
    const p = project({
      patrol: {
        on: [
          ["becomes tally >= 2", ["stop"]],
          ["red arrives", ["count tally + 1"]],
        ],
      },
    });
    expect(play(p, ["red", "none", "red", "none", "none", "red"]).story.filter((s) => s.endsWith("patrol-1"))).toEqual([
      "3 patrol-1",
    ]);
    const already = project({ patrol: { on: [["becomes tally >= 0", ["stop"]]] } });
    expect(play(already, times(3, "none")).story).toEqual(["0 mode patrol"]);
  });

  it("asks the guard before it starts", () => {
    const p = project({
      patrol: {
        on: [
          ["red arrives", ["count tally + 1"]],
          ["green arrives", ["stop"], { onlyIf: "tally >= 2" }],
        ],
      },
    });
    expect(play(p, ["red", "green", "red", "green"]).story.filter((s) => s.endsWith("-2"))).toEqual(["3 patrol-2"]);
  });

  it("skips a response that is off", () => {
    expect(play(project({ patrol: { on: [["red arrives", ["stop"], { on: false }]] } }), ["red"]).story).toEqual([
      "0 mode patrol",
    ]);
  });

  it("drives a way by the wheels' travel, then brakes", () => {
    const p = project({ patrol: { entering: ["drive 30 % for 1 cm", "lamp red"] } });
    const { commands } = play(p, times(4, "none"), (i) => ({ left: i * 4, right: i * 4 }));
    expect(commands).toEqual(["0 wheels 0.3 0.3", "3 stop", "3 lamp"]);
  });

  it("turns until the wheels have gone the arc against each other", () => {
    // 90° on a track of 120 mm: each wheel π · 120 / 4 = 94.2 mm.
    const p = project({ patrol: { entering: ["turn left 90 at 30 %"] } });
    expect(play(p, times(4, "none"), (i) => ({ left: i * -47, right: i * 47 })).commands).toEqual([
      "0 wheels -0.3 0.3",
      "3 stop",
    ]);
  });

  it("waits until a condition holds, at most so long", () => {
    const p = project({ patrol: { entering: ["wait until red, at most 0.1 s", "stop"] } });
    expect(play(p, ["none", "none", "red"]).commands).toEqual(["2 stop"]);
    expect(play(p, times(7, "none")).commands).toEqual(["5 stop"]);
  });

  it("ends everything at finish", () => {
    const p = project({
      patrol: {
        on: [
          ["red arrives", ["finish", "lamp red"]],
          ["green arrives", ["stop"]],
        ],
      },
    });
    const { story, commands, state } = play(p, ["red", "green"]);
    expect(story).toEqual(["0 mode patrol", "0 patrol-1", "0 finish"]);
    expect(commands).toEqual(["0 stop"]);
    expect(state.finished).toBe(true);
  });

  it("stops, and says so, where modes lead into each other without time", () => {
    const { story, state } = play(project({ ping: { entering: ["go to pong"] }, pong: { entering: ["go to ping"] } }), [
      "none",
    ]);
    expect(story.slice(-2)).toEqual(["0 trouble", "0 finish"]);
    expect(state.finished).toBe(true);
  });

  it("answers a departure, and a condition that holds once each time it has ceased to hold", () => {
    const p = project({ patrol: { on: [["red or green departs", ["jot to route"]]] } });
    const { story, state } = play(p, ["red", "red", "none", "green", "none"]);
    expect(story.slice(1)).toEqual(["2 patrol-1", "4 patrol-1"]);
    expect(state.list("route")).toEqual(["red", "green"]);
    const held = project({ patrol: { on: [["holds red or green", []]] } });
    expect(play(held, ["red", "green", "none", "green"]).story.slice(1)).toEqual(["0 patrol-1", "3 patrol-1"]);
  });

  it("listens to the robot's buttons", () => {
    const p = project({ patrol: { on: [["becomes button start-key", ["drive 30 %"]]] } });
    const { story } = play(p, times(4, "none"), undefined, (i) => (i === 2 ? ["start-key"] : []));
    expect(story.slice(1)).toEqual(["2 patrol-1"]);
  });

  it("does routines, also inside one another and several times", () => {
    const p = project(
      { patrol: { on: [["red arrives", ["do twice", "count tally + 100"]]] } },
      { once: ["count tally + 1", "wait 0.02 s"], twice: ["do once 2 times", "count tally + 10"] },
    );
    const { state } = play(p, ["none", "red", "red", "red"]);
    expect(state.counter("tally")).toBe(112);
    expect(state.activity).toBeNull();
  });

  it("jots what fired and replays the answers to it, in order", () => {
    const p = project({
      patrol: {
        on: [
          ["red or green arrives", ["jot to route"]],
          ["becomes route holds 3", [], { then: "steps" as ModeId }],
        ],
      },
      steps: {
        entering: ["replay route in steps", "finish"],
        on: [
          ["red arrives", ["count tally + 1", "wait 0.02 s"]],
          ["green arrives", ["count tally + 10", "wait 0.02 s"]],
        ],
      },
    });
    const { state, story } = play(p, ["red", "none", "green", "none", "red", "none", "none", "none", "none"]);
    expect(state.list("route")).toEqual(["red", "green", "red"]);
    expect(state.counter("tally")).toBe(12);
    expect(story.at(-1)).toMatch(/finish$/);
  });

  it("says so where nothing fired that could be jotted", () => {
    const p = project({ patrol: { on: [["after 0.02 s", ["jot to route"]]] } });
    expect(play(p, times(3, "none")).story).toContain("1 trouble");
  });

  it("moves a servo as long as its way takes", () => {
    const p = project({ patrol: { entering: ["servo arm to 45 at 900", "stop"] } });
    expect(play(p, times(6, "none")).commands).toEqual(["0 servo", "3 stop"]);
  });

  it("lets a step run meanwhile until it ends or another takes its output", () => {
    const p = project({ patrol: { entering: ["meanwhile drive 20 % for 0.06 s", "wait 0.02 s", "lamp red"] } });
    expect(play(p, times(6, "none")).commands).toEqual(["0 wheels 0.2 0.2", "1 lamp", "3 stop"]);
    const taken = project({ patrol: { entering: ["meanwhile drive 20 % for 0.06 s", "wait 0.02 s", "drive 50 %"] } });
    expect(play(taken, times(6, "none")).commands).toEqual(["0 wheels 0.2 0.2", "1 wheels 0.5 0.5"]);
  });

  it("steers along an edge by how clearly it reads the line, and on while other steps run", () => {
    const p = project({ patrol: { entering: ["follow red left edge at 50 %", "lamp red"] } });
    const { commands } = play(p, ["none", "red", "red"]);
    expect(commands).toEqual(["0 lamp", "0 wheels 0.9 0.09999999999999998", "1 wheels 0.09999999999999998 0.9"]);
    const right = project({ patrol: { entering: ["follow red right edge at 50 % for 0.04 s", "lamp red"] } });
    expect(play(right, ["red", "none", "none"]).commands).toEqual([
      "0 wheels 0.5 0.5",
      "0 wheels 0.9 0.09999999999999998",
      "1 wheels 0.09999999999999998 0.9",
      "2 stop",
      "2 lamp",
    ]);
  });

  it("goes by the blobs of a camera: their measures, their sides and the way to the middle", () => {
    const p = project({
      patrol: {
        entering: ["follow red by camera at 50 %"],
        on: [
          ["becomes red width > 100 px", ["lamp red"]],
          ["becomes red left of green", ["finish"]],
        ],
      },
    });
    const program = programOf(withCamera(p));
    const blob = (x: number, width: number): Blob => ({
      x,
      y: 50,
      width,
      height: 40,
      area: width * 40,
      error: x - 160,
      halfFrame: 160,
    });
    const frames = [
      [["red", blob(240, 80)]],
      [["red", blob(160, 120)]],
      [
        ["red", blob(80, 120)],
        ["green", blob(200, 20)],
      ],
    ] as [string, Blob][][];
    const state = startState(program);
    const commands = frames.flatMap((seen) => {
      const blobs = [{ eye: 0, blobs: new Map(seen) as unknown as ReadonlyMap<Target["id"], Blob> }];
      const moment = advance(state, { readings: [], travel: { left: 0, right: 0 }, blobs }, 50);
      return moment.commands.map((c) => (c.kind === "wheels" ? `${c.left.toFixed(2)} ${c.right.toFixed(2)}` : c.kind));
    });
    // Half a frame's half to the right turns right at half of the sharpest; in the middle it goes straight.
    expect(commands).toEqual(["0.70 0.30", "lamp", "0.50 0.50", "stop"]);
  });

  it("sees several targets of a camera at once, each steadied and answered by itself", () => {
    const p = project({
      patrol: {
        on: [
          ["red arrives", ['log "red"']],
          ["green or blue arrives", ['log "other"']],
          ["red departs", ['log "no red"']],
          ["becomes red and green", ['log "both"']],
          ["becomes unknown", ['log "nothing"']],
        ],
      },
    });
    p.ruleSets[0].steady = { hits: 2, of: 2, release: 2, rejoinMs: 0 };
    const program = programOf(withCamera(p));
    const blob = { x: 1, y: 1, width: 1, height: 1, area: 1, error: 0, halfFrame: 160 };
    const frames = ["red", "red", "red green", "red green blue", "green blue", "green blue", "green", "", "", "", ""];
    const state = startState(program);
    const logged = frames.map((seen) => {
      const blobs = new Map(seen.split(" ").map((target) => [target as Target["id"], blob]));
      const moment = advance(state, { readings: [], travel: { left: 0, right: 0 }, blobs: [{ eye: 0, blobs }] }, 50);
      return moment.notes.flatMap((n) => (n.kind === "log" ? [n.text] : []));
    });
    // Two frames make a thing seen, two without it end that. One response is begun a frame.
    expect(logged).toEqual([[], ["red"], [], ["other"], ["other"], ["no red"], [], [], ["nothing"], [], []]);
    expect(Array.from(state.engine.steadying.visit.subarray(-4))).toEqual([0, 1, 1, 1]);
  });

  it("lets any step take the wheels from a follow without an end, also in the next mode", () => {
    const stopped = project({ patrol: { entering: ["follow red left edge at 50 %", "stop"] } });
    expect(play(stopped, times(4, "red")).commands).toEqual(["0 stop"]);
    const turned = project({
      patrol: { entering: ["follow red left edge at 50 %"], on: [["green arrives", [], { then: "home" as ModeId }]] },
      home: { entering: ["turn left 90 at 20 %"] },
    });
    const { commands } = play(turned, ["none", "green", "red", "none", "red"]);
    expect(commands.filter((c) => Number.parseInt(c, 10) > 0)).toEqual(["1 wheels -0.2 0.2"]);
    const meanwhile = project({ patrol: { entering: ["meanwhile follow red left edge at 50 %", "stop"] } });
    expect(play(meanwhile, times(4, "red")).commands.at(-1)).toBe("0 stop");
    // One with an end of its own has the wheels from its first moment, too, though it steers with the next reading.
    const ending = project({ patrol: { entering: ["meanwhile follow red left edge at 50 % for 20 cm", "stop"] } });
    expect(play(ending, times(4, "red")).commands).toEqual(["0 stop"]);
  });

  it("answers both departures where one thing follows another without a gap", () => {
    const p = project({ patrol: { on: [["red or green departs", ["stop"]]] } });
    expect(play(p, ["red", "green", "none", "none"]).story.slice(1)).toEqual(["1 patrol-1", "2 patrol-1"]);
  });

  it("tells a departure once a visit, though it rejoins", () => {
    const base = project({ patrol: { on: [["red departs", ["stop"]]] } });
    const p = {
      ...base,
      ruleSets: base.ruleSets.map((set) => ({ ...set, steady: { hits: 1, of: 1, release: 1, rejoinMs: 200 } })),
    };
    const program = programOf(p);
    const state = startState(program);
    const told = (["red", "none", "red", "none", "none"] as const).flatMap((colour) => {
      const moment = advance(state, { readings: [{ eye: 0, raw: RAW[colour] }], travel: { left: 0, right: 0 } }, 20);
      return moment.notes.filter((n) => n.kind === "arrives" || n.kind === "departs" || n.kind === "fires");
    });
    expect(told.map((n) => n.kind)).toEqual(["arrives", "departs", "fires"]);
  });

  it.each([
    ["after 0.06 s", "red arrives"],
    ["nothing known for 0.06 s", "red departs"],
  ])("%s that falls due while another response runs is answered when that has ended", (when, other) => {
    const p = project({
      patrol: {
        on: [
          [other, ["wait 0.1 s"]],
          [when, ["lamp green"]],
        ],
      },
    });
    const { story } = play(p, ["none", "red", ...times(9, "none")]);
    expect(story.slice(1)).toEqual([
      `${other === "red arrives" ? 1 : 2} patrol-1`,
      expect.stringMatching(/^[678] patrol-2$/),
    ]);
  });

  it("does not answer a time that no longer holds when it could be", () => {
    const p = project({
      patrol: {
        on: [
          ["red departs", ["wait 0.1 s"]],
          ["nothing known for 0.06 s", ["lamp green"]],
        ],
      },
    });
    expect(play(p, ["red", "none", "none", "none", "none", "green", "green", "green", "green"]).story.slice(1)).toEqual(
      ["1 patrol-1"],
    );
  });

  it.each(["spare: red arrives", "spare: green is present", "spare: nothing known for 0.02 s"])(
    "never answers %s, by a sensor that the robot does not carry",
    (when) => {
      for (const fires of ["once per visit", "while present"] as const) {
        const p = project({ patrol: { on: [[when, ["stop"], { fires }]] } });
        expect(play(p, ["none", "red", "green", ...times(5, "none")]).story).toEqual(["0 mode patrol"]);
      }
    },
  );

  it("takes a feature without a sensor's name from the first that reports it", () => {
    const p = project({
      patrol: {
        on: [
          ["becomes reflected >= 80 %", ["lamp red"]],
          ["becomes r >= 80 %", ["lamp green"]],
        ],
      },
    });
    const program = programOf(p);
    const state = startState(program);
    const fired = [0, 900].flatMap((level) => {
      const readings = [
        { eye: 0, raw: RAW.none },
        { eye: 1, raw: [level] },
      ];
      const moment = advance(state, { readings, travel: { left: 0, right: 0 } }, 20);
      return moment.notes.flatMap((n) => (n.kind === "fires" ? [n.response] : []));
    });
    expect(fired).toEqual(["patrol-1"]);
  });

  it("does the same whether moments in which nothing comes in are skipped or not", () => {
    // An empty frame is something that comes in.
    const both = [undefined, []].map((blobs) => {
      const p = project({
        patrol: {
          entering: ["drive 35 %", "meanwhile tone C4 for 0.03 s"],
          on: [
            ["red arrives", ["stop", "wait 0.03 s", "count tally + 1", "drive 20 % for 0.02 s"]],
            ["green is present", ["lamp green"], { onlyIf: "tally >= 1" }],
            ["becomes tally >= 2", ["wait until blue, at most 0.05 s"], { busy: "take over" }],
            ["nothing known for 0.07 s", ["lamp off", "drive 10 %"]],
            ["blue is present", ["count tally + 1", "wait 0.01 s"], { fires: "while present", restMs: 30 }],
            ["nothing known for 0.06 s", ["lamp blue"], { fires: "while present", restMs: 45 }],
            ["after 0.3 s", [], { then: "home" as ModeId }],
          ],
        },
        home: { entering: ["wait until red", "drive 20 % for 0.2 cm"], on: [["blue departs", ["finish"]]] },
      });
      const program = programOf(p);
      const state = startState(program);
      const colours: Colour[] = [
        ...(["none", "red", "red", "green", "blue", "blue", "blue", "none", "red", "green"] as const),
        ...times(8, "none"),
      ];
      const later: Colour[] = [...times(6, "none"), "red", "red", "blue", "none", "none"];
      const notes: Note[] = [];
      [...colours, ...later].forEach((colour, i) => {
        for (let k = 0; k < 4; k++) {
          const readings = k === 0 ? [{ eye: 0, raw: RAW[colour] }] : [];
          const travel = { left: i * 4 + k, right: i * 4 + k };
          const input = blobs === undefined ? { readings, travel } : { readings, travel, blobs };
          const moment = advance(state, input, i + k === 0 ? 0 : 5);
          notes.push(...moment.notes);
        }
      });
      return notes;
    });
    expect(both[0]).toEqual(both[1]);
    expect(both[0].filter((n) => n.kind === "fires").length).toBeGreaterThan(5);
  });

  it("waits until the wheels are at rest: until their encoders have counted nothing for 100 ms", () => {
    const p = project({ patrol: { entering: ["drive 30 % for 0.9 cm", "wait until still", "count tally + 1"] } });
    // A degree of the wheel is 0.49 mm; less than that is not counted.
    const way = [0, 4, 8, 10, 11, 11.2, 11.3, 11.3, 11.3, 11.3, 11.3, 11.3];
    const steps = way.map((mm) => Math.floor((mm / (Math.PI * programOf(p).wheelMm)) * 360));
    const last = steps.findLastIndex((x, i) => i > 0 && x !== steps[i - 1]);
    const tallyAfter = (moments: number) =>
      play(p, times(moments, "none"), (i) => ({ left: way[i], right: way[i] })).state.counter("tally");
    // A reading every 20 ms: five of them after the last step of the encoders.
    expect([tallyAfter(last + 5), tallyAfter(last + 6)]).toEqual([0, 1]);
    expect(last).toBeGreaterThan(2);
  });

  it("goes by nothing but its state and what comes in: two of one program do the same, whatever the other does meanwhile", () => {
    fc.assert(
      fc.property(
        behaviours,
        fc.array(fc.constantFrom(...(Object.keys(RAW) as Colour[])), { maxLength: 30 }),
        (modes, colours) => {
          const program = programOf(project(modes));
          const inputs = colours.map(
            (colour, i): EngineInput => ({
              readings: [{ eye: 0, raw: RAW[colour] }],
              travel: { left: i * 3, right: i * 2 },
            }),
          );
          const told = (one: EngineState, some: readonly EngineInput[]) =>
            some.map((input) => {
              const { commands, notes } = advance(one, input, 20);
              return { commands, notes };
            });
          const alone = startState(program);
          const first = told(alone, inputs);
          const [one, other] = [startState(program), startState(program)];
          const middle = inputs.length >> 1;
          const begun = told(one, inputs.slice(0, middle));
          const before = standing(one);
          told(other, inputs.toReversed());
          expect(standing(one)).toEqual(before);
          expect([...begun, ...told(one, inputs.slice(middle))]).toEqual(first);
          expect(standing(one)).toEqual(standing(alone));
        },
      ),
    );
  });

  it("goes on as it stands where other rules come, however far they look back", () => {
    const p = project({ patrol: { on: [["red arrives", ["count tally + 1"]]] } });
    const by = (hits: number, of: number, release: number) =>
      programOf({ ...p, ruleSets: p.ruleSets.map((set) => ({ ...set, steady: { hits, of, release, rejoinMs: 0 } })) });
    const state = startState(by(2, 4, 6));
    const reads = (colour: Colour) =>
      advance(state, { readings: [{ eye: 0, raw: RAW[colour] }], travel: { left: 0, right: 0 } }, 20);
    for (const colour of ["red", "none", "none"] as const) reads(colour);
    state.goBy(by(2, 6, 3));
    reads("red");
    expect(state.counter("tally")).toBe(1);
    state.goBy(by(1, 1, 1));
    for (const colour of ["none", "red"] as const) reads(colour);
    expect(state.counter("tally")).toBe(2);
  });
});

describe("rehearsing a tape", () => {
  it("lets the wheels go as they are told, and names what was done", () => {
    const p = project({
      patrol: { entering: ["drive 50 % for 2 cm"], on: [["red arrives", ["stop", "wait 0.04 s"]]] },
    });
    const colours: Colour[] = [...times(8, "none"), ...times(4, "red")];
    const readings = {
      t: Float64Array.from(colours, (_, i) => i * 20),
      channels: { r: Float64Array.from(colours, (c) => RAW[c][0]), g: new Float64Array(12), b: new Float64Array(12) },
    };
    const notes = rehearse(programOf(p), 0, readings, 400);
    // 2 cm at half of 400 mm/s take 100 ms.
    expect(didSpans(notes, 220)).toEqual([
      { from: 0, to: 100, text: "drive 50 % for 2 cm" },
      { from: 160, to: 200, text: "stop, wait 0.04 s" },
    ]);
  });
});

it("blobs are kept in the order in which engines look for what is known of them", () => {
  const places = [BLOB_CELLS, BLOB_X, BLOB_ERROR, BLOB_HALF_FRAME];
  expect(places).toEqual([
    BLOB_ORDER.length,
    ...(["x", "error", "halfFrame"] as const).map((field) => BLOB_ORDER.indexOf(field)),
  ]);
});

it("no two kinds of steps, or of conditions, have rows of one name", () => {
  const names = [
    STEPS.entries.flatMap(({ acts }) => Object.keys(acts)),
    CONDITIONS.entries.flatMap(({ asks }) => Object.keys(asks)),
  ];
  for (const all of names) expect(new Set(all).size).toBe(all.length);
});

describe("what the engine need not look at", () => {
  /** What comes in at one moment: a reading of a colour at some strength, a button, or nothing, and how far the wheels went. */
  const moments = fc.array(
    fc.record({
      colour: fc.option(fc.constantFrom<Colour>("red", "green", "blue", "none"), { freq: 2 }),
      strength: fc.constantFrom(600, 840, 1000),
      again: fc.integer({ min: 1, max: 6 }),
      pressed: fc.boolean(),
      mm: fc.integer({ min: -4, max: 9 }),
      turning: fc.integer({ min: -6, max: 6 }),
    }),
    { minLength: 5, maxLength: 60 },
  );

  it.each([
    ["a trigger", { on: [["becomes r >= 80 %", ["go to there"]]] }],
    ["a guard", { on: [["after 0.1 s", ["go to there"], { onlyIf: "r >= 80 %" }]] }],
    ["a step", { entering: ["wait until r >= 80 %", "go to there"] }],
    ["the end of a way", { entering: ["drive 30 % until r >= 80 %", "go to there"] }],
  ] as [string, ModeSketch][])("is not what %s goes by, though the same is seen", (_, here) => {
    const { story } = play(project({ here, there: {} }), [...times(10, "dim"), ...times(3, "red")]);
    expect(story.at(-1)).toBe("10 mode there");
  });

  it("changes nothing: asked anew at every moment it does and says the same", () => {
    let skipped = 0;
    fc.assert(
      fc.property(behaviours, moments, (modes, coming) => {
        const p = project(modes);
        const steady = { hits: 2, of: 3, release: 2, rejoinMs: 60 };
        const program = programOf({ ...p, ruleSets: p.ruleSets.map((set) => ({ ...set, steady })) });
        const lazy = startState(program);
        const eager = startState(program);
        const travel = { left: 0, right: 0 };
        for (const { colour, strength, again, pressed, mm, turning } of coming) {
          for (let k = 0; k < again; k++) {
            travel.left += mm - turning;
            travel.right += mm + turning;
            const raw = colour && RAW[colour].map((v) => (v === 0 ? 0 : strength));
            const input: EngineInput = {
              readings: raw ? [{ eye: 0, raw }, ...(k % 2 === 0 ? [{ eye: 1, raw: [strength] }] : [])] : [],
              travel: { ...travel },
              ...(pressed && k === 0 && { pressed: ["start-key"] }),
            };
            if (isQuiet(lazy, lazy.t, travel)) skipped++;
            const one = advance(lazy, input, 10);
            eager.quietUntil = Number.NEGATIVE_INFINITY;
            const other = advance(eager, input, 10);
            expect(one.notes).toEqual(other.notes);
            expect(one.commands).toEqual(other.commands);
          }
        }
        expect(standing(lazy)).toEqual(standing(eager));
      }),
      { numRuns: 200 },
    );
    expect(skipped).toBeGreaterThan(1000);
  });
});
