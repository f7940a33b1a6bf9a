import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { glasshouseRound, pipeRailCarrier, pottingShed } from "@perceptum/core/demo";
import { applyFix, findAll } from "@perceptum/core/findings";
import type { LightId } from "@perceptum/core/names";
import { splitProject, writeProject } from "@perceptum/core/project";
import { REPORT_KINDS, ReadingBlock, writeCsv } from "@perceptum/core/readings";
import { classify, labelMargin, steadyBlock } from "@perceptum/core/rules";
import { judgeTapes, markedTapes } from "@perceptum/core/teaching";
import { run, sweepCell, traceJsonLines } from "@perceptum/core/world";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ROOT } from "../../e2e/server";
import { cli, cliWith } from "../testing/perceptum";

const demo = glasshouseRound();
const { document, readings } = splitProject(demo);
let folder: string;
let project: string;

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "perceptum-cli-"));
  project = file("demo.perceptum.json", writeProject(demo));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function file(name: string, text: string): string {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
}

describe("perceptum", () => {
  it("says its version", async () => {
    const { version } = JSON.parse(readFileSync(join(ROOT, "cli/package.json"), "utf8")) as { version: string };
    expect(await cli("--version")).toEqual({ code: 0, out: `${version}\n`, errors: "" });
  });

  it.each([
    ["robot", "--trace"],
    ["live", "--trace"],
    ["live", "--tape"],
  ])("%s %s writes JSON lines and no CSV, and says so before it begins", async (command, option) => {
    const course = command === "robot" ? ["--course", "Aisle", "--link", "-"] : [];
    const path = join(folder, "trace.CSV");
    const { code, errors } = await cli(command, project, ...course, option, path);
    expect([code, errors]).toEqual([
      2,
      `perceptum: ${path}: this is written as JSON lines; give it a name that does not end in .csv\n`,
    ]);
    expect(existsSync(path)).toBe(false);
  });
});

describe("perceptum classify", () => {
  const [tape] = document.tapes;
  const raw = readings.get(tape.id) as NonNullable<ReturnType<typeof readings.get>>;

  it("writes label, margin and seen of every reading, from a file or from standard input", async () => {
    const csv = writeCsv(raw);
    const { code, out, errors } = await cli("classify", project, file("walk.csv", csv));
    expect([code, errors]).toEqual([0, ""]);
    const lines = out.trimEnd().split("\n");
    expect(lines[0]).toBe("t_ms,label,margin,seen");
    const block = new ReadingBlock(raw, document.sensors[0]);
    const targets = document.targets.map((t) => t.id);
    const labels = Array.from({ length: block.length }, (_, i) => classify(document.ruleSets[0], block.at(i)));
    const seen = steadyBlock(
      Uint8Array.from(labels, (l) => targets.indexOf(l as never) + 1),
      document.ruleSets[0].steady,
    );
    expect(lines.slice(1).map((l) => l.split(",")[1])).toEqual(labels);
    expect(lines.slice(1).map((l) => l.split(",")[3])).toEqual(
      Array.from(seen, (s) => (s === 0 ? "unknown" : targets[s - 1])),
    );
    expect(cliWith(csv, "classify", project, "-").out).toBe(out);
    expect(cliWith(csv, "classify", project).out).toBe(out);
  });

  it("writes margins with four digits, and those are the margins", () => {
    const { out } = cliWith(writeCsv(raw), "classify", project, "-");
    const margins = out
      .trimEnd()
      .split("\n")
      .slice(1)
      .map((line) => line.split(",")[2]);
    const block = new ReadingBlock(raw, document.sensors[0]);
    margins.forEach((margin, i) => {
      expect(margin).toMatch(/^-?\d(\.\d{1,4})?$/);
      expect(Math.abs(Number(margin) - labelMargin(document.ruleSets[0], block.at(i)))).toBeLessThan(5.1e-5);
    });
  });

  it("takes JSON lines", () => {
    const { out } = cliWith('{"t_ms":0,"r":700,"g":120,"b":90}\n', "classify", project, "-", "--format", "jsonl");
    expect(out.split("\n")[1]).toMatch(/^0,coral,0\.\d+,unknown$/);
  });

  it("names a bad line and reads the others", async () => {
    const { code, out, errors } = await cli(
      "classify",
      project,
      file("bad.csv", "t_ms,r,g,b,extra\n0,1,2,3,4\n20,red,2,3,4\n"),
    );
    expect(code).toBe(0);
    expect(out.trimEnd().split("\n")).toHaveLength(2);
    expect(errors).toContain("bad.csv:3: column r holds “red”");
    expect(errors).toContain("the columns extra are not used");
  });

  it.each([
    ["an empty file", "", ":1: the file is empty"],
    ["a header without green", "t_ms,r,b\n1,2,3\n", ":1: the header has no column g"],
    ["nothing but bad lines", "t_ms,r,g,b\nx,x,x,x\n", "no line could be read"],
  ])("ends with code 2 for %s", async (_, text, message) => {
    const { code, errors } = await cli("classify", project, file("broken.csv", text));
    expect(code).toBe(2);
    expect(errors).toContain(message);
  });

  it("ends with code 2 for more than 50 MB, without reading them", async () => {
    const { code, errors } = await cli(
      "classify",
      project,
      file("huge.csv", "t_ms,r,g,b\n".padEnd(51 * 1024 * 1024, "\n")),
    );
    expect([code, errors.trim().split("\n").length]).toEqual([2, 1]);
    expect(errors).toContain("more than 50 MB");
  });

  it("reads what is whole of a file that was cut off, and names the line where it was", async () => {
    const { code, out, errors } = await cli("classify", project, file("cut.csv", writeCsv(raw).slice(0, 60)));
    expect(code).toBe(0);
    expect(out.trimEnd().split("\n").length).toBeGreaterThan(1);
    expect(errors).toMatch(/cut\.csv:\d+: column \w is empty/);
  });

  it("ends with code 2 and one line for a file that is not there or a sensor that is not known", async () => {
    for (const args of [
      ["classify", join(folder, "none.json"), "-"],
      ["classify", project, join(folder, "none.csv")],
      ["classify", project, "-", "--sensor", "nose"],
      ["classify", folder, "-"],
    ]) {
      const { code, errors } = await cli(...args);
      expect(code).toBe(2);
      expect(errors.trim().split("\n")).toHaveLength(1);
    }
  });
});

describe("perceptum score", () => {
  it("takes the truth from the marks", async () => {
    const { code, out } = await cli("score", project, "--json");
    expect(code).toBe(0);
    const score = JSON.parse(out);
    const expected = judgeTapes(document, markedTapes(document, readings)).score;
    expect(score).toMatchObject({ marked: expected.marked, right: expected.right, visits: expected.visits.length });
    expect(score.confusion.terracotta.coral).toBe(expected.counts[7][1]);
    expect(score.interval[0]).toBeLessThan(score.share);
    expect((await cli("score", project)).out).toMatch(/^\d+ of \d+ readings right, 9\d\.\d %; 95 % interval/);
  });

  it("takes the truth from a column label, and names labels that are no target", () => {
    const text = "t_ms,r,g,b,label\n0,700,120,80,coral\n20,700,120,80,Teal tag\n40,700,120,80,rose\n60,700,120,80,\n";
    const { out, errors } = cliWith(text, "score", project, "-", "--json");
    expect(JSON.parse(out)).toMatchObject({ marked: 2 });
    expect(errors).toContain("1 readings have the label “rose”, which names no target");
  });

  it("ends with code 2 where there is no truth", async () => {
    expect(await cli("score", project, file("bare.csv", "t_ms,r,g,b\n0,1,2,3\n"))).toMatchObject({
      code: 2,
      errors: expect.stringContaining("no column label"),
    });
    const unmarked = { ...demo, tapes: demo.tapes.map((t) => ({ ...t, marks: [] })) };
    expect(await cli("score", file("unmarked.json", writeProject(unmarked)))).toMatchObject({ code: 2 });
  });
});

describe("perceptum suggest", () => {
  it("says in words why, and how the rules do in a light that they were not made from", async () => {
    const { code, out } = await cli("suggest", project);
    expect(code).toBe(0);
    expect(out).toMatch(/Coral tag: .*Terracotta rim readings for Coral tag/);
    expect(out).toMatch(/Made without Noon sun and tried in it: \d+ of \d+ right/);
  });

  it("writes the project with these rules, which then have no finding about rules", async () => {
    const target = join(folder, "suggested.perceptum.json");
    await cli("suggest", project, "--write", target);
    expect((await cli("findings", target)).code).toBe(0);
    expect(JSON.parse((await cli("score", target, "--json")).out).share).toBeGreaterThan(0.999);
    expect((await cli("suggest", project, "--write", "-")).out).toBe(readFileSync(target, "utf8"));
  });
});

describe("every report kind", () => {
  it.each(["rgbc", "hsv", "hue", "reflected", "code"] as const)(
    "%s is classified, scored and searched for findings",
    async (reports) => {
      const { channels } = REPORT_KINDS.get(reports);
      const { reference: _, order: __, ...bare } = demo.sensors[0];
      const sensor = {
        ...bare,
        reports,
        scale: reports === "code" ? {} : Object.fromEntries(channels.map((c) => [c, [0, 100]])),
        ...(reports === "code" && { codes: { 40: demo.targets[0].id } }),
      };
      const kinds = file(
        `${reports}.json`,
        writeProject({ ...demo, sensors: [sensor as never, ...demo.sensors.slice(1)], tapes: [] }),
      );
      const csv = `t_ms,${channels.join(",")},label\n${[0, 20, 40].map((t) => [t, ...channels.map(() => 40), "coral"].join(",")).join("\n")}\n`;
      const { code, out } = cliWith(csv, "classify", kinds, "-");
      expect([code, out.trimEnd().split("\n").length]).toEqual([0, 4]);
      if (reports === "code") expect(out).toContain("0,coral,0.5,unknown");
      expect(cliWith(csv, "score", kinds, "-").code).toBe(0);
      const findings = JSON.parse((await cli("findings", kinds, "--json")).out).map((f: { code: string }) => f.code);
      const lacking = reports === "hue" || reports === "reflected";
      expect(findings.includes("feature-not-reported")).toBe(lacking);
    },
  );
});

describe("perceptum run", () => {
  it("gives the checks with their figures, code 1 where one fails and 0 where all hold", async () => {
    const noon = await cli("run", project, "--course", "Aisle", "--light", "Noon sun");
    expect(noon.code).toBe(1);
    expect(noon.out).toMatch(/fails\s+Never answers Terracotta rim\s+\(1 time, at 13\.\d+ s\)/);
    expect((await cli("run", project, "--course", "aisle", "--light", "overcast", "--start", "Side gate")).code).toBe(
      0,
    );
  });

  it("writes the same trace as the core, byte for byte", async () => {
    const trace = join(folder, "trace.jsonl");
    await cli("run", project, "--course", "aisle", "--light", "noon-sun", "--seed", "7", "--trace", trace);
    expect(readFileSync(trace, "utf8")).toBe(
      traceJsonLines(run(document, { course: "aisle", light: "noon-sun", seed: 7 })),
    );
  });

  it.each([
    ["a carrier on a rail", pipeRailCarrier],
    ["a sorter with a belt", pottingShed],
  ])(
    "of %s gives the core's trace, byte for byte, its checks with why, its findings, its score and its sweep",
    async (_, made) => {
      const other = made();
      const { document } = splitProject(other);
      const [course] = document.courses;
      const path = file(`${other.name}.perceptum.json`, writeProject(other));
      const trace = join(folder, "machine.jsonl");
      const ran = await cli("run", path, "--course", course.name, "--seed", "7", "--trace", trace);
      const [light] = document.lights;
      expect(readFileSync(trace, "utf8")).toBe(
        traceJsonLines(run(document, { course: course.id, light: light.id, seed: 7 })),
      );
      // Each demo has one fault that it is there to show.
      expect([ran.code, ran.out.match(/^fails/gm)?.length]).toEqual([1, 1]);
      expect(ran.out).toMatch(/the middle of the spot passed 6 mm left of the plate’s|was still running/);
      expect((await cli("findings", path)).out).toMatch(/swings-off|gate-waits/);
      expect((await cli("score", path)).out).toMatch(/readings right, (9[5-9]|100)\.\d %/);
      const swept = await cli("sweep", path, "--course", course.name, "--seeds", "2", "--height", "0", "--speed", "1");
      expect([swept.code, swept.errors]).toEqual([1, ""]);
      expect(swept.out).toMatch(/^\d of 8 .* hold every check/);
    },
  );

  it("gives JSON", async () => {
    const { out } = await cli("run", project, "--course", "aisle", "--light", "overcast", "--json");
    expect(JSON.parse(out)).toMatchObject({
      course: "aisle",
      ending: "finished",
      checks: expect.arrayContaining([expect.objectContaining({ outcome: "holds" })]),
    });
  });

  it("ends with code 2 for a course, a seed or an option that is wrong", async () => {
    expect(await cli("run", project, "--course", "attic")).toMatchObject({
      code: 2,
      errors: expect.stringContaining("there is Aisle"),
    });
    expect(await cli("run", project, "--course", "aisle", "--seed", "-3")).toMatchObject({ code: 2 });
    expect(await cli("run", project)).toMatchObject({ code: 2, errors: expect.stringContaining("--course") });
  });
});

describe("perceptum sweep", () => {
  /** Two runs in the light in which the demo holds. */
  const quiet = (file: string) =>
    `sweep ${file} --course aisle --light Overcast --seeds 2 --start`.split(" ").concat("South door");

  it("gives the share that holds with its interval, the costliest condition and the failing seeds", async () => {
    const { code, out } = await cli("sweep", project, "--course", "aisle", "--start", "South door", "--seeds", "2");
    expect(code).toBe(1);
    expect(out).toMatch(/^4 of 8 \(\d+ to \d+ %\) hold every check\nlight: overcast 2\/2, noon-sun 0\/2/);
    expect(out).toContain("8 fail: Never answers Terracotta rim".replace("8", "4"));
    expect((await cli(...quiet(project))).code).toBe(0);
  });

  it("says that nothing could fail where the course has no checks", async () => {
    const bare = glasshouseRound();
    const file = join(folder, "no-checks.perceptum.json");
    writeFileSync(file, writeProject({ ...bare, courses: bare.courses.map((c) => ({ ...c, checks: [] })) }));
    const { code, out } = await cli(...quiet(file));
    expect([code, out]).toEqual([0, "the course has no checks, so nothing could fail in 2 runs\n"]);
  });

  it("gives the same figures as the core, as JSON", async () => {
    const args = [
      "sweep",
      project,
      "--course",
      "aisle",
      "--start",
      "South door",
      "--height",
      "0,6",
      "--seeds",
      "2",
      "--json",
    ];
    const { cells } = JSON.parse((await cli(...args)).out) as {
      cells: { light: string; height: number; passed: number }[];
    };
    expect(cells).toHaveLength(8);
    for (const cell of cells) {
      const conditions = { start: "South door", speed: 1, noise: 1, height: cell.height, light: cell.light as LightId };
      const runs = [...sweepCell(document, "aisle", conditions, [1, 2])];
      expect(cell.passed).toBe(runs.filter((r) => r.failed.length === 0).length);
    }
  });

  it("asks back for very many runs, and ends with code 2 for what is wrong", async () => {
    const sweep = (...more: string[]) => cli("sweep", project, "--course", "aisle", ...more);
    expect(await sweep("--seeds", "10000")).toMatchObject({ code: 2, errors: expect.stringContaining("--many") });
    expect(await sweep("--seeds", "10000000")).toMatchObject({
      code: 2,
      errors: expect.stringContaining("from 1 to 1000000"),
    });
    expect(await sweep("--light", "moon")).toMatchObject({ code: 2, errors: expect.stringContaining("Overcast") });
    expect(await sweep("--speed", "fast")).toMatchObject({ code: 2 });
  });
});

describe("perceptum findings", () => {
  it("ends with code 1 while there is an error, and 0 once it is mended", async () => {
    const { code, out } = await cli("findings", project, "--json");
    expect(code).toBe(1);
    const found = JSON.parse(out) as ReturnType<typeof findAll>;
    expect(found).toEqual(
      JSON.parse(JSON.stringify(findAll({ project: document, tapes: markedTapes(document, readings) }))),
    );
    const fix = found[0].fix;
    const mended = file("mended.perceptum.json", writeProject(fix ? applyFix(demo, fix.change) : demo));
    expect((await cli("findings", mended)).code).toBe(0);
    expect((await cli("run", mended, "--course", "aisle", "--light", "noon-sun")).code).toBe(0);
  });
});

describe("perceptum export", () => {
  it("writes Python, to standard output or a file", async () => {
    const { out } = await cli("export", project, "--to", "python");
    for (const own of ["belly", "left_eye", "right_eye", "side_eye"])
      expect(out).toContain(`def classify_${own}(first, second, third):`);
    expect(out).toContain("def robot_wheels(left, right):");
    const rules = (await cli("export", project, "--to", "python", "--rules-only")).out;
    expect(rules).toContain("def classify_belly(first, second, third):");
    expect(rules).not.toContain("robot_wheels");
    const one = (await cli("export", project, "--to", "python", "--sensor", "Left eye")).out;
    expect(one).toContain("def classify_left_eye(first, second, third):");
    expect(one).not.toContain("classify_belly");
    expect(await cli("export", project, "--to", "python", "--sensor", "belly", "--sensor", "nose")).toMatchObject({
      code: 2,
      errors: expect.stringContaining("there is no sensor “nose”"),
    });
    const target = join(folder, "rules.py");
    expect((await cli("export", project, "--to", "python", "--out", target)).out).toBe("");
    expect(readFileSync(target, "utf8")).toBe(out);
  });

  it.each([
    ["micropython", "def classify_belly(first, second, third):"],
    ["c", "static inline int classify_belly(double first, double second, double third) {"],
    ["javascript", "export function classifyBelly(first, second, third) {"],
  ])("writes %s", async (language, line) => {
    expect((await cli("export", project, "--to", language)).out).toContain(line);
  });

  it("ends with code 2 for a language it does not write", async () => {
    expect(await cli("export", project, "--to", "cobol")).toMatchObject({
      code: 2,
      errors: expect.stringContaining("there is python, micropython, c, javascript"),
    });
  });
});

describe("an output that cannot be written to", () => {
  const into = (sink: string) =>
    spawnSync("sh", ["-c", `"${process.execPath}" cli/dist/main.js findings "${project}" ${sink}`], {
      cwd: ROOT,
      encoding: "utf8",
    });

  it("ends the program in silence where it was closed, and with a sentence where it is full", () => {
    expect(into("| head -0")).toMatchObject({ stderr: "" });
    expect(into("> /dev/full")).toMatchObject({
      status: 1,
      stderr: expect.stringMatching(/^perceptum: the output cannot be written: .*\n$/),
    });
  });
});

describe("a project file that is bad", () => {
  it.each([
    ["empty", "", "line 1: the file is empty"],
    ["cut off", writeProject(demo).slice(0, 900), "cut off"],
    ["of a later version", JSON.stringify({ ...demo, version: 9 }), "version: the file is of version 9"],
    [
      "with a rule for a missing target",
      JSON.stringify(demo).replace('"id":"teal","target":"teal"', '"id":"teal","target":"azure"'),
      "ruleSets[0].rules[1].target: names the target “azure”",
    ],
  ])("(%s) ends with code 2 and the place", async (_, text, message) => {
    const { code, out, errors } = await cli("findings", file("bad.json", text));
    expect([code, out]).toEqual([2, ""]);
    expect(errors).toContain(message);
  });
});
