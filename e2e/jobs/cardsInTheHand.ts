import { addChecks, addRow, addTarget, begin, record, runToEnd, useSuggestion } from "./bench";
import type { Job } from "./Job";

/** A robot that does not move, with lamps and a servo. */
export const cardsInTheHand: Job = {
  by: "touch",
  file: "cards-in-the-hand",
  title: "Cards in the hand, with lamps and a servo",
  aim: "At the potting shed's gate a sensor looks at cards that are held to it. A leaf card lights the lamp *go* and lifts the bar; a coral card lights *halt* and lowers it.",
  picture: "The gate: the last card has lowered the bar",
  async perform(desk) {
    const { hands, step } = desk;
    await step("Press **New project**: `Shed gate`.", () => begin(desk, "Shed gate"));
    await step(
      "**Add target** twice, each of the kind **Card**: `Leaf card`, painted `#3f9b4f`, and `Coral card`, painted `#e4573d`.",
      async () => {
        await addTarget(desk, "Leaf card", "Card", "#3f9b4f");
        await addTarget(desk, "Coral card", "Card", "#e4573d");
      },
    );
    await step(
      "On the **Bench** **Record** the floor, which is what the sensor sees without a card, and both cards.",
      () => record(desk, ["Floor", "Leaf card", "Coral card"]),
    );
    await step("In **Decide** press **Suggest rules** and **Use all rules**.", () => useSuggestion(desk, 2));
    await step(
      "In **Prove**, **Robot**, choose **hand with cards**. **Add a lamp** `go` and one `halt`; **Add a servo** `bar`.",
      async () => {
        await hands.press("link", /^Prove,/);
        await hands.press("radio", "Robot");
        await hands.press("radio", "hand with cards");
        await hands.enter("Add a lamp", "go");
        await hands.enter("Add a lamp", "halt");
        await hands.enter("Add a servo", "bar");
      },
    );
    await step(
      "In **Act** **Add a row** `leaf card arrives` with `lamps off`, `lamp go green`, `servo bar to 80 at 120` and `show picture sprout`; and a row `coral card arrives` with `lamps off`, `lamp halt coral card` and `servo bar to 0 at 120`.",
      async () => {
        await hands.press("link", /^Act,/);
        await addRow(desk, "leaf card arrives", [
          "lamps off",
          "lamp go green",
          "servo bar to 80 at 120",
          "show picture sprout",
        ]);
        await addRow(desk, "coral card arrives", ["lamps off", "lamp halt coral card", "servo bar to 0 at 120"]);
      },
    );
    await step(
      "In **Prove**, **Edit course**, add a **card held up** twice: the first is a leaf card; make the second a **Coral card**. Drag its bar down: it is held farther away.",
      async () => {
        await hands.press("link", /^Prove,/);
        await hands.press("radio", "Edit course");
        await hands.choose(/Add to the course/, "card held up");
        await hands.choose(/Add to the course/, "card held up");
        await hands.choose(/^Leaf card target$/, "Coral card");
        await hands.drag("button", /^Coral card, card at/, 0, 14);
      },
    );
    await step(
      "**Edit checks**: `sees leaf card, coral card`, `servo bar ends at 0`, `lamp halt is lit while coral card`. **Done**.",
      async () => {
        await addChecks(desk, [
          "sees leaf card, coral card",
          "servo bar ends at 0",
          "lamp halt is lit while coral card",
        ]);
      },
    );
    await step(
      "**One run**, **Run**, **To the end**. Beside the sensor stand display, lamps and bar. While it plays, press and hold a chip under _hold up_ to show a card yourself.",
      () => runToEnd(desk, 3),
    );
    await desk.picture();
  },
};
