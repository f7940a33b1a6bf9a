import { LANGUAGES, writeBehaviour, writeRules } from "@perceptum/core/code";
import { bedWatch, glasshouseRound, pottingShed } from "@perceptum/core/demo";
import { splitProject } from "@perceptum/core/project";
import { expect, it } from "vitest";
import { packFrame } from "../../../demo/packFrame";
import { behaviourProof } from "./behaviourProof";
import { proofOf } from "./proofOf";

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
  expect(other?.where).toMatch(/^at reading \d+ of /);
  expect(other).toMatchObject({
    core: expect.stringContaining("Coral tag"),
    file: expect.not.stringContaining("Coral"),
  });
  // One whose steadying differs has the same labels and sees something else.
  const slow = source.replace("hits = [3", "hits = [4");
  expect(proofOf(slow, document, document.sensors, readings).other).not.toBeNull();
  expect(() => proofOf("export const a = ;", document, document.sensors, readings)).toThrow();
});

it("a behaviour as it is written does on tapes and in a run what the core does", () => {
  const whole = writeBehaviour(javascript, document);
  const choice = { course: document.courses[0].id, seed: 4, limitMs: 30_000 };
  const proof = behaviourProof(whole, document, readings, choice);
  expect(proof).toMatchObject({ course: document.courses[0].name, other: null });
  expect(proof.readings).toBe(count(document.robot.mounts.map(({ sensor }) => sensor)));
  expect(proof.commands).toBeGreaterThan(20);
  expect(proof.notes).toBeGreaterThan(100);
  expect(behaviourProof(whole, document, new Map(), null)).toMatchObject({ tapes: 0, course: null, notes: 0 });
});

it("so it does along a belt with gates, and with a camera", () => {
  for (const project of [pottingShed(), bedWatch(packFrame)]) {
    const demo = splitProject(project);
    const choice = { course: demo.document.courses[0].id, limitMs: 20_000 };
    const proof = behaviourProof(writeBehaviour(javascript, demo.document), demo.document, demo.readings, choice);
    expect(proof.other).toBeNull();
    expect(proof.commands).toBeGreaterThan(3);
  }
});

it("a behaviour that does something else is told by the first moment of it", () => {
  const whole = writeBehaviour(javascript, document);
  const choice = { course: document.courses[0].id, limitMs: 30_000 };
  const bent = (from: string, to: string) => {
    expect(whole).toContain(from);
    return behaviourProof(whole.replace(from, to), document, new Map(), choice).other;
  };
  expect(bent("drive(0.35)", "drive(0.3)")).toMatchObject({
    where: `at 0 ms of the run on ${document.courses[0].name}`,
    file: 'commands {"wheels":[0.3,0.3]}',
    core: '{"wheels":[0.35,0.35]}',
  });
  expect(bent("wait(2000)", "wait(1900)")?.file).toMatch(/^notes/);
  expect(bent("hits = [3", "hits = [4")).not.toBeNull();
});
