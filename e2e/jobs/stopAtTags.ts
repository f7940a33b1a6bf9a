import { addChecks, addRow, addTarget, begin, record, runToEnd, useSuggestion } from "./bench";
import type { Job } from "./Job";

/** The first job of all. */
export const stopAtTags: Job = {
  by: "pointer",
  file: "stop-at-tags",
  title: "Stop at tags",
  aim: "The cart goes down the aisle. A coral tag on the floor means that a plant is thirsty: the cart stops at it, chimes, and goes on to the next.",
  picture: "The run: the cart has answered both tags",
  async perform(desk) {
    const { hands, step } = desk;
    await step("On the list of projects press **New project** and give it a name: `Thirsty plants`.", () =>
      begin(desk, "Thirsty plants"),
    );
    await step(
      "Press **Add target**. Its name is `Coral tag`, its paint `#e4573d`. Press **Add**. The floor is there already.",
      () => addTarget(desk, "Coral tag", "Tag", "#e4573d"),
    );
    await step(
      "Choose **Bench** and press **Record**. While the floor lies under the sensor, press and hold its chip; then put the coral tag under it and hold that one. The floor counts as much as the tag: a robot that never saw the floor stops everywhere. **Stop and keep**.",
      () => record(desk, ["Floor", "Coral tag"]),
    );
    await step("Go to **Decide**, press **Suggest rules**, read why, and press **Use all rules**.", () =>
      useSuggestion(desk, 1),
    );
    await step(
      "Go to **Act**. The cell **on entering Patrol** gets the step `drive 30 %`. Under **Add a row** type `coral tag arrives`, and give the new cell the steps `stop`, `tone C5 for 0.3 s`, `wait until still` and `drive 30 %`.",
      async () => {
        await hands.press("link", /^Act,/);
        await hands.press("button", /^on entering Patrol/);
        await hands.enter("Add a step", "drive 30 %");
        await addRow(desk, "coral tag arrives", ["stop", "tone C5 for 0.3 s", "wait until still", "drive 30 %"]);
      },
    );
    await step(
      "Go to **Prove**, **Edit course**. Add a **patch, rectangle**, and put it at `60` cm; add another, which lies in the middle.",
      async () => {
        await hands.press("link", /^Prove,/);
        await hands.press("radio", "Edit course");
        await hands.choose(/Add to the course/, "patch, rectangle");
        await hands.enter("x in cm", "60");
        await hands.choose(/Add to the course/, "patch, rectangle");
      },
    );
    await step(
      "Say first what the run has to show: **Edit checks**, then `answers every coral tag once` and `stops within 4 cm after coral tag`. **Done**.",
      async () => {
        await addChecks(desk, ["answers every coral tag once", "stops within 4 cm after coral tag"]);
      },
    );
    await step(
      "Choose **One run** and press **Run**, then **To the end**. Both checks hold. Try it in other light, at other speeds and heights under _Sweep_.",
      () => runToEnd(desk, 2),
    );
    await desk.picture();
  },
};
