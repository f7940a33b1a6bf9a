import { LANGUAGES, writeEngine } from "@perceptum/core/code";
import { codedSensors, drawnCase, momentsOf } from "./e2e/drawnBehaviour";
import { ACTORS } from "./e2e/runBehaviour";

const [, , key, from, to] = process.argv;
const seeds = Array.from({ length: Number(to) - Number(from) }, (_, i) => Number(from) + i);
let t0 = performance.now();
const cases = seeds.map(drawnCase);
const l = LANGUAGES.find((x) => x.key === key) as (typeof LANGUAGES)[number];
console.log("drawn", performance.now() - t0);
t0 = performance.now();
const all = cases.map(({ project, script }) => ({
  source: writeEngine(l, project),
  sensors: codedSensors(project),
  script,
}));
console.log("written", performance.now() - t0);
t0 = performance.now();
const told = await ACTORS[key](all);
console.log("run", performance.now() - t0);
let bad = 0;
const stats = { commands: 0, notes: 0, moments: 0 };
told.forEach((one, i) => {
  const got = momentsOf(one);
  const { wanted } = cases[i];
  const k = wanted.findIndex((w, j) => JSON.stringify(w) !== JSON.stringify(got[j]));
  stats.moments += wanted.length;
  for (const w of wanted) {
    stats.commands += w.commands.length;
    stats.notes += w.notes.length;
  }
  if (k >= 0 || got.length !== wanted.length) {
    bad++;
    if (bad <= 3)
      console.log(
        "seed",
        seeds[i],
        "moment",
        k,
        "of",
        wanted.length,
        JSON.stringify({ wanted: wanted[k], got: got[k] }, null, 1).replaceAll("\\u001f", " | "),
      );
  }
});
console.log(bad, "differ of", cases.length, stats);
