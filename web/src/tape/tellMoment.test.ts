import type { TargetId } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import { expect, it } from "vitest";
import { tellMoment } from "./tellMoment";

const target = (id: string, name: string): Target => ({
  id: id as TargetId,
  code: "xx",
  name,
  kind: "tag",
  paint: "#000000",
});
const told = {
  indexAt: (t: number) => Math.floor(t / 20),
  targets: [target("coral", "Coral tag"), target("teal", "Teal tag")],
  marks: [{ from: 1000, to: 2000, target: "teal" as TargetId }],
  spans: [{ from: 60, to: 90, target: 1 }],
  did: [{ from: 1200, to: 1700, text: "stop" }],
};

it("an instant of the lanes is told with its truth, what was seen and what was done", () => {
  expect(tellMoment(1500, told)).toBe("1.50 seconds; truth Teal tag; saw Coral tag; did stop");
});

it("what there is not is left out", () => {
  expect(tellMoment(500, told)).toBe("0.50 seconds; saw nothing known");
  expect(tellMoment(1820, told)).toBe("1.82 seconds; truth Teal tag; saw nothing known");
});
