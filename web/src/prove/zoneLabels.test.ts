import { expect, it } from "vitest";
import { labelMm, zoneLabels } from "./zoneLabels";

const SIZE = labelMm(1);

const zone = (name: string, at: [number, number], size = 300) => ({
  name,
  shape: { rect: [size, size] as [number, number] },
  at,
  angle: 0,
});
it("names are never smaller than 11 pixels", () => {
  expect([labelMm(1), labelMm(4)]).toEqual([30, 44]);
});

const patch = (at: [number, number]) => ({ shape: { disc: 60 }, at });

it("a zone's name stands within it at its top", () => {
  expect(zoneLabels({ zones: [zone("Bay", [500, 500])], patches: [] }, () => "CO", SIZE)).toEqual([150 - SIZE - 4]);
});

it("where a patch's code or another zone's name stands already, it goes elsewhere", () => {
  const under = patch([500, 500 + 150 - SIZE - 4 + 10]);
  expect(zoneLabels({ zones: [zone("Bay", [500, 500])], patches: [under] }, () => "CO", SIZE)).toEqual([4 - 150]);
  const [first, second, third] = zoneLabels(
    { zones: [zone("Bay", [500, 500]), zone("Shed", [500, 500]), zone("Door", [500, 500])], patches: [] },
    () => "",
    SIZE,
  );
  expect(new Set([first, second, third]).size).toBe(3);
});

it("names that lie apart do not move one another", () => {
  const labels = zoneLabels(
    { zones: [zone("Bay", [500, 500]), zone("Shed", [900, 500])], patches: [] },
    () => "",
    SIZE,
  );
  expect(labels[0]).toBe(labels[1]);
});
