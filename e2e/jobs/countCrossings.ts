import { addChecks, addRow, addTarget, begin, record, runToEnd, useSuggestion } from "./bench";
import type { Job } from "./Job";

/** A counter, a log and a row that waits for a count. */
export const countCrossings: Job = {
  by: "pointer",
  file: "count-crossings",
  title: "Count and log crossings",
  aim: "Amber strips lie across the aisle. The cart counts them, shows the count, writes each into its log, and stops after the third.",
  picture: "Three strips were crossed and counted",
  async perform(desk) {
    const { hands, step } = desk;
    await step("Press **New project**: `Crossings`.", () => begin(desk, "Crossings"));
    await step("**Add target**: `Amber strip`, painted `#e8a317`. **Add**.", () =>
      addTarget(desk, "Amber strip", "Tag", "#e8a317"),
    );
    await step("On the **Bench** **Record** the floor and the strip.", () => record(desk, ["Floor", "Amber strip"]));
    await step("In **Decide** press **Suggest rules** and **Use all rules**.", () => useSuggestion(desk, 1));
    await step("In **Act**, **Add a counter**: `crossed`.", async () => {
      await hands.press("link", /^Act,/);
      await hands.enter("Add a counter", "crossed");
    });
    await step(
      'The cell **on entering Patrol** gets `drive 25 %`. **Add a row** `amber strip arrives` with `count crossed + 1`, `show crossed` and `log "a strip"`.',
      async () => {
        await hands.press("button", /^on entering Patrol/);
        await hands.enter("Add a step", "drive 25 %");
        await addRow(desk, "amber strip arrives", ["count crossed + 1", "show crossed", 'log "a strip"']);
      },
    );
    await step(
      "**Add a row** `becomes crossed >= 3` with `stop`, `wait until still` and `finish`: it answers as soon as the count is there.",
      async () => {
        await addRow(desk, "becomes crossed >= 3", ["stop", "wait until still", "finish"]);
      },
    );
    await step(
      "In **Prove**, **Edit course**, add a **patch, rectangle** three times, at `50`, `85` and `120` cm.",
      async () => {
        await hands.press("link", /^Prove,/);
        await hands.press("radio", "Edit course");
        for (const x of ["50", "85", "120"]) {
          await hands.choose(/Add to the course/, "patch, rectangle");
          await hands.enter("x in cm", x);
        }
      },
    );
    await step(
      '**Edit checks**: `answers every amber strip once`, `count crossed is 3`, `log is "a strip", "a strip", "a strip"`. **Done**.',
      async () => {
        await addChecks(desk, [
          "answers every amber strip once",
          "count crossed is 3",
          'log is "a strip", "a strip", "a strip"',
        ]);
      },
    );
    await step(
      "**One run**, **Run**, **To the end**: all hold. _Log_ shows what was written and when; _Save trace_ takes every tick away as a file.",
      () => runToEnd(desk, 3),
    );
    await desk.picture();
  },
};
