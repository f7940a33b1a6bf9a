import { spawn } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { glasshouseRound } from "@perceptum/core/demo";
import { writeProject } from "@perceptum/core/project";
import { ROOT } from "./server";

/** The demo's robot, simulated, as it waits at an address to be driven. */
export async function waitingRobot(
  link = "tcp://:0",
): Promise<{ address: string; said: () => string; end: () => void }> {
  const folder = mkdtempSync(join(tmpdir(), "perceptum-robot-"));
  const file = join(folder, "round.json");
  writeFileSync(file, writeProject(glasshouseRound()));
  const cli = join(ROOT, "cli/dist/main.js");
  const child = spawn(process.execPath, [cli, "robot", file, "--course", "aisle", "--link", link], {
    stdio: ["ignore", "ignore", "pipe"],
  });
  let said = "";
  const address = await new Promise<string>((done, fail) => {
    child.on("exit", (code) => fail(new Error(`it ended with ${code}: ${said}`)));
    child.stderr.on("data", (text) => {
      said += String(text);
      const found = /listens at (\S+)/.exec(said);
      if (found !== null) done(found[1]);
    });
  });
  const end = () => {
    child.kill("SIGKILL");
    rmSync(folder, { recursive: true });
  };
  return { address, said: () => said, end };
}
