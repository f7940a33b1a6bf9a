import type { RuleSet } from "@perceptum/core/project";
import { type RawReadings, ReadingBlock, readCsv, readJsonLines } from "@perceptum/core/readings";
import { classify, labelMargin, steadyBlock } from "@perceptum/core/rules";
import { chooseSensor, InputError, openProject, readText } from "./input";

/** Judges readings one by one: `t_ms,label,margin,seen`. */
export function classifyCommand(
  projectFile: string,
  readingsFile = "-",
  options: { sensor?: string; format?: string } = {},
): string {
  const project = openProject(projectFile);
  const sensor = chooseSensor(project, options.sensor);
  const ruleSet = project.ruleSets.find((set) => set.id === sensor.ruleSet) as RuleSet;
  const format = options.format ?? (/\.jsonl$/i.test(readingsFile) ? "jsonl" : "csv");
  const block = new ReadingBlock(readReadings(readText(readingsFile), readingsFile, format), sensor);
  const targets = project.targets.map((t) => t.id);
  const labels = new Uint8Array(block.length);
  const margins: number[] = [];
  for (let i = 0; i < block.length; i++) {
    const features = block.at(i);
    const label = classify(ruleSet, features);
    labels[i] = label === "unknown" ? 0 : targets.indexOf(label) + 1;
    margins.push(labelMargin(ruleSet, features));
  }
  const seen = steadyBlock(labels, ruleSet.steady);
  const name = (label: number) => (label === 0 ? "unknown" : targets[label - 1]);
  const lines = ["t_ms,label,margin,seen"];
  for (let i = 0; i < block.length; i++) lines.push(`${block.t[i]},${name(labels[i])},${margins[i]},${name(seen[i])}`);
  return `${lines.join("\n")}\n`;
}

function readReadings(text: string, file: string, format: string): RawReadings {
  if (format !== "csv" && format !== "jsonl")
    throw new InputError(`the format “${format}” is not known; there is csv, jsonl`);
  const { readings, bad, unknownColumns } =
    format === "csv" ? csv(text, file) : { ...readJsonLines(text), unknownColumns: [] };
  const say = (message: string) => process.stderr.write(`perceptum: ${file}${message}\n`);
  for (const { line, message } of bad) say(`:${line}: ${message}; the line is left out`);
  if (unknownColumns.length > 0) say(`: the columns ${unknownColumns.join(", ")} are not used`);
  if (bad.length > 0 && readings.t.length === 0) throw new InputError(`${file}: no line could be read`);
  return readings;
}

function csv(text: string, file: string) {
  const read = readCsv(text);
  if ("error" in read) throw new InputError(`${file}:${read.line}: ${read.error}`);
  return read;
}
