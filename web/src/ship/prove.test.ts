import { LANGUAGES, writeRules } from "@perceptum/core/code";
import { glasshouseRound } from "@perceptum/core/demo";
import { splitProject } from "@perceptum/core/project";
import { expect, it } from "vitest";
import { proofOf } from "./prove";

const { document, readings } = splitProject(glasshouseRound());
const javascript = LANGUAGES.find(({ key }) => key === "javascript") as (typeof LANGUAGES)[number];
const source = writeRules(javascript, document, document.sensors);
const count = (of: readonly string[]) =>
  document.tapes
    .filter(({ sensor }) => of.includes(sensor))
    .reduce((n, { id }) => n + (readings.get(id)?.t.length ?? 0), 0);

it("a file as it is written takes every reading of its sensors' tapes as the core does", () => {
  const all = document.sensors.map(({ id }) => id);
  expect(proofOf(source, document, document.sensors, readings)).toEqual({
    tapes: document.tapes.length,
    readings: count(all),
    other: null,
  });
  const [belly] = document.sensors;
  expect(proofOf(writeRules(javascript, document, [belly]), document, [belly], readings)).toMatchObject({
    readings: count([belly.id]),
    other: null,
  });
});

it("a file that takes a reading otherwise is told by the first of them", () => {
  const bent = source.replace(/sat >= 0\.6/, "sat >= 0.99");
  expect(bent).not.toBe(source);
  const { other } = proofOf(bent, document, document.sensors, readings);
  expect(other).toMatchObject({
    core: expect.stringContaining("Coral tag"),
    file: expect.not.stringContaining("Coral"),
  });
  // One whose steadying differs has the same labels and sees something else.
  const slow = source.replace("HITS = [3", "HITS = [4");
  expect(proofOf(slow, document, document.sensors, readings).other).not.toBeNull();
  expect(() => proofOf("export const a = ;", document, document.sensors, readings)).toThrow();
});
