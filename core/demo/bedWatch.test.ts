import { describe, expect, it } from "vitest";
import { packFrame } from "../../demo/packFrame";
import { rehearse } from "../behaviour";
import type { TapeId } from "../names";
import { splitProject } from "../project";
import { type CameraSensor, isCamera } from "../readings";
import { ruleSetOf } from "../rules";
import { blobsIn, FactGatherer, Watch } from "../vision";
import {
  type FramesOfRun,
  framesOfRun,
  machineOf,
  programOf,
  RunFrames,
  run,
  traceJsonLines,
  truthBoxes,
  verdicts,
} from "../world";
import { bedWatch } from "./bedWatch";

const { document } = splitProject(bedWatch(packFrame));

describe("the demo Bed watch", () => {
  it.each([1, 2, 3, 4, 5])("holds its checks with seed %d", (seed) => {
    const trace = run(document, { course: "bed", seed });
    expect(verdicts(trace).map(({ verdict }) => verdict.outcome)).toEqual(["holds", "holds", "holds"]);
    // Left at the first tag and right at the second.
    const fired = trace.notes.flatMap((n) => (n.kind === "fires" ? [n.response] : []));
    expect(fired).toEqual(["turn-left", "turn-right", "halt"]);
    // It backed off until the box was less than 40 px wide.
    const { frames } = trace.eyes[0];
    const side = trace.targets.length;
    const last = trace.eyes[0].readings.t.length - 1;
    const width = frames?.blobs[(last * side + trace.targets.indexOf("coral" as never)) * 5 + 3];
    expect(width).toBeGreaterThan(30);
    expect(width).toBeLessThan(40);
  });

  it("gives the same trace each time, byte for byte, with what was seen and found in each frame", () => {
    const lines = () => traceJsonLines(run(document, { course: "bed", seed: 9, limitMs: 6000 }));
    const text = lines();
    expect(lines()).toBe(text);
    const frames = text.split("\n").filter((line) => line.includes('"blobs"'));
    expect(frames).toHaveLength(61);
    expect(JSON.parse(frames[40]).readings).toEqual([
      {
        sensor: "bow",
        seen: expect.arrayContaining(["chalk"]),
        blobs: expect.objectContaining({ chalk: expect.anything() }),
      },
    ]);
  });

  it("is rehearsed by what the frames of a run show, and answers them as the run did", () => {
    const trace = run(document, { course: "bed", seed: 2 });
    const [eye] = trace.eyes;
    const frames = new RunFrames(framesOfRun(document, trace, eye) as FramesOfRun);
    const [sensor] = document.sensors.filter(isCamera);
    const gatherer = new FactGatherer(sensor, ruleSetOf(document, sensor), document.targets);
    const { t } = eye.readings;
    t.forEach((_, k) => {
      gatherer.look(frames.take(k));
    });
    const facts = gatherer.of("any" as TapeId, t);
    const blobs = (k: number) => blobsIn(facts, k, sensor);
    const { topSpeed } = machineOf(document.robot);
    const notes = rehearse(programOf(document), 0, { t, channels: {} }, topSpeed, blobs);
    const fired = (list: typeof notes) => list.flatMap((n) => (n.kind === "fires" ? [n.response] : []));
    expect(fired(notes)).toEqual(fired(trace.notes));
    expect(fired(rehearse(programOf(document), 0, { t, channels: {} }, topSpeed, () => new Map()))).toEqual([]);
  });

  it("fails where the path lies in another light than that of its frames", () => {
    const dusk = run(document, { course: "bed", light: "Dusk" });
    expect(verdicts(dusk).some(({ verdict }) => verdict.outcome !== "holds")).toBe(true);
  });

  it("answers the things that its camera saw", () => {
    const onTag = structuredClone(document);
    onTag.behaviour.modes[0].responses[0].when = { arrives: ["teal" as never] };
    delete onTag.behaviour.modes[0].responses[0].guard;
    const trace = run(onTag, { course: "bed", limitMs: 8000 });
    const teals = trace.course.patches.flatMap((patch, i) => (patch.target === "teal" ? [i] : []));
    expect(trace.answers[0]).toMatchObject({ target: "teal", truth: "teal", patch: teals[0], eye: 0 });
    expect(trace.passages.some((p) => p.patch === teals[0] && p.left !== undefined)).toBe(true);
  });

  it("takes any frame of a run once more as it was: what is found in it is what the run found", () => {
    const trace = run(document, { course: "bed", seed: 4, limitMs: 9000 });
    const [eye] = trace.eyes;
    const again = framesOfRun(document, trace, eye);
    if (again === undefined) throw new Error("it has a camera");
    const frames = new RunFrames(again);
    expect(frames.length).toBe(91);
    const [sensor] = document.sensors as CameraSensor[];
    const watch = new Watch(sensor, document.ruleSets[0], document.targets);
    const found = (k: number) =>
      trace.targets.flatMap((target, i) => {
        const [area, , , width] = eye.frames?.blobs.subarray((k * trace.targets.length + i) * 5) ?? [];
        return area !== undefined && area > 0 && document.targets[i].kind !== "background"
          ? [[target, area, width]]
          : [];
      });
    // In any order.
    for (const k of [80, 3, 45, 44, 90])
      expect([...watch.look(frames.take(k))].map(([target, { area, width }]) => [target, area, width])).toEqual(
        found(k),
      );
    // What it boxes is in truth there.
    frames.take(40);
    expect(frames.boxes.map(({ target }) => target)).toEqual(expect.arrayContaining(["slate", "chalk", "teal"]));
  });

  it("has boxes that show nothing but their target", () => {
    const [sensor] = document.sensors as CameraSensor[];
    const { width, height } = sensor.frame;
    // A target of two parts: the larger rectangle counts, within the part.
    const runs = [
      { from: 2 * width + 3, count: 10, target: "coral" as never },
      { from: 3 * width + 3, count: 7, target: "coral" as never },
      { from: 4 * width + 1, count: 9, target: "coral" as never },
      { from: 90 * width, count: 5, target: "coral" as never },
      { from: 50 * width, count: 2, target: "teal" as never },
    ];
    expect(truthBoxes(runs, width, height)).toEqual([{ target: "coral", left: 3, top: 2, width: 7, height: 3 }]);
  });
});
