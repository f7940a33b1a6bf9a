import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { LANGUAGES, writeEngine } from "@perceptum/core/code";
import { glasshouseRound } from "@perceptum/core/demo";
import { splitProject } from "@perceptum/core/project";
import { codedSensors, drawnCase, momentsOf } from "../trials/drawnBehaviour";
import { ACTORS } from "../trials/runBehaviour";
import type { Row } from "./table";

const PROJECTS = 2000;
/** Written and run together: a process is started for each lot. */
const LOT = 100;
/** Others than those that the tests draw. */
const FIRST_SEED = 20_000;

/** The engine as written code: how fast it is, and whether it does what the core does, on so many drawn projects. */
export async function benchEngine(): Promise<Row[]> {
  return [speed(), ...(await equality())];
}

/** The demo's behaviour in Python, a reading a moment, as its tape has them. */
function speed(): Row {
  const { document, readings } = splitProject(glasshouseRound());
  const [tape] = document.tapes;
  const raw = readings.get(tape.id);
  const { r = [], g = [], b = [] } = raw?.channels ?? {};
  const rows = Array.from(raw?.t ?? [], (t, i) => `(${t}, ${r[i]}, ${g[i]}, ${b[i]})`);
  const folder = mkdtempSync(join(tmpdir(), "perceptum-bench-"));
  try {
    const file = join(folder, "engine.py");
    const python = LANGUAGES[0];
    writeFileSync(
      file,
      `${writeEngine(python, document)}
import time
def quiet(*words):
    pass
robot_wheels = robot_stop = robot_lamp = robot_tone = robot_say = robot_show = robot_note = colour_text = quiet
def with_number(before, number, after):
    return before
rows = [${rows.join(", ")}]
best = 0
offset = 0.0
for _ in range(7):
    start = time.perf_counter()
    for t, r, g, b in rows:
        start_moment(offset + t, 0.0, 0.0)
        take_belly(r, g, b)
        end_moment()
    best = max(best, len(rows) / (time.perf_counter() - start))
    offset += rows[-1][0] + 20.0
print(best)
`,
    );
    const { stdout, stderr, status } = spawnSync("python3", [file], { encoding: "utf8" });
    if (status !== 0) throw new Error(stderr);
    const rate = Number(stdout);
    return {
      what: "engine in written Python under python3, the demo's behaviour, the best of 7 rounds",
      measured: `${Math.round(rate).toLocaleString("en")} readings/s`,
      budget: "≥ 20,000 readings/s",
      met: rate >= 20_000,
    };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function equality(): Promise<Row[]> {
  const rows = new Map(LANGUAGES.map(({ key }) => [key, { differ: 0, first: "" }]));
  let commands = 0;
  let notes = 0;
  for (let from = FIRST_SEED; from < FIRST_SEED + PROJECTS; from += LOT) {
    const cases = Array.from({ length: LOT }, (_, i) => drawnCase(from + i));
    for (const { wanted } of cases)
      for (const moment of wanted) {
        commands += moment.commands.length;
        notes += moment.notes.length;
      }
    for (const language of LANGUAGES) {
      const told = await ACTORS[language.key](
        cases.map(({ project, script }) => ({
          source: writeEngine(language, project),
          sensors: codedSensors(project),
          script,
        })),
      );
      cases.forEach(({ wanted }, i) => {
        if (JSON.stringify(momentsOf(told[i])) === JSON.stringify(wanted)) return;
        const row = rows.get(language.key);
        if (row === undefined) return;
        row.differ++;
        row.first ||= `, the first ${from + i}`;
      });
    }
  }
  return LANGUAGES.map(({ key, name }): Row => {
    const { differ = 0, first = "" } = rows.get(key) ?? {};
    return {
      what: `${PROJECTS.toLocaleString("en")} drawn projects in ${name} against the core`,
      measured: `${differ} differ${first}; ${commands.toLocaleString("en")} commands, ${notes.toLocaleString("en")} notes`,
      budget: "0",
      met: differ === 0,
    };
  });
}
