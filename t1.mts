import { glasshouseRound } from "@perceptum/core/demo";
import { splitProject } from "@perceptum/core/project";
import { LANGUAGES, writeBehaviour } from "@perceptum/core/code";
const { document } = splitProject(glasshouseRound());
const l = LANGUAGES.find((x) => x.key === process.argv[2])!;
console.log(writeBehaviour(l, document));
