import { readFileSync, statSync } from "node:fs";
import { MAX_PROJECT_FILE_BYTES } from "@perceptum/core/names";
import { type Project, type ProjectDocument, readProject, splitProject } from "@perceptum/core/project";
import { MAX_FILE_BYTES, type Sensor } from "@perceptum/core/readings";

/** Bad input: one clear line, exit code 2. */
export class InputError extends Error {}

/** The text of a file, or of standard input for `-`. @throws InputError */
export const readText = (file: string, most = MAX_FILE_BYTES): string => readBytes(file, most).toString("utf8");

/** The same as bytes. @throws InputError */
export function readBytes(file: string, most: number): Buffer {
  try {
    if (file !== "-" && statSync(file).size > most)
      throw new InputError(`${file}: the file has more than ${most / 1_048_576} MB`);
    return readFileSync(file === "-" ? 0 : file);
  } catch (error) {
    if (error instanceof InputError) throw error;
    const { code } = error as NodeJS.ErrnoException;
    const reason =
      code === "ENOENT"
        ? "there is no such file"
        : code === "EISDIR"
          ? "this is a folder, not a file"
          : (error as Error).message;
    throw new InputError(`${file}: ${reason}`);
  }
}

/** Gives the name of a file for JSON lines. @throws InputError where the name promises another format */
export function jsonLinesFile(name: string | undefined): string | undefined {
  if (name !== undefined && /\.csv$/i.test(name))
    throw new InputError(`${name}: this is written as JSON lines; give it a name that does not end in .csv`);
  return name;
}

/** A whole number that an option gives. @throws InputError with the range */
export function wholeNumber(what: string, text: string, low: number, high: number): number {
  const value = /^\d+$/.test(text) ? Number(text) : Number.NaN;
  if (!(value >= low && value <= high))
    throw new InputError(`the ${what} “${text}” is not a whole number from ${low} to ${high}`);
  return value;
}

/** A project from its file. @throws InputError with the place of what is wrong */
export function openProject(file: string): Project {
  const read = readProject(readText(file, MAX_PROJECT_FILE_BYTES));
  if ("problem" in read) throw new InputError(`${file}: ${read.problem.place}: ${read.problem.message}`);
  return read.project;
}

export function openDocument(file: string) {
  return splitProject(openProject(file));
}

/** The sensor of that id or name, or the first. @throws InputError */
export function chooseSensor(project: ProjectDocument | Project, name: string | undefined): Sensor {
  const sensor =
    name === undefined ? project.sensors[0] : project.sensors.find((s) => s.id === name || s.name === name);
  if (sensor === undefined)
    throw new InputError(
      `there is no sensor “${name}”; there is ${project.sensors.map((s) => s.id).join(", ") || "none"}`,
    );
  return sensor;
}
