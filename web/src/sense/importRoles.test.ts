import type { ImportPlan } from "@perceptum/core/readings";
import { describe, expect, it } from "vitest";
import { roleOf, rolesOf, withRole } from "./importRoles";

const plan: ImportPlan = { report: "rgb", channels: { r: 1, g: 2, b: 3 }, time: { column: 0, unitMs: 1 }, label: 4 };

describe("the role of a column", () => {
  it("is what the plan takes it for", () => {
    expect([0, 1, 2, 3, 4, 5].map((i) => roleOf(plan, i))).toEqual(["t_ms", "r", "g", "b", "label", "none"]);
    expect(rolesOf(plan).map((r) => r.id)).toContain("b");
  });

  it("is taken from the column that had it before", () => {
    const swapped = withRole(plan, 5, "r", 20);
    expect([roleOf(swapped, 5), roleOf(swapped, 1)]).toEqual(["r", "none"]);
  });

  it("once taken from the time leaves rows at the sensor's period, and another unit changes only that", () => {
    expect(withRole(plan, 0, "none", 40).time).toEqual({ everyMs: 40 });
    expect(withRole(plan, 0, "t_s", 40).time).toEqual({ column: 0, unitMs: 1000 });
    expect(withRole(plan, 4, "none", 40).label).toBeUndefined();
  });
});
