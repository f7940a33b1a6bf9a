import { glasshouseRound } from "@perceptum/core/demo";
import { splitProject } from "@perceptum/core/project";
import { behaviourParts } from "/work/main/core/code/behaviourTree";
import { reached } from "@perceptum/core/tree";
import { LANGUAGES } from "@perceptum/core/code";
const { document } = splitProject(glasshouseRound());
const { parts, roots } = behaviourParts(document);
const l = LANGUAGES.find((x) => x.key === process.argv[2])!;
console.log(l.file(["x"], reached(parts, roots)).join("\n"));
