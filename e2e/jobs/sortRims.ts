import { addChecks, addTarget, begin, record, runToEnd, useSuggestion } from "./bench";
import type { Job } from "./Job";

const PAINTS = [
  ["Coral rim", "#e4573d"],
  ["Teal rim", "#12868a"],
  ["Amber rim", "#e8a317"],
  ["Violet rim", "#7a4bb5"],
  ["Chalk rim", "#f1efe8"],
] as const;
const SORTED = ["Coral", "Teal", "Amber", "Violet"] as const;

/** Five paints, four crates and the end. */
export const sortRims: Job = {
  by: "pointer",
  file: "sort-on-a-belt",
  title: "Sort on a belt",
  aim: "In the potting shed the rims of five paints come along a belt. Four of them have a crate; what nobody takes goes to the end. Forty rims are sorted, none is lost, and then the highest speed is found at which that still holds.",
  picture: "The run: forty rims in four crates and the end",
  async perform(desk) {
    const { hands, step, screen, page } = desk;
    await step("Press **New project**: `Rim sorter`.", () => begin(desk, "Rim sorter"));
    await step(
      "**Add target** five times, each of the kind **Piece**: `Coral rim` painted `#e4573d`, `Teal rim` `#12868a`, `Amber rim` `#e8a317`, `Violet rim` `#7a4bb5`, `Chalk rim` `#f1efe8`.",
      async () => {
        for (const [name, paint] of PAINTS) await addTarget(desk, name, "Piece", paint);
      },
    );
    await step("On the **Bench** **Record** the floor, which is the belt here, and every rim.", () =>
      record(desk, ["Floor", ...PAINTS.map(([name]) => name)]),
    );
    await step("In **Decide** press **Suggest rules** and **Use all rules**.", () => useSuggestion(desk, 5));
    await step(
      "In **Prove**, **Robot**, choose **sorter with a belt**. **Add a crate** for each of the four: `Coral rims`, `Teal rims`, `Amber rims`, `Violet rims`. **Add a gate** four times: each leads to the next crate.",
      async () => {
        await hands.press("link", /^Prove,/);
        await hands.press("radio", "Robot");
        await hands.press("radio", "sorter with a belt");
        for (const name of SORTED) await hands.enter("Add a crate", `${name} rims`);
        for (let i = 0; i < 4; i++) await hands.press("button", "Add a gate");
      },
    );
    await step(
      "In **Edit course** let them come **By shares**: `40` pieces, and **Add a share** until all five are among them. One comes every `20` cm.",
      async () => {
        await hands.press("radio", "Edit course");
        await hands.press("radio", "By shares");
        await hands.enter("How many pieces", "40");
        for (let i = 0; i < 4; i++) await hands.press("button", "Add a share");
        await hands.enter("Between the pieces in cm", "20");
      },
    );
    await step(
      "In **Act** the cell **on entering Patrol** gets `drive 60 %`. **Add a row** for each of the four: `coral rim arrives` with `send to coral rims`, and so on. `send to` remembers every piece on its way from the sensor to its gate, however many are under way.",
      async () => {
        await hands.press("link", /^Act,/);
        await hands.press("button", /^on entering Patrol/);
        await hands.enter("Add a step", "drive 60 %");
        for (const name of SORTED) {
          await hands.enter("Add a row", `${name.toLowerCase()} rim arrives`);
          await hands.enter("Add a step", `send to ${name.toLowerCase()} rims`);
        }
      },
    );
    await step(
      "In **Prove**, **Edit checks**: `sorts every piece`, `loses no piece`, `jams never`, `crate coral rims holds only coral rim`. **Done**.",
      async () => {
        await hands.press("link", /^Prove,/);
        await addChecks(desk, [
          "sorts every piece",
          "loses no piece",
          "jams never",
          "crate coral rims holds only coral rim",
        ]);
      },
    );
    await step("**One run**, **Run**, **To the end**: all hold.", () => runToEnd(desk, 4));
    await desk.picture();
    await step(
      "In **Sweep** set the **Number of seeds** to `5` and press **Find it** under _Highest speed_: it says at which speed every check still holds, what to type for it, and how many pieces a minute that is.",
      async () => {
        await hands.press("radio", "Sweep");
        await hands.enter("Number of seeds", "5");
        await hands.press("button", "Find it");
        const said = () => page.$eval('[aria-label="The highest speed"]', (e) => e.textContent ?? "").catch(() => "");
        // Run after run is made for it.
        await screen.until(
          "a highest speed",
          async () => /^Every check holds at [\d.]+ times the speed.* \d+ pieces a minute/.test(await said()),
          60_000,
        );
      },
    );
  },
};
