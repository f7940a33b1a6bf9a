import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { loadMicroPython } from "@micropython/micropython-webassembly-pyscript";
import { classifyName } from "@perceptum/core/code";

/** A sensor of written code, and how many values a reading of it has. */
export interface Coded {
  id: string;
  channels: number;
}

/** Rows of readings for the tests: the place of the sensor, the time, the raw values in wire order. */
export type Row = readonly number[];

/** Runs written rules over rows in the real language; gives label and seen of each row. @throws Error with what it complains of */
export type Runner = (source: string, rows: readonly Row[], sensors: readonly Coded[]) => Promise<number[][]>;

const asText = (rows: readonly Row[]) => `${rows.map((row) => row.join(" ")).join("\n")}\n`;
const asNumbers = (out: string): number[][] =>
  out
    .trim()
    .split("\n")
    .map((line) => line.split(" ").map(Number));

/** How a strict C compiler is asked. */
export const STRICT = ["-std=c99", "-Wall", "-Wextra", "-pedantic", "-Werror"];
/** What finds wrong memory and wrong arithmetic as a C program runs. */
export const WATCHED = ["-fsanitize=address,undefined", "-fno-sanitize-recover"];

/** Runs a program to its end. @throws Error with what it complains of */
export function done(program: string, args: readonly string[], input = "", cwd?: string): string {
  const options = { input, encoding: "utf8", maxBuffer: 1e9, ...(cwd !== undefined && { cwd }) } as const;
  const { stdout, stderr, status, error } = spawnSync(program, args, options);
  if (error !== undefined) throw error;
  if (status !== 0 || stderr !== "") throw new Error(`${program}: ${stderr || `ended with ${status}`}`);
  return stdout;
}

/** Uses a folder that is gone afterwards. */
export function within<T>(use: (folder: string) => T): T {
  const folder = mkdtempSync(join(tmpdir(), "perceptum-code-"));
  try {
    return use(folder);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

export const wordOf = ({ id }: Coded) => id.replaceAll("-", "_");

const inPython = (sensors: readonly Coded[]) => `
forget()
calls = [${sensors.map((sensor) => `classify_${wordOf(sensor)}`).join(", ")}]
def take(rows):
    out = []
    for line in rows.split("\\n"):
        eye, t_ms, *raw = line.split(" ")
        eye = int(eye)
        label = calls[eye](*[float(x) for x in raw])
        steady(eye, label, float(t_ms))
        out.append("%d %d" % (label, seen[eye]))
    return "\\n".join(out)
`;

/** MicroPython takes so many rows at a time: its heap is searched through whenever it is full. */
const ROWS_AT_ONCE = 500;

export const RUNNERS: Readonly<Record<string, Runner>> = {
  python: async (source, rows, sensors) =>
    within((folder) => {
      const file = join(folder, "rules.py");
      writeFileSync(file, `${source}\nimport sys\n${inPython(sensors)}\nprint(take(sys.stdin.read().strip()))`);
      return asNumbers(done("python3", ["-W", "error", file], asText(rows)));
    }),
  async micropython(source, rows, sensors) {
    const python = await loadMicroPython({ heapsize: 16 * 1024 * 1024 });
    python.runPython(`${source}\n${inPython(sensors)}`);
    const take = python.globals.get("take") as (rows: string) => string;
    const out: number[][] = [];
    for (let at = 0; at < rows.length; at += ROWS_AT_ONCE)
      out.push(...asNumbers(take(asText(rows.slice(at, at + ROWS_AT_ONCE)).trim())));
    return out;
  },
  c: async (source, rows, sensors) =>
    within((folder) => {
      writeFileSync(join(folder, "rules.h"), source);
      const most = Math.max(...sensors.map(({ channels }) => channels));
      writeFileSync(
        join(folder, "main.c"),
        `#include <stdio.h>
#include "rules.h"
int main(void) {
  int eye;
  double t_ms, raw[${most}];
  forget();
  while (scanf("%d %lf", &eye, &t_ms) == 2) {
    static const int channels[] = { ${sensors.map(({ channels }) => channels).join(", ")} };
    for (int i = 0; i < channels[eye]; i++) if (scanf("%lf", &raw[i]) != 1) return 1;
    int label = 0;
    switch (eye) {
${sensors.map((sensor, i) => `      case ${i}: label = classify_${wordOf(sensor)}(${Array.from({ length: sensor.channels }, (_, k) => `raw[${k}]`).join(", ")}); break;`).join("\n")}
    }
    steady(eye, label, t_ms);
    printf("%d %d\\n", label, seen[eye]);
  }
  return 0;
}
`,
      );
      const program = join(folder, "rules");
      done("cc", [...STRICT, ...WATCHED, "-o", program, join(folder, "main.c"), "-lm"]);
      return asNumbers(done(program, [], asText(rows)));
    }),
  javascript: async (source, rows, sensors) =>
    within((folder) => {
      const file = join(folder, "rules.mjs");
      writeFileSync(file, source);
      const main = join(folder, "main.mjs");
      writeFileSync(
        main,
        `import { readFileSync } from "node:fs";
import { forget, steady, seen, ${sensors.map(classifyName).join(", ")} } from ${JSON.stringify(pathToFileURL(file).href)};
forget();
const calls = [${sensors.map(classifyName).join(", ")}];
const out = [];
for (const line of readFileSync(0, "utf8").trim().split("\\n")) {
  const [eye, t, ...raw] = line.split(" ").map(Number);
  const label = calls[eye](...raw);
  steady(eye, label, t);
  out.push(label + " " + seen[eye]);
}
process.stdout.write(out.join("\\n") + "\\n");
`,
      );
      return asNumbers(done("node", [main], asText(rows)));
    }),
};
