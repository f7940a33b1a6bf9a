import { addChecks, addRow, addTarget, begin, record, runToEnd, useSuggestion } from "./bench";
import type { Job } from "./Job";

/** Two sensors astride a line. */
export const followTheLine: Job = {
  by: "pointer",
  file: "follow-the-line",
  title: "Follow a line with two sensors",
  aim: "A chalk line leads through the aisle. Two sensors go astride it, one left and one right of it; at the coral tag the cart has arrived.",
  picture: "The cart has followed the line to the tag",
  async perform(desk) {
    const { hands, step } = desk;
    await step("Press **New project**: `Chalk line`.", () => begin(desk, "Chalk line"));
    await step("**Add target** twice: `Chalk`, painted `#f2efe6`, and `Coral tag`, painted `#e4573d`.", async () => {
      await addTarget(desk, "Chalk", "Tag", "#f2efe6");
      await addTarget(desk, "Coral tag", "Tag", "#e4573d");
    });
    await step(
      "On the **Bench** **Record** the floor, the chalk and the tag, each held to mark while it lies there.",
      () => record(desk, ["Floor", "Chalk", "Coral tag"]),
    );
    await step("In **Decide** press **Suggest rules** and **Use all rules**.", () => useSuggestion(desk, 2));
    await step(
      "In **Sense** press **Add sensor** and name it `Right eye`. It shares the rules of the first one. **Add**.",
      async () => {
        await hands.press("link", /^Sense,/);
        await hands.press("button", "Add sensor");
        await hands.type("Name", "Right eye");
        await hands.press("button", "Add");
      },
    );
    await step(
      "In **Prove**, **Robot**: **Mount a sensor**, the **Right eye**, at `-22` mm to the left, which is right; the **Belly sensor** at `22` mm. The line is 24 mm wide and runs between them.",
      async () => {
        await hands.press("link", /^Prove,/);
        await hands.press("radio", "Robot");
        await hands.choose(/Mount a sensor/, "Right eye");
        await hands.enter("Right eye left", "-22");
        await hands.enter("Belly sensor left", "22");
      },
    );
    await step(
      "**Edit course**: add a **line**. Its **Point 1** begins at `10` cm, its **Point 3** ends at `165` cm. Add a **patch, rectangle** of **Coral tag** at `165` cm.",
      async () => {
        await hands.press("radio", "Edit course");
        await hands.choose(/Add to the course/, "line");
        await hands.enter("Point 1 x in cm", "10");
        await hands.enter("Point 3 x in cm", "165");
        await hands.choose(/Add to the course/, "patch, rectangle");
        await hands.choose(/^Chalk target$/, "Coral tag");
        await hands.enter("x in cm", "165");
      },
    );
    await step(
      "**Edit checks**: `stays within 4 cm of chalk`, `ends on coral tag`, `finishes within 20 s`. **Done**.",
      async () => {
        await addChecks(desk, ["stays within 4 cm of chalk", "ends on coral tag", "finishes within 20 s"]);
      },
    );
    await step(
      "In **Act** the cell **on entering Patrol** gets `follow chalk between belly sensor and right eye at 25 %`. **Add a row** `coral tag arrives` with `stop`, `wait until still` and `finish`.",
      async () => {
        await hands.press("link", /^Act,/);
        await hands.press("button", /^on entering Patrol/);
        await hands.enter("Add a step", "follow chalk between belly sensor and right eye at 25 %");
        await addRow(desk, "coral tag arrives", ["stop", "wait until still", "finish"]);
      },
    );
    await step("In **Prove** choose **One run**, **Run**, **To the end**: all three checks hold.", async () => {
      await hands.press("link", /^Prove,/);
      await runToEnd(desk, 3);
    });
    await desk.picture();
  },
};
