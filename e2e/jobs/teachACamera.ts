import { addChecks, addTarget, begin, runToEnd } from "./bench";
import { boxThing, seesFound, takePictures } from "./camera";
import { EVENING, OVERCAST, PAINTS, type Picture, pictureOf, threeBoxes } from "./cameraFiles";
import type { Desk, Job } from "./Job";

const THINGS = ["coral", "teal", "amber"] as const;
const NAMES = { coral: "Coral box", teal: "Teal box", amber: "Amber box" } as const;
const from = { x: 200, y: 600, heading: 0 };

/** Boxes each of the three things, and bare floor before them, on the picture that is shown. */
async function boxAll(desk: Desk, { shows }: Picture): Promise<void> {
  for (const id of THINGS) {
    const shown = shows.find(({ target }) => target === id);
    if (shown === undefined) throw new Error(`the picture does not show ${id}`);
    await boxThing(desk, shown, NAMES[id]);
  }
  await boxThing(desk, { target: "floor", left: 60, top: 190, width: 200, height: 40 }, "Floor");
}

/** Takes the suggestion, whatever rules there were. */
async function suggest({ hands, screen }: Desk): Promise<void> {
  await hands.press("link", /^Decide,/);
  await hands.press("button", "Suggest rules");
  await screen.see("dialog", /./);
  await hands.press("button", "Use all rules");
  await screen.see("button", /^Rule 3, /);
}

/** Three things taught by a box each; a second light shows what fails; turned at and backed off from by width. */
export const teachACamera: Job = {
  by: "pointer",
  file: "teach-a-camera",
  title: "Teach a camera",
  aim: "A cart with a camera shall turn right at a coral box, left at a teal one, and back off from an amber one until it is narrower than 100 px. Each is taught by a box on one picture. A second picture, taken in the evening, shows what fails then; once it is boxed too, both are right.",
  picture: "The evening picture, boxed: what is found in it stands beside it",
  async perform(desk) {
    const { hands, step, screen, page } = desk;
    const [day, evening] = [OVERCAST, EVENING].map((light) => pictureOf(threeBoxes, from, light));
    await step("Press **New project**: `Three boxes`.", () => begin(desk, "Three boxes"));
    await step(
      "**Add target** three times: `Coral box` painted `#e4573d`, `Teal box` `#12868a`, `Amber box` `#e8a317`.",
      async () => {
        for (const id of THINGS) await addTarget(desk, NAMES[id], "Tag", PAINTS[id]);
      },
    );
    await step(
      "Press **Pictures of a camera** and choose the picture that the camera took. You see its size, and that a new camera is made for it. **Take them in**.",
      () => takePictures(desk, "Pictures of a camera", { "day-1.png": day }),
    );
    await step(
      "Drag a box over each thing on the frame and say what it is: **Coral box**, **Teal box**, **Amber box**; and one over bare **Floor**.",
      () => boxAll(desk, day),
    );
    await step("In **Decide** press **Suggest rules** and **Use all rules**.", () => suggest(desk));
    await step(
      "Back in **Sense**, **Import …** the picture of the evening. The list _Found in this frame_ lacks what is not seen in that light.",
      async () => {
        await hands.press("link", /^Sense,/);
        await takePictures(desk, "Import …", { "evening-1.png": evening });
        await seesFound(desk, "something to be missed in the evening", (names) => names.length < 3);
      },
    );
    await step(
      "Box the same things on it: **Coral box**, **Teal box**, **Amber box**, **Floor**. Let rules be suggested from both pictures: **Suggest rules**, **Use all rules**. In **Sense** all three are found now.",
      async () => {
        await boxAll(desk, evening);
        await suggest(desk);
        await hands.press("link", /^Sense,/);
        await seesFound(desk, "all three in the evening", (names) => names.length === 3);
        await desk.picture();
      },
    );
    await step("In **Prove**, **Robot**, mount the **Front camera** and take **Belly sensor** off.", async () => {
      await hands.press("link", /^Prove,/);
      await hands.press("radio", "Robot");
      await hands.choose(/Mount a sensor/, "Front camera");
      await hands.press("button", "Take Belly sensor off");
    });
    await step(
      "In **Act** the cell **on entering Patrol** gets `drive 25 %`. **Add a row** `becomes coral box width > 90 px` with `turn right 90 at 25 %` and `drive 25 %`; `becomes teal box width > 90 px` with `turn left 90 at 25 %` and `drive 25 %`; `becomes amber box width > 130 px` with `drive -20 % until amber box width < 100 px`, `stop` and `finish`.",
      async () => {
        await hands.press("link", /^Act,/);
        await hands.press("button", /^on entering Patrol/);
        await hands.enter("Add a step", "drive 25 %");
        for (const [when, ...steps] of [
          ["becomes coral box width > 90 px", "turn right 90 at 25 %", "drive 25 %"],
          ["becomes teal box width > 90 px", "turn left 90 at 25 %", "drive 25 %"],
          ["becomes amber box width > 130 px", "drive -20 % until amber box width < 100 px", "stop", "finish"],
        ]) {
          await hands.enter("Add a row", when);
          for (const phrase of steps) await hands.enter("Add a step", phrase);
        }
      },
    );
    await step(
      "In **Prove**, **Edit course**, add three signs: coral ahead of the start, teal to the right of it, amber ahead of that.",
      async () => {
        await hands.press("link", /^Prove,/);
        await hands.press("radio", "Edit course");
        for (const [name, x, y, facing] of [
          ["Coral box", "90", "60", "180"],
          ["Teal box", "56", "10", "90"],
          ["Amber box", "126", "44", "180"],
        ]) {
          await hands.choose(/Add to the course/, "sign");
          await placeSign(desk, name, x, y, facing);
        }
      },
    );
    await step("**Edit checks**: `sees coral box, teal box, amber box` and `finishes within 60 s`. **Done**.", () =>
      addChecks(desk, ["sees coral box, teal box, amber box", "finishes within 60 s"]),
    );
    await step(
      "**One run**, **Run**, **To the end**: both hold. Beside the checks stands what the camera saw.",
      async () => {
        await runToEnd(desk, 2);
        await screen.see("region", "Frame of the run");
      },
    );
    void page;
  },
};

/** Sets the sign that was just added. */
async function placeSign({ hands }: Desk, name: string, x: string, y: string, facing: string): Promise<void> {
  await hands.choose(/^\w+ box target$/, name);
  await hands.enter("x in cm", x);
  await hands.enter("y in cm", y);
  await hands.enter("Angle in degrees", facing);
}
