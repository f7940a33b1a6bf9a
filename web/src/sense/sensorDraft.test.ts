import { emptyProject } from "@perceptum/core/project";
import { describe, expect, it } from "vitest";
import { draftOf, FORMS, formed, formOf, problemOf, sensorOf } from "./sensorDraft";

const project = emptyProject("");
const draft = draftOf(project.sensors[0]);

describe("the form of a sensor", () => {
  it.each(FORMS.map(({ id }) => id))("%s is shown once it was picked", (id) => {
    expect(formOf(formed(draft, id))).toBe(id);
  });

  it("is none of these as soon as a scale is typed otherwise", () => {
    expect(formOf({ ...draft, scale: { ...draft.scale, g: ["0", "1000"] } })).toBeNull();
  });
});

describe("a camera's draft", () => {
  const frames = FORMS.find((form) => form.reports === "frames")?.id ?? "";
  const camera = { ...formed(draft, frames), name: "Bow" };
  const withCamera = (parts: Partial<typeof camera.camera>) => ({ ...camera, camera: { ...camera.camera, ...parts } });
  const problem = (parts: Partial<typeof camera.camera>) => problemOf(withCamera(parts), project, null);

  it("goes by the period of cameras, but keeps one that was typed", () => {
    expect(camera.period).toBe("100");
    expect(formed({ ...draft, period: "35" }, frames).period).toBe("35");
    expect(formed(camera, FORMS[0].id).period).toBe("20");
    expect(formed({ ...draft, period: "35" }, FORMS[1].id).period).toBe("35");
  });

  it("becomes a sensor whose strip is left out where it is the whole frame", () => {
    expect(problemOf(camera, project, null)).toBeUndefined();
    const whole = sensorOf(withCamera({ strip: ["0", "", "", "160"] }), "bow" as never, project.ruleSets[0].id, null);
    expect(whole).toMatchObject({ reports: "frames", frame: { width: 160, height: 120 }, minArea: 30 });
    expect(whole).not.toHaveProperty("strip");
    expect(whole).not.toHaveProperty("setPoint");
    const lower = sensorOf(
      withCamera({ strip: ["60", "", "", ""], setPoint: "70" }),
      "bow" as never,
      project.ruleSets[0].id,
      null,
    );
    expect(lower).toMatchObject({ strip: { top: 60, bottom: 120, left: 0, right: 160 }, setPoint: 70 });
  });

  it.each([
    [{ width: "4" }, /^A frame has from 8 × 8 to/],
    [{ height: "many" }, /^A frame has from/],
    [{ erode: "11" }, /^Cleaning reaches/],
    [{ minArea: "0" }, /^A blob has at least 1 px/],
    [{ strip: ["80", "40", "", ""] as [string, string, string, string] }, /strip/i],
    [{ strip: ["0", "121", "", ""] as [string, string, string, string] }, /strip/i],
    [{ setPoint: "x" }, /./],
    [{ viewDeg: "200" }, /view/i],
  ])("is told what is wrong with %o", (parts, told) => {
    expect(problem(parts)).toMatch(told);
  });
});
