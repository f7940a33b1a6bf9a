import { splitProject } from "@perceptum/core/project";
import { isCamera, ReadingBlock, type Report, readReadings, type TableReadings } from "@perceptum/core/readings";
import { classifyBlock, labelMargin, NearestRules, ruleSetOf, steadyBlock } from "@perceptum/core/rules";
import { classifyFrames } from "./frames";
import { chooseSensor, InputError, openProject, readText } from "./input";

/**
 * Judges readings one by one: `t_ms,label,margin,seen`. Of a camera the files are frames, and each gives a line for every
 * target that has a blob in it.
 */
export function classifyCommand(
  projectFile: string,
  files: readonly string[] = [],
  options: { sensor?: string; format?: string } = {},
): string {
  const project = openProject(projectFile);
  const sensor = chooseSensor(project, options.sensor);
  if (isCamera(sensor)) {
    if (files.length === 0) throw new InputError(`${sensor.id} is a camera: name the pictures that it took`);
    return classifyFrames(splitProject(project).document, sensor, files);
  }
  const [readingsFile = "-", ...more] = files;
  if (more.length > 0)
    throw new InputError(
      `one file of readings is judged at a time; ${sensor.id} is no camera, of which there could be more`,
    );
  const ruleSet = ruleSetOf(project, sensor);
  const { readings } = openReadings(readingsFile, sensor.reports, options.format);
  const block = new ReadingBlock(readings, sensor);
  const targets = project.targets.map((t) => t.id);
  const labels = classifyBlock(ruleSet, block, targets);
  const nearest = ruleSet.method === "nearest" ? new NearestRules(ruleSet.nearest) : undefined;
  const margins = Array.from(labels, (_, i) => nearest?.margin(block.at(i)) ?? labelMargin(ruleSet, block.at(i)));
  const seen = steadyBlock(labels, ruleSet.steady);
  const name = (label: number) => (label === 0 ? "unknown" : targets[label - 1]);
  const lines = ["t_ms,label,margin,seen"];
  for (let i = 0; i < block.length; i++)
    lines.push(`${block.t[i]},${name(labels[i])},${Number(margins[i].toFixed(4))},${name(seen[i])}`);
  return `${lines.join("\n")}\n`;
}

/** The readings of a file (or of standard input, `-`); what could not be read is said on standard error. @throws InputError */
export function openReadings(file: string, report: Report, format?: string): TableReadings {
  if (format !== undefined && format !== "csv" && format !== "jsonl")
    throw new InputError(`the format “${format}” is not known; there is csv, jsonl`);
  const text = readText(file);
  const read = readReadings(
    text,
    report,
    format ?? (/\.jsonl$/i.test(file) ? "jsonl" : file === "-" ? undefined : "csv"),
  );
  if ("error" in read) throw new InputError(`${file}:${read.line}: ${read.error}`);
  const { readings, bad, badCount, unknownColumns, repeatedTimes } = read;
  const say = (message: string) => process.stderr.write(`perceptum: ${file}${message}\n`);
  for (const { line, message } of bad) say(`:${line}: ${message}; the line is left out`);
  if (badCount > bad.length) say(`: ${badCount - bad.length} more lines are left out`);
  if (unknownColumns.length > 0) say(`: the columns ${unknownColumns.join(", ")} are not used`);
  if (repeatedTimes > 0) say(`: ${repeatedTimes} readings have the time of the one before; they are kept`);
  if (badCount > 0 && readings.t.length === 0) throw new InputError(`${file}: no line could be read`);
  return read;
}
