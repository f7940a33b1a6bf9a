import { spawnSync } from "node:child_process";
import { perceptum } from "../src/perceptum";

/** A command's doings: its exit code, and what it wrote to standard output and standard error. */
export interface Ran {
  code: number | null;
  out: string;
  errors: string;
}

/** Runs the command line in this process: a process of its own takes half a second to begin. Nothing else may write meanwhile. */
export async function cli(...words: string[]): Promise<Ran> {
  const ran = { code: 0, out: "", errors: "" };
  const { stdout, stderr } = process;
  const write = { out: stdout.write, errors: stderr.write };
  const into = (stream: "out" | "errors") => (text: string) => {
    ran[stream] += text;
    return true;
  };
  stdout.write = into("out") as typeof stdout.write;
  stderr.write = into("errors") as typeof stderr.write;
  try {
    ran.code = await perceptum(words);
  } finally {
    stdout.write = write.out;
    stderr.write = write.errors;
  }
  return ran;
}

/** Runs the built program in a process of its own, with text on its standard input. */
export function cliWith(input: string, ...words: string[]): Ran {
  const { status, stdout, stderr } = spawnSync(process.execPath, ["cli/dist/main.js", ...words], {
    input,
    encoding: "utf8",
    maxBuffer: 1e8,
  });
  return { code: status, out: stdout, errors: stderr };
}
