import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { begin, runToEnd, useSuggestion } from "./bench";
import type { Job } from "./Job";
import { readingsFile } from "./readingsFile";

/** Readings that were logged elsewhere become a project that drives. */
export const readingsFromAFile: Job = {
  by: "keyboard",
  file: "readings-from-a-file",
  title: "Readings from a file",
  aim: "A sensor was logged on another day: its readings are in [a file](readings.csv) with the columns `t_ms`, `r`, `g`, `b` and `label`. From them come targets, marks, rules and a cart that stops at the tag. All of it goes by keyboard alone.",
  picture: "The readings as the import shows them",
  async perform(desk) {
    const { hands, step, screen, page } = desk;
    await step("Press **New project**: `Log`.", () => begin(desk, "Log"));
    await step(
      "Press **Readings from a file** and choose it. You see its columns, what each is taken for, and that the label _coral_ names no target yet: it becomes one. Press **Import**.",
      async () => {
        const folder = mkdtempSync(join(tmpdir(), "perceptum-job-"));
        const path = join(folder, "readings.csv");
        writeFileSync(path, readingsFile());
        const [chooser] = await Promise.all([page.waitForFileChooser(), hands.press("button", "Readings from a file")]);
        await chooser.accept([path]);
        await screen.see("button", /^Import \d+ readings/);
        rmSync(folder, { recursive: true });
        await desk.picture();
        await hands.press("button", /^Import \d+ readings/);
        await screen.seeNo("dialog", /./);
      },
    );
    await step("Go to **Decide**, press **Suggest rules** and **Use all rules**.", () => useSuggestion(desk, 1));
    await step(
      "In **Act** the cell **on entering Patrol** gets `drive 30 %`; **Add a row** `coral arrives` with `stop` and `finish`.",
      async () => {
        await hands.press("link", /^Act,/);
        await hands.press("button", /^on entering Patrol/);
        await hands.enter("Add a step", "drive 30 %");
        await hands.enter("Add a row", "coral arrives");
        await hands.enter("Add a step", "stop");
        await hands.enter("Add a step", "finish");
      },
    );
    await step(
      "In **Prove**, **Edit course**, add a **patch, rectangle**: it lies in the middle, on the way.",
      async () => {
        await hands.press("link", /^Prove,/);
        await hands.press("radio", "Edit course");
        await hands.choose(/Add to the course/, "patch, rectangle");
      },
    );
    await step("**Edit checks**: `ends on coral`.", async () => {
      await hands.press("button", "Edit checks");
      await hands.enter("Add a check", "ends on coral");
    });
    await step("**One run**, **Run**, **To the end**: the check holds.", () => runToEnd(desk, 1));
  },
};
