import { readdirSync, readFileSync } from "node:fs";

const ROOT = new URL("..", import.meta.url);

const inEngine = (...names: string[]) => names.map((name) => `core/behaviour/engine/${name}.ts`);

/** The files whose functions are written for robots, too. */
export const FILES = [
  "core/arithmetic/roots.ts",
  "core/arithmetic/exactMath.ts",
  "core/colour/circle.ts",
  "core/colour/srgb.ts",
  "core/colour/rgbToHsv.ts",
  "core/colour/lightChroma.ts",
  "core/readings/channels.ts",
  "core/rules/band.ts",
  "core/rules/references.ts",
  "core/rules/steady.ts",
  "core/vision/plainSight.ts",
  ...inEngine(
    "rows",
    "Engine",
    "outputs",
    "eyes",
    "ask",
    "responses",
    "saying",
    "pushed",
    "carryOn",
    "belt",
    "moment",
    "lineTime",
  ),
];
/** Files of functions that each language has by other means. */
export const GIVEN_FILES = inEngine("dispatch", "given");
/** The entries of all kinds of steps, triggers, conditions and outputs. */
export const KIND_FILES = ["steps", "triggers", "conditions", "outputs"].flatMap((room) =>
  readdirSync(new URL(`core/behaviour/${room}`, ROOT))
    .filter((file) => /(?<!\.test)\.ts$/.test(file))
    .map((file) => `core/behaviour/${room}/${file}`),
);

/** The file in which what is made of them is kept. */
export const MADE = new URL("core/code/engine.made.ts", ROOT);

export const read = (path: string) => ({ path, text: readFileSync(new URL(path, ROOT), "utf8") });
