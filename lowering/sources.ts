import { readdirSync, readFileSync } from "node:fs";
import type { Fn, Variable } from "../core/tree";
import { lower } from "./lower";

const ROOT = new URL("..", import.meta.url);

/** The files whose functions are written for robots, too. */
const FILES = [
  "core/arithmetic/roots.ts",
  "core/arithmetic/exactMath.ts",
  "core/colour/circle.ts",
  "core/colour/srgb.ts",
  "core/colour/rgbToHsv.ts",
  "core/colour/lightChroma.ts",
  "core/readings/channels.ts",
  "core/rules/band.ts",
];

/** What of them a program for a robot may call. */
const WANTED = [
  ...["rounded", "sinOf", "cosOf"],
  ...["hueOf", "satOf", "wrapHue", "channelOf", "lightOf", "chromaOf", "clampedShare"],
  ...["withinBand", "bandMargin", "hueMargin"],
];

/** Where what is made of them is kept. */
export const MADE = new URL("core/code/sharedFns.made.ts", ROOT);

export const read = (path: string) => ({ path, text: readFileSync(new URL(path, ROOT), "utf8") });

const inEngine = (...names: string[]) => names.map((name) => `core/behaviour/engine/${name}.ts`);

/** The engine of behaviours. */
export const ENGINE_FILES = [
  ...["core/arithmetic/exactMath.ts", "core/rules/steady.ts"],
  ...inEngine("rows", "Engine", "outputs", "eyes", "ask", "responses", "saying", "pushed", "carryOn", "belt", "moment"),
];
/** What each language has by other means. */
export const GIVEN_FILES = inEngine("dispatch", "given");
/** The entries of all kinds of steps, triggers and conditions. */
export const KIND_FILES = ["steps", "triggers", "conditions"].flatMap((room) =>
  readdirSync(new URL(`core/behaviour/${room}`, ROOT))
    .filter((file) => /(?<!\.test)\.ts$/.test(file))
    .map((file) => `core/behaviour/${room}/${file}`),
);

/** The functions of the core that robots' code has, too, as a file of the core: a line for each of them. */
export function madeFile(): string {
  const { constants, fns } = lower(FILES.map(read), WANTED);
  const lines = (all: readonly (Fn | Variable)[]) => all.map((one) => `  ${JSON.stringify(JSON.stringify(one))},\n`);
  return `import type { Fn, Variable } from "../tree";

/* Made by \`npm run lower\` from the functions of the core that robots' code has, too. */

const CONSTANTS = [
${lines(constants).join("")}];

const FNS = [
${lines(fns).join("")}];

export const SHARED_CONSTANTS = CONSTANTS.map((text): Variable => JSON.parse(text));
export const SHARED_FNS = FNS.map((text): Fn => JSON.parse(text));
`;
}
