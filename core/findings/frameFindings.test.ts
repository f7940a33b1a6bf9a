import { describe, expect, it } from "vitest";
import { packFrame } from "../../demo/packFrame";
import { bedWatch } from "../demo";
import type { TargetId } from "../names";
import { decodePng } from "../png";
import { type ProjectDocument, splitProject } from "../project";
import type { Box, CameraSensor } from "../readings";
import { markedTapes } from "../teaching";
import { allPixels, FactGatherer, type Frame, type FrameFacts, taughtBy } from "../vision";
import { applyFix, findAll, findProven } from ".";

const { document, readings, frames } = splitProject(bedWatch(packFrame));
const [sensor] = document.sensors as CameraSensor[];
const frame = (name: string) => decodePng(Buffer.from(frames[name], "base64"));

const found = (project: ProjectDocument, code: string, facts: readonly FrameFacts[] = []) => {
  const taught = taughtBy(project, readings, allPixels(project, readings, frame));
  return findAll({
    project: taught.project,
    tapes: markedTapes(taught.project, taught.readings),
    frames: facts,
  }).filter((f) => f.code === code);
};
const withSensor = (part: Partial<CameraSensor>): ProjectDocument => ({
  ...document,
  sensors: [{ ...sensor, ...part }],
});
const withBoxes = (project: ProjectDocument, boxes: Box[]): ProjectDocument => ({
  ...project,
  tapes: [{ ...project.tapes[0], boxes }],
});
const box = (target: string, left: number, top: number, width: number, height: number, t = 0): Box => ({
  id: "box-1" as never,
  t,
  target: target as TargetId,
  left,
  top,
  width,
  height,
});

/** A frame of slate with rectangles of coral paint. */
function coralFrame(...rects: [left: number, top: number, width: number, height: number][]): Frame {
  const data = new Uint8Array(160 * 120 * 3).fill(40);
  for (const [left, top, width, height] of rects)
    for (let row = top; row < top + height; row++)
      for (let column = left; column < left + width; column++) data.set([200, 30, 20], 3 * (row * 160 + column));
  return { width: 160, height: 120, channels: 3, data };
}
const factsOf = (own: CameraSensor, ...shown: Frame[]): FrameFacts[] => {
  const gatherer = new FactGatherer(own, document.ruleSets[0], document.targets);
  for (const one of shown) gatherer.look(one);
  return [
    gatherer.of(
      document.tapes[0].id,
      shown.map((_, k) => 100 * k),
    ),
  ];
};

describe("findings of a camera", () => {
  it("are none of these for the demo", () => {
    for (const code of [
      "pictures-not-linear",
      "order-looks-swapped",
      "strip-misses",
      "fringe",
      "two-blobs",
      "far-taken",
    ])
      expect(found(document, code), code).toEqual([]);
  });

  it("say that pictures are not linear, and mend it", () => {
    const imported = (project: ProjectDocument): ProjectDocument => ({
      ...project,
      tapes: [{ ...project.tapes[0], origin: "import" as const }],
    });
    const { values: _, ...before } = sensor;
    const old = imported({ ...document, sensors: [before] });
    const [finding] = found(old, "pictures-not-linear");
    expect(finding).toMatchObject({ level: "hint", fix: { label: "Take its values as sRGB" } });
    const mended = applyFix(old, finding.fix?.change as never);
    expect(mended.sensors[0].values).toBe("srgb");
    expect(found(mended, "pictures-not-linear")).toEqual([]);
    // Simulated frames are as the sensor says.
    expect(found({ ...old, tapes: document.tapes }, "pictures-not-linear")).toEqual([]);
  });

  it("say that red and blue come exchanged, and mend it", () => {
    const [finding] = found(withSensor({ order: "bgr" }), "order-looks-swapped");
    expect(finding.sentence).toContain("with the colours as red, green, blue it is 100 %");
    expect(applyFix(withSensor({ order: "bgr" }), finding.fix?.change as never).sensors[0].order).toBe("rgb");
    // It is offered only because it mends.
    const taught = taughtBy(
      withSensor({ order: "bgr" }),
      readings,
      allPixels(withSensor({ order: "bgr" }), readings, frame),
    );
    const proven = findProven(taught.project, taught.readings).find((f) => f.code === "order-looks-swapped");
    expect(proven?.fix?.label).toBe("Read red, green, blue");
  });

  it("say that a strip misses what is boxed, and widen it", () => {
    const strip = { top: 100, bottom: 120, left: 0, right: 160 };
    const high = withBoxes(withSensor({ strip }), [
      box("coral", 10, 5, 20, 20),
      box("coral", 10, 70, 20, 20, 100),
      box("coral", 10, 90, 20, 20, 200),
      box("slate", 10, 5, 20, 20),
    ]);
    const [finding, ...others] = found(high, "strip-misses");
    expect(others).toEqual([]);
    expect(finding.title).toBe("The strip of Bow camera misses Coral tag");
    expect(finding.sentence).toContain("2 of its 3 boxes lie outside rows 100 to 120");
    const mended = applyFix(high, finding.fix?.change as never);
    expect((mended.sensors[0] as CameraSensor).strip).toEqual({ top: 5, bottom: 120, left: 0, right: 160 });
    expect(found(mended, "strip-misses")).toEqual([]);
    // Half of them within is enough.
    expect(
      found(withBoxes(high, [box("coral", 10, 5, 20, 20), box("coral", 10, 90, 20, 20, 100)]), "strip-misses"),
    ).toEqual([]);
  });

  it("say that thin fringes are taken for a target where nothing is cleaned, and clean them", () => {
    const bare = { ...sensor, clean: { erode: 0, dilate: 0 }, minArea: 10 };
    const fringed = coralFrame([10, 40, 30, 30], [60, 40, 2, 60]);
    const [finding] = found(withSensor(bare), "fringe", factsOf(bare, fringed, fringed, coralFrame([10, 40, 30, 30])));
    expect(finding.sentence).toContain("In 2 of the 3 frames");
    expect((applyFix(withSensor(bare), finding.fix?.change as never).sensors[0] as CameraSensor).clean).toEqual({
      erode: 1,
      dilate: 1,
    });
    // Nothing of the kind where masks are cleaned, or once.
    expect(found(document, "fringe", factsOf(sensor, fringed, fringed))).toEqual([]);
    expect(found(withSensor(bare), "fringe", factsOf(bare, fringed))).toEqual([]);
  });

  it("say that cleaning takes a target away", () => {
    const much = withBoxes(withSensor({ clean: { erode: 4, dilate: 4 } }), [
      box("chalk", 10, 40, 8, 40),
      box("chalk", 10, 40, 7, 40, 100),
      box("coral", 40, 40, 20, 20),
    ]);
    const [finding, ...others] = found(much, "fringe");
    expect(others).toEqual([]);
    expect(finding.title).toBe("Cleaning takes Chalk line away");
    expect(finding.sentence).toContain("2 of its 2 boxes on The path, overcast are thinner than 9 px");
    expect((applyFix(much, finding.fix?.change as never).sensors[0] as CameraSensor).clean).toEqual({
      erode: 3,
      dilate: 4,
    });
  });

  it("say that a second blob is nearly as large as the first", () => {
    const two = coralFrame([10, 40, 20, 20], [60, 40, 20, 15]);
    const [finding] = found(
      document,
      "two-blobs",
      factsOf(sensor, two, two, coralFrame([10, 40, 20, 20], [60, 40, 9, 9])),
    );
    expect(finding.sentence).toContain("In 2 of the 3 frames");
    expect(found(document, "two-blobs", factsOf(sensor, two))).toEqual([]);
  });

  it("say that the horizon is taken for a target", () => {
    // Marked as what it is: the far wall, where the coral box stands in truth.
    const far = withBoxes(
      document,
      (document.tapes[0].boxes ?? []).map((b) => (b.target === "coral" ? { ...b, target: "far" as TargetId } : b)),
    );
    const [finding] = found(far, "far-taken");
    expect(finding.title).toBe("Glass wall is taken for Coral tag");
    const tapeBox = document.tapes[0].boxes?.find((b) => b.target === "coral");
    expect(finding.place.reading).toEqual({ tape: document.tapes[0].id, t: tapeBox?.t });
  });

  it("that go by readings one by one say nothing of a camera", () => {
    for (const code of ["too-fast", "swings-off", "clips", "shared-unlike", "other-height"])
      expect(found(document, code), code).toEqual([]);
  });
});
