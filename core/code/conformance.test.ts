import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import {
  type Case,
  commandText,
  conformanceCases,
  coreOf,
  linesOfCase,
  notesTold,
  projectOf,
  together,
} from "../../trials/conformance";
import { codedSensors, momentsOf } from "../../trials/drawnBehaviour";
import { ACTORS, type Acting } from "../../trials/runBehaviour";
import { done, within } from "../../trials/runCode";
import { LiveRobot, linesOf } from "../live";
import type { ProjectDocument } from "../project";
import { programOf } from "../world";
import { LANGUAGES, writeBehaviour, writeEngine } from ".";

const CASES = conformanceCases();
const PROJECTS = CASES.map((one) => projectOf(one));
const called = ({ rule, says }: Case) => `${rule} ${says}`;

/** Cases whose robots and steadying are the same: as many as one project has room for. */
function groups(): { project: ProjectDocument; cases: { one: Case; start: string }[] }[] {
  const alike = new Map<string, number[]>();
  CASES.forEach(({ robot, steady }, i) => {
    const key = JSON.stringify([robot, steady]);
    alike.set(key, [...(alike.get(key) ?? []), i]);
  });
  return [...alike.values()].flatMap((all) =>
    Array.from({ length: Math.ceil(all.length / ROOM) }, (_, k) => all.slice(ROOM * k, ROOM * (k + 1))).map((part) => {
      const { project, starts } = together(part.map((i) => PROJECTS[i]));
      return { project, cases: part.map((i, k) => ({ one: CASES[i], start: starts[k] })) };
    }),
  );
}
const ROOM = 25;

describe("a behaviour means what its page says", { timeout: 300_000 }, () => {
  it("has at least 150 cases, each of a rule that the page has, and of nearly all of its rules one", () => {
    const page = readFileSync(new URL("../../docs/behaviour.md", import.meta.url), "utf8");
    const rules = page
      .split(/^## (?=\d+ )/m)
      .slice(1)
      .flatMap((chapter) => {
        const number = chapter.split(" ")[0];
        return [...chapter.matchAll(/^(\d+)\. /gm)].map(([, rule]) => `${number}.${rule}`);
      });
    expect(CASES.length).toBeGreaterThanOrEqual(150);
    expect(CASES.filter(({ rule }) => !rules.includes(rule)).map(called)).toEqual([]);
    const covered = new Set(CASES.map(({ rule }) => rule));
    // Rules that no case can show by what is told: what a moment is, and a clock that leaps.
    expect(rules.filter((rule) => !covered.has(rule))).toEqual(["1.1", "13.3"]);
  });

  it.each(CASES.map((one, i) => [called(one), one, PROJECTS[i]] as const))("in the core: %s", (_, one, project) => {
    expect(coreOf(one, project).told).toEqual(one.tells);
  });

  it.each(CASES.map((one, i) => [called(one), one, PROJECTS[i]] as const))("over a line: %s", (_, one, project) => {
    const told: string[] = [];
    const robot = new LiveRobot(
      project,
      ({ t, commands, notes }) =>
        told.push(...commands.map((command) => `${t} ${commandText(command)}`), ...notesTold(one, notes)),
      () => expect.unreachable("every line can be read"),
    );
    for (const line of linesOfCase(one, programOf(project))) robot.feed(`${line}\n`);
    robot.end();
    expect(told).toEqual(one.tells);
  });

  it.each([
    ["Python", "python", "python3"],
    ["JavaScript", "javascript", "node"],
  ] as const)("in %s as a file that is started, whose lines come now and then", (_, key, program) => {
    const language = LANGUAGES.find((l) => l.key === key) as (typeof LANGUAGES)[number];
    const sparse = CASES.flatMap((one, i) =>
      /^(7\.3|11\.5|13\.)/.test(one.rule) ? [{ one, project: PROJECTS[i] }] : [],
    );
    expect(sparse.length).toBeGreaterThan(10);
    for (const { one, project } of sparse) {
      const lines = linesOfCase(one, programOf(project));
      const commands: string[] = [];
      const robot = new LiveRobot(
        project,
        (moment) => commands.push(...linesOf(moment)),
        () => expect.unreachable(),
      );
      for (const line of lines) robot.feed(`${line}\n`);
      robot.end();
      const said = within((folder) => {
        const file = join(folder, `robot.${language.ending}`);
        writeFileSync(file, writeBehaviour(language, project));
        return done("sh", ["-c", `${program} ${file} 2>log`], `${lines.join("\n")}\n`, folder);
      });
      const told = said.split("\n").filter((line) => line !== "" && !line.includes("alive"));
      expect(
        told.map((line) => JSON.parse(line)),
        called(one),
      ).toEqual(commands.map((line) => JSON.parse(line)));
    }
  });

  it.each(LANGUAGES.map(({ name, key }) => [name, key] as const))("in %s", async (_, key) => {
    const language = LANGUAGES.find((l) => l.key === key) as (typeof LANGUAGES)[number];
    const all = groups().flatMap(({ project, cases }) => {
      const source = writeEngine(language, project);
      return cases.map(({ one, start }) => {
        const begun = { ...project, behaviour: { ...project.behaviour, start } } as ProjectDocument;
        const { told, script, wanted } = coreOf(one, begun);
        const number = project.behaviour.modes.findIndex(({ id }) => id === start);
        const acting: Acting = { source, start: number, sensors: codedSensors(project), script };
        return { one, told, wanted, acting };
      });
    });
    const told = await ACTORS[key](all.map(({ acting }) => acting));
    all.forEach(({ one, wanted, ...core }, i) => {
      // What the core tells is what the case says; among others its modes have a number before their names.
      expect(
        core.told.map((line) => line.replaceAll(/\bc\d+-/g, "")),
        called(one),
      ).toEqual(one.tells);
      expect({ case: called(one), told: momentsOf(told[i]) }).toEqual({ case: called(one), told: wanted });
    });
  });
});
