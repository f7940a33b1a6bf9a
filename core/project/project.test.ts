import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { packFrame } from "../../demo/packFrame";
import { bedWatch, glasshouseRound, pipeRailCarrier, pottingShed, routeCards } from "../demo";
import { freeId, Id, numbered, type SensorId, type TapeId } from "../names";
import { ROBOTS } from "../world";
import { emptyProject, joinProject, joinReadings, projectJsonSchema, readProject, splitProject, writeProject } from ".";
import { jsonErrorAt } from "./jsonErrorAt";
import { Project, ProjectDocument } from "./schema";

const demo = glasshouseRound();
const problemOf = (text: string) => {
  const read = readProject(text);
  return "problem" in read ? read.problem : undefined;
};
const broken = (change: (project: Project) => void) => {
  const project = structuredClone(demo);
  change(project);
  return problemOf(JSON.stringify(project));
};

describe("a project file", () => {
  it("comes back as it was written", () => {
    expect(readProject(writeProject(demo))).toEqual({ project: demo });
  });

  it("comes apart into document and readings, and together again", () => {
    const { document, readings } = splitProject(demo);
    expect(joinReadings(document, readings)).toEqual(demo);
    expect(ProjectDocument.parse(document)).toEqual(document);
  });

  it("that is empty, cut off or no JSON is refused with line and column", () => {
    expect(problemOf("")).toEqual({ message: "the file is empty", place: "line 1" });
    expect(problemOf(writeProject(demo).slice(0, 500))?.message).toContain("cut off");
    expect(problemOf('{\n  "format": perceptum\n}')).toMatchObject({
      place: "line 2, column 13",
      message: expect.stringContaining("not JSON"),
    });
  });

  it("of another kind or a later version is refused as such", () => {
    expect(problemOf("[1, 2]")?.message).toContain("not a project file");
    expect(problemOf(JSON.stringify({ ...demo, version: 2 }))).toEqual({
      message: "the file is of version 2; this program reads version 1",
      place: "version",
    });
  });

  it("of more than 50 MB beside its frames is refused without being read, frames have 150 MB more", () => {
    const long = 50 * 1024 * 1024;
    expect(problemOf(" ".repeat(long + 1))?.message).toBe(
      "the file has 50 MB beside its frames; at most 50 MB are read",
    );
    expect(problemOf(`[${"1,".repeat(long / 2)}"${"A".repeat(9000)}"]`)?.message).toContain("at most 50 MB");
    // Numbers between two strings are no frame, however many there are.
    for (const pad of ["", "1,"])
      expect(problemOf(`["a",${pad}${"1,".repeat(long / 2)}"b"]`)?.message).toContain("at most 50 MB");
    expect(problemOf(`["${"A".repeat(long)}"]`)?.message).toContain("not a project file");
    expect(problemOf(" ".repeat(4 * long + 1))?.message).toBe("the file has 200 MB; at most 200 MB are read");
  });

  it("with a bound that is no number, or a missing target, names the place", () => {
    expect(
      broken((p) => {
        p.ruleSets[0].rules[1].any[0].all[0].from = "wide" as unknown as number;
      })?.place,
    ).toBe("ruleSets[0].rules[1].any[0].all[0].from");
    expect(
      broken((p) => {
        p.ruleSets[0].rules[1].target = "azure" as never;
      }),
    ).toEqual({
      place: "ruleSets[0].rules[1].target",
      message: "names the target “azure”, which the project does not have",
    });
    expect(
      broken((p) => {
        p.behaviour.modes[0].responses[0].steps[0] = { step: "go to", mode: "cellar" } as never;
      }),
    ).toMatchObject({ place: "behaviour.modes[0].responses[0].steps[0].mode" });
  });

  it("finds the step that is wrong inside a list of kinds", () => {
    expect(
      broken((p) => {
        p.behaviour.modes[0].entering[0] = { step: "drive", speed: 4 } as never;
      }),
    ).toMatchObject({ place: "behaviour.modes[0].entering[0].speed" });
  });

  it("with turned bands, bad marks, backward times or white under dark is refused", () => {
    expect(
      broken((p) => {
        p.ruleSets[0].rules[0].any[0].all[1] = { feature: "sat", from: 0.9, to: 0.1 };
      })?.message,
    ).toContain("only a hue band");
    expect(
      broken((p) => {
        p.tapes[0].marks[0].to = -1;
      })?.message,
    ).toContain("must not end before it starts");
    expect(
      broken((p) => {
        p.tapes[0].readings.t[5] = 0;
      })?.message,
    ).toContain("times must not go backwards");
    expect(
      broken((p) => {
        p.sensors[0].reference = { dark: [9, 9, 9], white: [9, 9, 9] };
      })?.message,
    ).toContain("white must lie above dark");
  });

  it("with the same id twice says which", () => {
    expect(
      broken((p) => {
        p.targets.push(p.targets[0]);
      })?.message,
    ).toBe("the target “coral” is there twice");
    expect(
      broken((p) => {
        p.behaviour.modes[0].responses[0].steps.push(p.behaviour.modes[0].responses[0].steps[0]);
      }),
    ).toEqual({
      message: "the step “step-1” is there twice",
      place: `behaviour.modes[0].responses[0].steps[${demo.behaviour.modes[0].responses[0].steps.length}]`,
    });
  });

  it("never comes through half: any cut is refused", () => {
    const text = writeProject({ ...demo, tapes: [] });
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: text.length - 3 }),
        (length) => problemOf(text.slice(0, length)) !== undefined,
      ),
      { numRuns: 60 },
    );
  });
});

describe("the place of a JSON error", () => {
  it.each([
    ['{"a": tru}', 6],
    ['{"a": [1, 2,, 3]}', 12],
    ['{"a": 1 "b": 2}', 8],
    ["{'a': 1}", 1],
    ['{"a": 01}', 7],
    ['{"a": "b\tc"}', 6],
    ["[1, 2}", 5],
    ['{"a": 1}}', 8],
    ['{"a": 1,}', 8],
    ['{"a": [1, 2', 11],
    ["", 0],
  ])("in %s is %i", (text, at) => {
    expect(jsonErrorAt(text)).toBe(at);
  });

  it("is the end of the text for whatever the engine's own parser accepts", () => {
    fc.assert(
      fc.property(fc.json(), (text) => {
        expect(jsonErrorAt(text)).toBe(text.length);
      }),
    );
    expect(jsonErrorAt(JSON.stringify({ long: "x".repeat(1_000_000) }))).toBe(1_000_011);
  });
});

describe("ids", () => {
  it("are lower-case words joined by hyphens, and no reserved word", () => {
    expect(["left-eye", "crate-2", "a"].every((id) => Id.safeParse(id).success)).toBe(true);
    expect(["Left", "2nd", "a_b", "a--b", "hue", "until", ""].some((id) => Id.safeParse(id).success)).toBe(false);
  });

  it("are made from any name, free and valid", () => {
    fc.assert(
      fc.property(
        fc.string({ maxLength: 60 }),
        fc.array(fc.constantFrom("coral", "new-1", "x", "hue-1"), { maxLength: 4 }),
        (name, taken) => {
          const id = freeId(name, taken);
          expect(Id.safeParse(id).success).toBe(true);
          expect(taken).not.toContain(id);
        },
      ),
    );
    expect(freeId("In the bay", [])).toBe("in-the-bay");
    expect(freeId("In the bay", ["in-the-bay"])).toBe("in-the-bay-2");
    expect(freeId("hue", [])).toBe("hue-1");
  });
});

describe("a project with a camera", () => {
  const watch = bedWatch(packFrame);
  const [tape] = watch.tapes;
  const [sensor] = watch.sensors;

  it("comes back from its file, and apart and together, with its frames", () => {
    expect(readProject(writeProject(watch))).toEqual({ project: watch });
    const { document, readings, frames } = splitProject(watch);
    expect(Object.keys(frames)).toHaveLength(8);
    expect(joinProject(document, readings, frames)).toEqual(watch);
    expect(ProjectDocument.safeParse(document).success).toBe(true);
    expect(() => joinProject(document, readings, {})).toThrow(/^the frame \w{64} is not given$/);
    // What no tape names is not written.
    expect(joinProject({ ...document, tapes: [] }, readings, frames).frames).toBeUndefined();
  });

  it.each<[string, Project, string]>([
    [
      "a box that reaches out",
      {
        ...watch,
        tapes: [
          {
            ...tape,
            boxes: [{ id: "box-1" as never, t: 0, target: "teal" as never, left: 150, top: 0, width: 11, height: 5 }],
          },
        ],
      },
      "tapes[0].boxes[0]: the box reaches out of the frame of 160 × 120 px",
    ],
    [
      "a box at no frame's time",
      {
        ...watch,
        tapes: [
          {
            ...tape,
            boxes: [{ id: "box-1" as never, t: 50, target: "teal" as never, left: 0, top: 0, width: 1, height: 1 }],
          },
        ],
      },
      "tapes[0].boxes[0].t: there is no frame at 50 ms",
    ],
    [
      "a box of no target",
      {
        ...watch,
        tapes: [
          {
            ...tape,
            boxes: [{ id: "box-1" as never, t: 0, target: "gone" as never, left: 0, top: 0, width: 1, height: 1 }],
          },
        ],
      },
      "tapes[0].boxes[0].target: names the target “gone”",
    ],
    [
      "a frame too few",
      { ...watch, tapes: [{ ...tape, frames: tape.frames?.slice(1) }] },
      "tapes[0].frames: the tape has 7 frames for 8 times",
    ],
    [
      "a frame that is not there",
      { ...watch, frames: {} },
      "tapes[0].frames[0]: names a frame which the file does not hold",
    ],
    [
      "a frame that is no base64",
      { ...watch, frames: { ...watch.frames, ["0".repeat(64)]: "?" } },
      "a frame is a PNG in base64",
    ],
    [
      "no frames",
      { ...watch, tapes: [{ ...tape, frames: undefined, boxes: [] }] },
      "tapes[0].frames: the tape of a camera needs frames",
    ],
    [
      "a strip upside down",
      { ...watch, sensors: [{ ...sensor, strip: { top: 90, bottom: 20, left: 0, right: 160 } }] },
      "sensors[0].strip: the strip's end must lie below its first row",
    ],
    [
      "a strip beyond the frame",
      { ...watch, sensors: [{ ...sensor, strip: { top: 0, bottom: 121, left: 0, right: 160 } }] },
      "sensors[0].strip: the strip reaches out of the frame of 160 × 120 px",
    ],
    [
      "no cleaning",
      { ...watch, sensors: [{ ...sensor, clean: undefined }] },
      "sensors[0].clean: a sensor that reports frames needs clean",
    ],
    [
      "a frame of a sensor without frames",
      { ...watch, sensors: [{ ...sensor, reports: "rgb" }] },
      "sensors[0].frame: only a sensor that reports frames has frame",
    ],
    [
      "a camera's white and dark",
      { ...watch, sensors: [{ ...sensor, reference: { dark: [0, 0, 0], white: [9, 9, 9] } }] },
      "sensors[0].reference: a sensor that reports frames has no white and dark",
    ],
  ])("is refused with %s", (_, wrong, said) => {
    const problem = problemOf(JSON.stringify(wrong));
    expect(`${problem?.place}: ${problem?.message}`).toContain(said);
  });
});

describe("the demo", () => {
  it("is what its generator gives", () => {
    const kept = (name: string) => readFileSync(new URL(`../../demo/${name}.perceptum.json`, import.meta.url), "utf8");
    expect(kept("glasshouse-round")).toBe(writeProject(demo));
    expect(kept("route-cards")).toBe(writeProject(routeCards()));
    expect(kept("pipe-rail-carrier")).toBe(writeProject(pipeRailCarrier()));
    expect(kept("potting-shed")).toBe(writeProject(pottingShed()));
    expect(kept("bed-watch")).toBe(writeProject(bedWatch(packFrame)));
  });

  it("has two marked tapes of at least 40 s, in two lights", () => {
    expect(demo.tapes.map((t) => t.name)).toEqual(["Aisle walk, overcast", "Aisle walk, noon sun"]);
    for (const tape of demo.tapes) {
      expect(tape.readings.t.at(-1)).toBeGreaterThanOrEqual(40_000);
      expect(new Set(tape.marks.map((m) => m.target))).toEqual(new Set(demo.targets.map((t) => t.id)));
    }
  });
});

describe("a file of an earlier version, whose lists had no ids", () => {
  const listIds = /^(mark|box|clause|reference|step|check|patch|line|sign|zone|shade|start|card|press|plate)-\d+$/;
  /** The same without the ids that lists have, in some of their things or in all. */
  const bare = (value: unknown, isGone: () => boolean): unknown => {
    if (value === null || typeof value !== "object") return value;
    if (Array.isArray(value)) return value.map((item) => bare(item, isGone));
    const fields = Object.entries(value).filter(
      ([key, id]) => !(key === "id" && typeof id === "string" && listIds.test(id) && isGone()),
    );
    return Object.fromEntries(fields.map(([key, inner]) => [key, bare(inner, isGone)]));
  };

  const all = [glasshouseRound(), routeCards(), pipeRailCarrier(), pottingShed(), bedWatch(packFrame)];
  it.each(all.map((project) => [project.name, project] as const))("is given some: %s", (_, project) => {
    const text = JSON.stringify(bare(project, () => true));
    expect(text).not.toContain('"id":"start-1"');
    expect(readProject(text)).toEqual({ project });
  });

  it("keeps those that it has, and gives no id twice", () => {
    fc.assert(
      fc.property(fc.infiniteStream(fc.boolean()), (gone) => {
        const draw = () => gone.next().value as boolean;
        const text = JSON.stringify(bare({ ...demo, tapes: [] }, draw));
        expect(readProject(text)).toHaveProperty("project");
      }),
      { numRuns: 30 },
    );
  });
});

it("an empty project is valid", () => {
  expect(ProjectDocument.parse(emptyProject("New project")).name).toBe("New project");
});

it("a file of an earlier version shows pictures where it showed icons, and a text where there is no such picture", () => {
  const project = JSON.parse(JSON.stringify(joinReadings(emptyProject("Icons"), new Map())));
  const show = (what: object) => ({ step: "show", what });
  const shown = (...what: object[]) => numbered("step", what.map(show));
  project.behaviour.modes[0].entering = [show({ icon: "leaf" }), show({ icon: "banana" }), show({ text: "icon" })];
  const read = readProject(JSON.stringify(project));
  expect("project" in read && read.project.behaviour.modes[0].entering).toEqual(
    shown({ picture: "leaf" }, { text: "banana" }, { text: "icon" }),
  );
});

it("a carrier that an earlier version called a shuttle is read as one", () => {
  const project = { ...pipeRailCarrier(), tapes: [] };
  const read = readProject(JSON.stringify({ ...project, robot: { ...project.robot, kind: "shuttle" } }));
  expect("project" in read && read.project.robot.kind).toBe("carrier");
});

it("the published JSON Schema is the present one", () => {
  expect(readFileSync(new URL("../../docs/project.schema.json", import.meta.url), "utf8")).toBe(projectJsonSchema());
});

describe("robot and courses", () => {
  it("are of matching kinds: a file where they are not is refused with the place", () => {
    const project = glasshouseRound();
    const robot = ROBOTS.get("hand").fresh(project.robot);
    const read = Project.safeParse({ ...project, robot });
    expect(read.error?.issues.map(({ path, message }) => [path.join("."), message])).toEqual(
      project.courses.map((_, k) => [
        `courses.${k}.kind`,
        "is a course of the kind floor; the robot, a hand with cards, needs hand",
      ]),
    );
  });
});

it("a code that an earlier version wrote with noughts before it is read as the plain one", () => {
  const codes = { "007": "coral", "8": "teal", "08": "amber" };
  const { reference: _, order: __, ...rest } = demo.sensors[0];
  const sensors = [{ ...rest, reports: "code", scale: {}, codes }, ...demo.sensors.slice(1)];
  const read = readProject(JSON.stringify({ ...demo, sensors, tapes: [] }));
  expect("project" in read && read.project.sensors[0].codes).toEqual({ 7: "coral", 8: "teal" });
});

describe("a project that is saved", () => {
  const apartAndBack = (project: Project) => {
    const { document, readings, frames } = splitProject(project);
    return readProject(writeProject(joinProject(document, readings, frames)));
  };

  it.each([glasshouseRound, pipeRailCarrier, pottingShed, routeCards, () => bedWatch(packFrame)])(
    "is the whole project, demo %#",
    (make) => {
      expect(apartAndBack(make())).toEqual({ project: make() });
    },
  );

  it("is the whole project, with any tapes of any sensors and any frames", () => {
    const watch = bedWatch(packFrame);
    const [camera] = watch.sensors;
    const { width, height } = camera.frame ?? { width: 0, height: 0 };
    const frame = fc
      .uint8Array({ minLength: 3, maxLength: 3 })
      .map((rgb) => ({ width, height, channels: 3 as const, data: new Uint8Array(3 * width * height).fill(rgb[0]) }))
      .map(packFrame);
    const frames = fc.array(frame, { minLength: 1, maxLength: 5 });
    const { reference: _, order: __, ...plainSensor } = demo.sensors[0];
    const hue = { ...plainSensor, id: "hue-eye" as SensorId, name: "Hue eye", reports: "hue" as const };
    const column = (length: number) =>
      fc.array(fc.double({ noNaN: true, min: 0, max: 360 }), { minLength: length, maxLength: length });
    const plain = fc
      .nat(30)
      .chain((length) => column(length).map((h) => ({ t: h.map((_, i) => 20 * i), channels: { hue: h } })));
    const tape = fc.oneof(
      frames.map((shown) => ({ shown })),
      plain.map((raw) => ({ raw })),
    );
    fc.assert(
      fc.property(fc.array(tape, { maxLength: 4 }), (tapes) => {
        const made: Project = {
          ...watch,
          sensors: [...watch.sensors, { ...hue, scale: { hue: [0, 360] }, ruleSet: camera.ruleSet }],
          tapes: tapes.map((drawn, i) => {
            const head = { id: `tape-${i}` as TapeId, name: `Tape ${i}`, origin: "import" as const, marks: [] };
            if (!("shown" in drawn)) return { ...head, sensor: hue.id, readings: drawn.raw };
            const names = drawn.shown.map(({ name }) => name);
            const readings = { t: names.map((_, k) => 100 * k), channels: {} };
            return { ...head, sensor: camera.id, readings, frames: names, boxes: [] };
          }),
        };
        const pngs = tapes.flatMap((drawn) => ("shown" in drawn ? drawn.shown : []));
        const { frames: _, ...rest } = made;
        const project =
          pngs.length === 0 ? rest : { ...rest, frames: Object.fromEntries(pngs.map(({ name, png }) => [name, png])) };
        expect(apartAndBack(project)).toEqual({ project });
      }),
      { numRuns: 30 },
    );
  });
});
