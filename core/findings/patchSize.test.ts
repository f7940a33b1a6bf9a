import { expect, it } from "vitest";
import { glasshouseRound } from "../demo";
import { numbered, type TargetId } from "../names";
import { splitProject } from "../project";
import { extentOf, longestPatch, patchesOf } from "./patchSize";

const { document } = splitProject(glasshouseRound());
const [coral, teal] = ["coral", "teal"] as TargetId[];

it("a shape's extent is its least and greatest, whatever it is", () => {
  expect(extentOf({ disc: 80 })).toEqual({ least: 80, greatest: 80 });
  expect(extentOf({ rect: [120, 60] })).toEqual({ least: 60, greatest: 120 });
  expect(
    extentOf({
      polygon: [
        [-70, -50],
        [70, -50],
        [0, 80],
      ],
    }),
  ).toEqual({ least: 130, greatest: 140 });
});

it("a target's patches are those of all courses, also where the seed may draw it", () => {
  const [first, ...others] = document.courses;
  const patch = (target: (typeof first.patches)[0]["target"], size: number) => ({
    shape: { disc: size },
    target,
    at: [100, 100] as [number, number],
    angle: 0,
  });
  const project = {
    ...document,
    courses: [
      { ...first, patches: numbered("patch", [patch(coral, 50), patch({ oneOf: [coral, teal] }, 90)]) },
      ...others.map((course) => ({ ...course, patches: numbered("patch", [patch(teal, 70)]) })),
    ],
  };
  expect(patchesOf(project, coral).map(({ shape }) => shape)).toEqual([{ disc: 50 }, { disc: 90 }]);
  expect(longestPatch(project, coral)).toBe(90);
  expect(longestPatch({ ...project, courses: [project.courses[1]] }, coral)).toBe(0);
});
