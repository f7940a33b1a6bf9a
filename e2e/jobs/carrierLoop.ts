import { addChecks, addRow, addTarget, begin, record, runToEnd, useSuggestion } from "./bench";
import type { Job } from "./Job";

/** A carrier on a rail, with its motor built in the wrong way round. */
export const carrierLoop: Job = {
  by: "pointer",
  file: "carrier-on-a-rail",
  title: "A carrier on a rail",
  aim: "On a closed loop of heating pipes a carrier brings pots to two beds. A coral plate between the pipes marks each bed: the carrier halts, sounds its horn, waits, and goes on. Its motor was built in the wrong way round, which is found and corrected.",
  picture: "The run: the carrier has answered both plates of the loop",
  async perform(desk) {
    const { hands, step } = desk;
    await step("Press **New project**: `Pipe loop`.", () => begin(desk, "Pipe loop"));
    await step("**Add target**: `Coral plate`, painted `#e4573d`. **Add**.", () =>
      addTarget(desk, "Coral plate", "Tag", "#e4573d"),
    );
    await step("On the **Bench** **Record** the floor and the plate.", () => record(desk, ["Floor", "Coral plate"]));
    await step("In **Decide** press **Suggest rules** and **Use all rules**.", () => useSuggestion(desk, 1));
    await step(
      "In **Prove**, **Robot**, choose **carrier on a rail**. Tick **mounted reversed**: this is how it was built. A finding says that it would drive backwards; **Invert it** turns its sign round.",
      async () => {
        await hands.press("link", /^Prove,/);
        await hands.press("radio", "Robot");
        await hands.press("radio", "carrier on a rail");
        await hands.press("checkbox", "motor mounted reversed");
        await hands.press("button", /^Invert it: motor drives backwards/);
      },
    );
    await step(
      "**Edit course** shows a loop of two straights and two bends. **Add a plate** twice; the second lies `180` cm along the rail. (Its pieces are dragged by their ends; _Add a straight_, _Add a bend_ and _Close the loop_ build any other way.)",
      async () => {
        await hands.press("radio", "Edit course");
        await hands.press("button", "Add a plate");
        await hands.press("button", "Add a plate");
        await hands.enter("Plate 2 along the rail in cm", "180");
      },
    );
    await step(
      "In **Act**, **Add a counter** `halts`. The cell **on entering Patrol** gets `drive 40 %`. The menu offers what a carrier can do: it has no second wheel to turn by.",
      async () => {
        await hands.press("link", /^Act,/);
        await hands.enter("Add a counter", "halts");
        await hands.press("button", /^on entering Patrol/);
        await hands.enter("Add a step", "drive 40 %");
      },
    );
    await step(
      "**Add a row** `coral plate arrives` with `stop`, `tone C4 for 0.5 s`, `wait 2 s`, `count halts + 1` and `drive 40 %`; and a row `becomes halts >= 2` with `drive 40 % for 60 cm` and `finish`.",
      async () => {
        await addRow(desk, "coral plate arrives", [
          "stop",
          "tone C4 for 0.5 s",
          "wait 2 s",
          "count halts + 1",
          "drive 40 %",
        ]);
        await addRow(desk, "becomes halts >= 2", ["drive 40 % for 60 cm", "finish"]);
      },
    );
    await step(
      "In **Prove**, **Edit checks**: `answers every coral plate once`, `count halts is 2`, `never slips`. **Done**.",
      async () => {
        await hands.press("link", /^Prove,/);
        await addChecks(desk, ["answers every coral plate once", "count halts is 2", "never slips"]);
      },
    );
    await step(
      "**One run**, **Run**, **To the end**: all hold. The thin line beside the rail is where the sensor went: in a bend it swings to the inside.",
      () => runToEnd(desk, 3),
    );
    await desk.picture();
  },
};
