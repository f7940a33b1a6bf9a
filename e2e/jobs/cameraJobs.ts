import type { TargetId } from "@perceptum/core/names";
import { addChecks, addRow, addTarget, begin, runToEnd } from "./bench";
import { boxThing, seesFound, takePictures } from "./camera";
import { OVERCAST, PAINTS, type Picture, pictureOf, threeBoxes } from "./cameraFiles";
import type { Desk } from "./Job";
import type { MachineJob } from "./machineJobs";

const from = { x: 200, y: 600, heading: 0 };

/** Boxes things on the picture that is shown, each by the largest box of it. */
async function boxThings(desk: Desk, { shows }: Picture, names: Readonly<Record<string, string>>): Promise<void> {
  for (const [id, name] of Object.entries(names)) {
    const shown = shows.find(({ target }) => target === id);
    if (shown === undefined) throw new Error(`the picture does not show ${id}`);
    await boxThing(desk, shown, name);
  }
}

/** Takes the suggestion of so many rules. */
async function suggest({ hands, screen }: Desk, rules: number): Promise<void> {
  await hands.press("link", /^Decide,/);
  await hands.press("button", "Suggest rules");
  await screen.see("dialog", /./);
  await hands.press("button", "Use all rules");
  await screen.see("button", new RegExp(`^Rule ${rules}, `));
}

const line = (points: [number, number][], width: number, target: string) => ({
  points,
  width,
  target: target as TargetId,
});
/** A dark line with thin green fringes at both edges, as lenses make them, and a green tag to its left. */
const fringed = {
  lines: [
    line(
      [
        [100, 600],
        [1500, 600],
      ],
      40,
      "ink",
    ),
    line(
      [
        [100, 621],
        [1500, 621],
      ],
      1.8,
      "leaf",
    ),
    line(
      [
        [100, 579],
        [1500, 579],
      ],
      1.8,
      "leaf",
    ),
  ],
  patches: [{ shape: { disc: 80 }, target: "leaf" as TargetId, at: [560, 700] as [number, number], angle: 0 }],
};

/** A dark line followed by the camera's error in a strip; a green tag beside it says where to turn. */
const followByCamera: MachineJob = {
  title: "a dark line is followed by the camera's error within a strip, green fringes are cleaned away, tags turn it",
  async perform(desk) {
    const { hands, screen } = desk;
    await begin(desk, "Line by camera");
    await addTarget(desk, "Ink line", "Tag", PAINTS.ink);
    await addTarget(desk, "Leaf tag", "Tag", PAINTS.leaf);
    const [one, other] = [from, { ...from, x: 700 }].map((place) => pictureOf(fringed, place, OVERCAST));
    await takePictures(desk, "Pictures of a camera", { "line-1.png": one, "line-2.png": other });
    await boxThings(desk, one, { ink: "Ink line", leaf: "Leaf tag" });
    await boxThing(desk, { target: "floor", left: 230, top: 120, width: 70, height: 90 }, "Floor");
    await suggest(desk, 2);
    await hands.press("link", /^Sense,/);
    // Without cleaning the fringes are tags, too; only the lower rows count.
    await hands.press("button", "Change sensor");
    await hands.type("Erosion in px", "0");
    await hands.type("Dilation in px", "0");
    await hands.type("First row that counts", "60");
    await hands.type("Least area of a blob in px", "40");
    await hands.press("button", "Save");
    await screen.seeNo("dialog", /./);
    await hands.press("button", "One reading on");
    await seesFound(desk, "fringes to be taken for tags", (names) => names.includes("Leaf tag"));
    await hands.press("button", /^Clean by 1 px: Thin fringes are taken for Leaf tag/);
    await seesFound(desk, "the line alone", (names) => names.join() === "Ink line");
    await hands.press("link", /^Prove,/);
    await hands.press("radio", "Robot");
    await hands.choose(/Mount a sensor/, "Front camera");
    await hands.press("button", "Take Belly sensor off");
    await hands.press("radio", "Edit course");
    await addLine(desk, ["15", "60"], ["95", "60"]);
    await addLine(desk, ["100", "70"], ["100", "112"]);
    await addTag(desk, "84", "69");
    await addTag(desk, "109", "96");
    await hands.press("link", /^Act,/);
    await hands.press("button", /^on entering Patrol/);
    await hands.enter("Add a step", "follow ink line by camera at 20 %");
    await addRow(desk, "becomes leaf tag y > 180 px and leaf tag left of ink line", [
      "drive 20 % for 42 cm",
      "turn left 90 at 25 %",
      "follow ink line by camera at 20 %",
    ]);
    await addRow(desk, "becomes leaf tag y > 180 px and leaf tag right of ink line", [
      "drive 20 % for 10 cm",
      "turn right 90 at 25 %",
      "stop",
      "finish",
    ]);
    await hands.press("link", /^Prove,/);
    await addChecks(desk, ["sees leaf tag, leaf tag", "finishes within 60 s"]);
    await runToEnd(desk, 2);
  },
};

async function addLine({ hands }: Desk, a: [string, string], b: [string, string]): Promise<void> {
  await hands.choose(/Add to the course/, "line");
  await hands.choose(/^(Floor|Ink line|Leaf tag) target$/, "Ink line");
  await hands.enter("Width in mm", "40");
  await hands.press("button", "Remove point 2");
  await hands.enter("Point 1 x in cm", a[0]);
  await hands.enter("Point 1 y in cm", a[1]);
  await hands.enter("Point 2 x in cm", b[0]);
  await hands.enter("Point 2 y in cm", b[1]);
}

async function addTag({ hands }: Desk, x: string, y: string): Promise<void> {
  await hands.choose(/Add to the course/, "patch, disc");
  await hands.choose(/^(Floor|Ink line|Leaf tag) target$/, "Leaf tag");
  await hands.enter("Diameter in cm", "8");
  await hands.enter("x in cm", x);
  await hands.enter("y in cm", y);
}

/** Pictures of another camera, which sends blue first, judged by the rules that were taught by the first. */
const otherCamera: MachineJob = {
  title: "pictures of another camera that sends blue first: the finding says so, and mends it",
  async perform(desk) {
    const { hands } = desk;
    const names = { coral: "Coral box", teal: "Teal box", amber: "Amber box" };
    await begin(desk, "Two cameras");
    for (const [id, name] of Object.entries(names)) await addTarget(desk, name, "Tag", PAINTS[id]);
    const day = pictureOf(threeBoxes, from, OVERCAST);
    const swapped = pictureOf(threeBoxes, from, OVERCAST, { order: "bgr", number: 1 });
    await takePictures(desk, "Pictures of a camera", { "first.png": day });
    await boxThings(desk, day, names);
    await suggest(desk, 3);
    await hands.press("link", /^Sense,/);
    await takePictures(desk, "Import …", { "other.png": swapped }, async () => {
      await hands.choose(/Taken with/, "a new camera");
      await hands.type("Its name", "Other camera");
      await hands.choose(/Its rules/, "those of “Front camera”");
    });
    await boxThings(desk, swapped, names);
    await hands.press("button", /^Read blue, green, red: Other camera seems to be read wrongly/);
    await seesFound(desk, "all three", (found) => found.length === 3);
  },
};

export const CAMERA_JOBS: readonly MachineJob[] = [followByCamera, otherCamera];
