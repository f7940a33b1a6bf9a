import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { loadMicroPython } from "@micropython/micropython-webassembly-pyscript";
import { camelName } from "@perceptum/core/code";
import { robotFns } from "../core/code/tellFns";
import { done, STRICT, WATCHED, within, wordOf } from "./runCode";

/** A written behaviour with what happens to it. */
export interface Acting {
  source: string;
  sensors: readonly { id: string; channels: number }[];
  /** What happens, a line each, as `Happens` says. */
  script: readonly string[];
  /** The mode that it begins with, by its number; that of the source where none is said. */
  start?: number;
}

/**
 * What happens to a written behaviour: `0 t left right` begins a moment, `1 eye values…` is a reading, `2 button down` a
 * button, `3 place fields…` a blob and `4 eye` the frame with it, `5` ends the moment; `6 eye bytes…` is a frame to look at.
 */
export const Happens = { begins: 0, reads: 1, presses: 2, blob: 3, looks: 4, ends: 5, frame: 6 } as const;

/** Between the parts of a line that is told. */
export const PART = "\u001f";

/** The robot's functions, by a letter for each value: a number, a text, a yes or no; a tune goes by its cells. */
const lettered = (): [string, string][] =>
  robotFns().flatMap(({ name, takes }) => {
    if (!name.startsWith("robot_")) return [];
    const isTune = takes.some(({ type }) => type === "int");
    return [[name, isTune ? "tones" : takes.map(({ type }) => String(type)[0]).join("")]];
  });

/** Runs written behaviours in the real language; gives for each what was told, a line each, and what is seen after each moment. */
export type Actor = (all: readonly Acting[]) => Promise<string[][]>;

const HEX_PYTHON =
  'def hex_of(x):\n    return "nan" if x != x else "".join("%02x" % b for b in struct.pack(">d", x + 0.0))\n';

/** The source in C of a behaviour that begins with a mode of its own: several share it, and the script sets the mode. */
const begunInC = ({ source, start }: Acting) =>
  start === undefined
    ? source
    : source.replace(/ ?\bSTART = \d+,/, "").replace("#include <stdlib.h>", "#include <stdlib.h>\nstatic int START;");

const pythonSide = ({ source, sensors }: Acting) => `
import struct
told = []
${HEX_PYTHON}
def with_number(before, number, after):
    return before + str(int(number)) + after
def colour_text(colour):
    return "#%06x" % int(colour) if colour >= 0 else ""
${lettered()
  .map(([fn, kinds]) => {
    if (kinds === "tones")
      return `def ${fn}(first, count):
    told.append("${fn}" + "".join("\\x1f" + hex_of(ROWS[first + 2 * i]) + "\\x1f" + hex_of(ROWS[first + 2 * i + 1]) for i in range(count)))`;
    const names = [...kinds].map((_, i) => `a${i}`);
    const parts = [...kinds].map((kind, i) =>
      kind === "n" ? `hex_of(a${i})` : kind === "b" ? `str(int(a${i}))` : `a${i}`,
    );
    return `def ${fn}(${names.join(", ")}):
    told.append("\\x1f".join(["${fn}", ${parts.join(", ")}]))`;
  })
  .join("\n")}
takes = [${sensors.map((sensor) => `take_${wordOf(sensor)}`).join(", ")}]
looks = [${sensors.map((sensor) => (source.includes(`def look_${wordOf(sensor)}()`) ? `look_${wordOf(sensor)}` : "None")).join(", ")}]
def act(script):
    for line in script.split("\\n"):
        what, *rest = line.split(" ")
        if what == "0":
            start_moment(float(rest[0]), float(rest[1]), float(rest[2]))
        elif what == "1":
            takes[int(rest[0])](*[float(x) for x in rest[1:]])
        elif what == "2":
            press(int(rest[0]), rest[1] == "1")
        elif what == "3":
            place = int(rest[0]) * 7
            for i in range(7):
                blobs[place + i] = float(rest[1 + i])
        elif what == "4":
            takes[int(rest[0])]()
        elif what == "6":
            frame_bytes[:len(rest) - 1] = [int(x) for x in rest[1:]]
            looks[int(rest[0])]()
            told.append("# " + " ".join(hex_of(x) for x in blobs))
        else:
            end_moment()
            told.append("= " + " ".join(str(x) for x in label_of) + " / " + " ".join(str(seen[i]) for i in range(len(label_of))))
    return "\\n".join(told)
`;

/** One written C program in so many is compiled with checks of its memory and arithmetic; all have parts of one engine. */
const WATCHED_EVERY = 10;

/** MicroPython takes so many lines at a time: its heap is searched through whenever it is full. */
const LINES_AT_ONCE = 400;
const read = (file: string) => readFileSync(file, "utf8");
const lines = (text: string) => text.split("\n").filter((line) => line !== "");

const javascriptSide = ({ source, sensors }: Acting) => `
const told = [];
const view = new DataView(new ArrayBuffer(8));
const hexOf = (x) => {
  if (x !== x) return "nan";
  view.setFloat64(0, x + 0);
  return view.getBigUint64(0).toString(16).padStart(16, "0");
};
function withNumber(before, number, after) {
  return before + number + after;
}
function colourText(colour) {
  return colour < 0 ? "" : "#" + colour.toString(16).padStart(6, "0");
}
${lettered()
  .map(([fn, kinds]) => {
    if (kinds === "tones")
      return `function robotTune(first, count) {
  let line = "${fn}";
  for (let i = 0; i < count; i++) line += "\\x1f" + hexOf(ROWS[first + 2 * i]) + "\\x1f" + hexOf(ROWS[first + 2 * i + 1]);
  told.push(line);
}`;
    const names = [...kinds].map((_, i) => `a${i}`);
    const parts = [...kinds].map((kind, i) =>
      kind === "n" ? `hexOf(a${i})` : kind === "b" ? `String(Number(a${i}))` : `a${i}`,
    );
    return `function ${camelName(fn)}(${names.join(", ")}) {
  told.push(["${fn}", ${parts.join(", ")}].join("\\x1f"));
}`;
  })
  .join("\n")}
const takes = [${sensors.map((sensor) => camelName(`take_${wordOf(sensor)}`)).join(", ")}];
const looks = [${sensors.map((sensor) => (source.includes(`function ${camelName(`look_${wordOf(sensor)}`)}()`) ? camelName(`look_${wordOf(sensor)}`) : "null")).join(", ")}];
export function act(script) {
  for (const line of script.split("\\n")) {
    const [what, ...rest] = line.split(" ").map(Number);
    if (what === 0) startMoment(...rest);
    else if (what === 1) takes[rest[0]](...rest.slice(1));
    else if (what === 2) press(rest[0], rest[1] === 1);
    else if (what === 3) for (let i = 0; i < 7; i++) blobs[rest[0] * 7 + i] = rest[1 + i];
    else if (what === 4) takes[rest[0]]();
    else if (what === 6) {
      for (let i = 1; i < rest.length; i++) frameBytes[i - 1] = rest[i];
      looks[rest[0]]();
      told.push("# " + blobs.map(hexOf).join(" "));
    }
    else {
      endMoment();
      told.push("= " + labelOf.join(" ") + " / " + seen.slice(0, labelOf.length).join(" "));
    }
  }
  return told.join("\\n");
}
`;

const cSide = ({ source, sensors }: Acting, k: number) => {
  const has = (name: string) => new RegExp(`\\b${name}\\b`).test(source);
  return `#include <inttypes.h>
#include <stdio.h>
#include <string.h>
#include "p${k}.h"
static FILE *out;
static void put_hex(double x) {
  uint64_t bits;
  x = x + 0.0;
  memcpy(&bits, &x, 8);
  if (x != x) fputs("nan", out); else fprintf(out, "%016" PRIx64, bits);
}
static inline const char *with_number(const char *before, double number, const char *after) {
  static char words[512];
  snprintf(words, sizeof words, "%s%.0f%s", before, number + 0.0, after);
  return words;
}
static inline const char *colour_text(int colour) {
  static char words[8];
  words[0] = 0;
  if (colour >= 0) snprintf(words, sizeof words, "#%06x", (unsigned)colour & 0xffffffu);
  return words;
}
${lettered()
  .filter(([fn]) => has(fn))
  .map(([fn, kinds]) => {
    if (kinds === "tones")
      return `static inline void robot_tune(int first, int count) {
  fputs("${fn}", out);
  for (int i = 0; i < count; i++) { fputc(31, out); put_hex(ROWS[first + 2 * i]); fputc(31, out); put_hex(ROWS[first + 2 * i + 1]); }
  fputc('\\n', out);
}`;
    const typed = [...kinds].map(
      (kind, i) => `${kind === "n" ? "double " : kind === "b" ? "bool " : "const char *"}a${i}`,
    );
    const parts = [...kinds].map((kind, i) =>
      kind === "n" ? `put_hex(a${i})` : kind === "b" ? `fputs(a${i} ? "1" : "0", out)` : `fputs(a${i}, out)`,
    );
    return `static inline void ${fn}(${typed.join(", ")}) { fputs("${fn}", out); ${parts.map((part) => `fputc(31, out); ${part};`).join(" ")} fputc('\\n', out); }`;
  })
  .join("\n")}
void run_${k}(FILE *in, FILE *to);
void run_${k}(FILE *in, FILE *to) {
  int what, n;
  double x[8];
  out = to;
  while (fscanf(in, "%d", &what) == 1) {
    if (what == 0) { if (fscanf(in, "%lf %lf %lf", &x[0], &x[1], &x[2]) != 3) return; start_moment(x[0], x[1], x[2]); }
    else if (what == 1) {
      if (fscanf(in, "%d", &n) != 1) return;
      switch (n) {
${sensors
  .map(({ id, channels }, i) =>
    channels === 0
      ? ""
      : `        case ${i}: for (int i = 0; i < ${channels}; i++) if (fscanf(in, "%lf", &x[i]) != 1) return;
          take_${wordOf({ id, channels })}(${Array.from({ length: channels }, (_, c) => `x[${c}]`).join(", ")}); break;`,
  )
  .join("\n")}
      }
    }
${has("START") && source.includes("static int START;") ? '    else if (what == 8) { if (fscanf(in, "%d", &START) != 1) return; }' : ""}
    else if (what == 2) { int down; if (fscanf(in, "%d %d", &n, &down) != 2) return; press(n, down == 1); }
${
  has("blobs")
    ? `    else if (what == 3) {
      if (fscanf(in, "%d", &n) != 1) return;
      for (int i = 0; i < 7; i++) if (fscanf(in, "%lf", &blobs[n * 7 + i]) != 1) return;
    }
    else if (what == 4) {
      if (fscanf(in, "%d", &n) != 1) return;
      switch (n) {
${sensors.map((sensor, i) => (sensor.channels > 0 ? "" : `        case ${i}: take_${wordOf(sensor)}(); break;`)).join("\n")}
      }
    }`
    : ""
}
${
  has("frame_bytes")
    ? `    else if (what == 6) {
      if (fscanf(in, "%d", &n) != 1) return;
      for (int i = 0, byte; fscanf(in, "%d", &byte) == 1 && byte >= 0; i++) frame_bytes[i] = byte;
      switch (n) {
${sensors.map((sensor, i) => (has(`look_${wordOf(sensor)}`) ? `        case ${i}: look_${wordOf(sensor)}(); break;` : "")).join("\n")}
      }
      fputc('#', out);
      for (int i = 0; i < (int)(sizeof blobs / sizeof blobs[0]); i++) { fputc(' ', out); put_hex(blobs[i]); }
      fputc('\\n', out);
    }`
    : ""
}
    else {
      const int eyes = (int)(sizeof label_of / sizeof label_of[0]);
      end_moment();
      fputc('=', out);
      for (int i = 0; i < eyes; i++) fprintf(out, " %d", label_of[i]);
      fputs(" /", out);
      for (int i = 0; i < eyes; i++) fprintf(out, " %d", seen[i]);
      fputc('\\n', out);
    }
  }
}
`;
};

/** For each the first with the same source, among those that say with which mode they begin. */
function firstOf(all: readonly Acting[]): number[] {
  const sources = new Map<string, number>();
  return all.map(({ source, start }, i) => {
    if (start === undefined) return i;
    const first = sources.get(source) ?? i;
    sources.set(source, first);
    return first;
  });
}

export const ACTORS: Readonly<Record<string, Actor>> = {
  python: async (all) =>
    within((folder) => {
      const runs = firstOf(all);
      all.forEach((one, i) => {
        if (runs[i] === i) writeFileSync(join(folder, `p${i}.py`), `${one.source}\n${pythonSide(one)}`);
        writeFileSync(join(folder, `p${i}.txt`), one.script.join("\n"));
      });
      writeFileSync(
        join(folder, "main.py"),
        `codes = {}
for i, (first, start) in enumerate(${JSON.stringify(all.map(({ start = -1 }, i) => [runs[i], start]))}):
    if first not in codes:
        with open("p%d.py" % first, encoding="utf-8") as source:
            codes[first] = compile(source.read(), "p%d.py" % first, "exec")
    own = {"__name__": "p"}
    exec(codes[first], own)
    if start >= 0:
        own["START"] = start
    with open("p%d.txt" % i) as script:
        words = own["act"](script.read())
    with open("p%d.out" % i, "w", encoding="utf-8") as out:
        out.write(words)
`,
      );
      done("python3", ["-W", "error", "main.py"], "", folder);
      return all.map((_, i) => lines(read(join(folder, `p${i}.out`))));
    }),
  async micropython(all) {
    const results: string[][] = [];
    const runs = firstOf(all);
    let python = await loadMicroPython({ heapsize: 16 * 1024 * 1024 });
    for (const [i, one] of all.entries()) {
      if (runs[i] === i) {
        python = await loadMicroPython({ heapsize: 16 * 1024 * 1024 });
        (python.globals as unknown as Map<string, string>).set("text", `${one.source}\n${pythonSide(one)}`);
        python.runPython('code = compile(text, "p.py", "exec")');
      }
      python.runPython(`own = {"__name__": "p"}\nexec(code, own)`);
      if (one.start !== undefined) python.runPython(`own["START"] = ${one.start}`);
      python.runPython('act = own["act"]');
      const act = python.globals.get("act") as (script: string) => string;
      let out = "";
      for (let at = 0; at < one.script.length; at += LINES_AT_ONCE)
        out = act(one.script.slice(at, at + LINES_AT_ONCE).join("\n"));
      results.push(lines(out));
    }
    return results;
  },
  c: async (all) =>
    within((folder) => {
      // Those that share a source are compiled once, and each runs in a program of its own.
      const runs = firstOf(all);
      const compiledOnes = [...new Set(runs)];
      all.forEach((one, i) => {
        if (runs[i] === i) {
          writeFileSync(join(folder, `p${i}.h`), begunInC(one));
          writeFileSync(join(folder, `p${i}.c`), cSide({ ...one, source: begunInC(one) }, i));
        }
        const script = one.start === undefined ? one.script : [`8 ${one.start}`, ...one.script];
        writeFileSync(join(folder, `p${i}.txt`), `${script.join("\n")}\n`);
      });
      writeFileSync(
        join(folder, "main.c"),
        `#include <stdio.h>
#include <stdlib.h>
${compiledOnes.map((i) => `void run_${i}(FILE *in, FILE *to);`).join("\n")}
static void (*const runs[])(FILE *, FILE *) = { ${runs.map((i) => `run_${i}`).join(", ")} };
int main(int count, char **given) {
  for (int k = 1; k < count; k++) {
    const int i = atoi(given[k]);
    char name[20];
    FILE *in, *to;
    snprintf(name, sizeof name, "p%d.txt", i);
    in = fopen(name, "r");
    snprintf(name, sizeof name, "p%d.out", i);
    to = fopen(name, "w");
    if (in == NULL || to == NULL) return 1;
    runs[i](in, to);
    fclose(in);
    fclose(to);
  }
  return 0;
}
`,
      );
      // Two at a time: each is a program of its own. To find wrong memory in each takes three times as long to compile.
      const compiled = (names: readonly string[], how: readonly string[]) =>
        done("xargs", ["-P", "2", "-I", "{}", "cc", ...how, "-c", "-o", "{}.o", "{}.c"], names.join("\n"), folder);
      const isWatched = (i: number) => all[i].start === undefined && i % WATCHED_EVERY === 0;
      // A program that is started for each of many is not watched: that takes longer than all else it does.
      const how = [...STRICT, ...(all.some(({ start }) => start === undefined) ? WATCHED : [])];
      const named = (i: number) => `p${i}`;
      compiled([...compiledOnes.filter(isWatched).map(named), "main"], how);
      compiled(compiledOnes.filter((i) => !isWatched(i)).map(named), STRICT);
      done("sh", ["-c", `cc ${how.join(" ")} -o all *.o -lm`], "", folder);
      const alone = [...all.keys()].filter((i) => all[i].start === undefined);
      if (alone.length > 0) done(join(folder, "all"), alone.map(String), "", folder);
      const started = [...all.keys()].filter((i) => all[i].start !== undefined);
      if (started.length > 0) done("xargs", ["-n", "1", "./all"], started.join("\n"), folder);
      return all.map((_, i) => lines(read(join(folder, `p${i}.out`))));
    }),
  javascript: async (all) =>
    within((folder) => {
      all.forEach((one, i) => {
        writeFileSync(
          join(folder, `p${i}.mjs`),
          `${one.start === undefined ? one.source : one.source.replace(/\bSTART = \d+/, `START = ${one.start}`)}\n${javascriptSide(one)}`,
        );
        writeFileSync(join(folder, `p${i}.txt`), one.script.join("\n"));
      });
      writeFileSync(
        join(folder, "main.mjs"),
        `import { readFileSync, writeFileSync } from "node:fs";
for (let i = 0; i < ${all.length}; i++) {
  const { act } = await import(${JSON.stringify(pathToFileURL(folder).href)} + "/p" + i + ".mjs");
  writeFileSync("p" + i + ".out", act(readFileSync("p" + i + ".txt", "utf8")));
}
`,
      );
      done("node", ["main.mjs"], "", folder);
      return all.map((_, i) => lines(read(join(folder, `p${i}.out`))));
    }),
};
