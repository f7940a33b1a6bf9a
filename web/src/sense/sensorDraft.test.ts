import { emptyProject } from "@perceptum/core/project";
import { describe, expect, it } from "vitest";
import { draftOf, FORMS, formed, formOf } from "./sensorDraft";

const draft = draftOf(emptyProject("").sensors[0]);

describe("the form of a sensor", () => {
  it.each(FORMS.map(({ id }) => id))("%s is shown once it was picked", (id) => {
    expect(formOf(formed(draft, id))).toBe(id);
  });

  it("is none of these as soon as a scale is typed otherwise", () => {
    expect(formOf({ ...draft, scale: { ...draft.scale, g: ["0", "1000"] } })).toBeNull();
  });
});
