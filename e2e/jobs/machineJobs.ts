import { addChecks, addRow, addTarget, begin, record, runToEnd, useSuggestion } from "./bench";
import type { Desk } from "./Job";

/** A job on rail or belt that has no page in the guide. */
export interface MachineJob {
  title: string;
  perform(desk: Desk): Promise<void>;
}

/** Two plates, between which a carrier goes to and fro, told apart by the nearest reference. */
const shuttles: MachineJob = {
  title:
    "a carrier shuttles between two plates three times, by nearest references, and comes to rest before it turns round",
  async perform(desk) {
    const { hands, screen } = desk;
    await begin(desk, "Carrier");
    await addTarget(desk, "Coral plate", "Tag", "#e4573d");
    await addTarget(desk, "Teal plate", "Tag", "#12868a");
    // The ground and the sleepers of the track are references, too: what is near neither plate is none.
    await addTarget(desk, "Track", "Background", "#4d6b2f");
    await record(desk, ["Floor", "Track", "Coral plate", "Teal plate"]);
    await hands.press("link", /^Decide,/);
    await hands.press("radio", "Nearest");
    await hands.press("button", "References from marks");
    await screen.see("textbox", /of reference 4$/);
    await hands.press("link", /^Prove,/);
    await hands.press("radio", "Robot");
    await hands.press("radio", "carrier on a rail");
    await hands.press("radio", "Edit course");
    // An open rail: the last bend is taken away.
    await hands.press("button", "Remove section 4");
    await hands.choose(/^none sleepers$/, "Track");
    await hands.press("button", "Add a plate");
    await hands.press("button", "Add a plate");
    await hands.enter("Plate 1 along the rail in cm", "40");
    await hands.enter("Plate 2 along the rail in cm", "140");
    await hands.choose(/target of plate 2$/, "Teal plate");
    await hands.press("link", /^Act,/);
    await hands.enter("Add a counter", "turns");
    await hands.press("button", /^on entering Patrol/);
    await hands.enter("Add a step", "drive 30 %");
    await addRow(desk, "teal plate arrives", ["stop", "wait until still", "drive -30 %"]);
    await addRow(desk, "coral plate arrives", ["stop", "wait until still", "count turns + 1", "drive 30 %"]);
    await addRow(desk, "becomes turns >= 4", ["stop", "wait until still", "finish"]);
    await hands.press("link", /^Prove,/);
    await addChecks(desk, [
      "shuttles between coral plate and teal plate 3 times",
      "never slips",
      "never hits the end",
      "finishes within 90 s",
    ]);
    await runToEnd(desk, 4);
  },
};

/** A carrier at rest that a card sets going. */
const cardStarts: MachineJob = {
  title: "a card held to a carrier at rest starts it",
  async perform(desk) {
    const { hands } = desk;
    await begin(desk, "Start card");
    await addTarget(desk, "Leaf card", "Card", "#3f9b4f");
    await addTarget(desk, "Coral plate", "Tag", "#e4573d");
    await record(desk, ["Floor", "Leaf card", "Coral plate"]);
    await useSuggestion(desk, 2);
    await hands.press("link", /^Prove,/);
    await hands.press("radio", "Robot");
    await hands.press("radio", "carrier on a rail");
    await hands.press("radio", "Edit course");
    await hands.press("button", "Add a plate");
    await hands.enter("Plate 1 along the rail in cm", "100");
    await hands.choose(/target of plate 1$/, "Coral plate");
    await hands.choose(/Add to the course/, "card held up");
    await hands.press("link", /^Act,/);
    await addRow(desk, "leaf card arrives", ["wait until not leaf card", "drive 40 %"]);
    await addRow(desk, "coral plate arrives", ["stop", "wait until still", "finish"]);
    await hands.press("link", /^Prove,/);
    await addChecks(desk, ["sees leaf card, coral plate", "ends on coral plate"]);
    await runToEnd(desk, 2);
  },
};

/** Plain gates and waits, until pieces come closer than the wait. */
const plainGates: MachineJob = {
  title: "plain gates and waits sort until pieces come close: the finding says which gap is too small, and mends it",
  async perform(desk) {
    const { hands, screen, page } = desk;
    await begin(desk, "Plain gates");
    await addTarget(desk, "Coral rim", "Piece", "#e4573d");
    await addTarget(desk, "Teal rim", "Piece", "#12868a");
    await record(desk, ["Floor", "Coral rim", "Teal rim"]);
    await useSuggestion(desk, 2);
    await hands.press("link", /^Prove,/);
    await hands.press("radio", "Robot");
    await hands.press("radio", "sorter with a belt");
    await hands.enter("Add a crate", "Coral rims");
    await hands.press("button", "Add a gate");
    // So far behind the sensor that another piece passes it meanwhile.
    await hands.enter("Coral rims gate at in mm", "400");
    await hands.press("radio", "Edit course");
    for (const name of ["Coral rim", "Teal rim", "Coral rim", "Coral rim"])
      await hands.press("button", new RegExp(`^Add ${name},`));
    await hands.enter("Between the pieces in cm", "60");
    await hands.press("link", /^Act,/);
    await hands.press("button", /^on entering Patrol/);
    await hands.enter("Add a step", "drive 60 %");
    await addRow(desk, "coral rim arrives", [
      "wait 1.5 s",
      "gate coral rims gate open",
      "wait 0.8 s",
      "gate coral rims gate close",
    ]);
    await hands.press("link", /^Prove,/);
    await addChecks(desk, ["sorts every piece", "crate coral rims holds 3"]);
    await runToEnd(desk, 2);
    // Closer than the response takes: every second coral rim is not answered.
    await hands.press("radio", "Edit course");
    await hands.enter("Between the pieces in cm", "20");
    await hands.press("radio", "One run");
    await hands.press("button", "Run");
    await hands.press("button", "To the end");
    const failing = () =>
      page.$eval('[aria-label="Checks"]', (e) => /went on to End crate.*was still running/.test(e.textContent ?? ""));
    await screen.until("the piece that was missed", failing);
    await hands.press("link", /^Act,/);
    await screen.until("the finding that tells the gap", () =>
      page.$eval("body", (e) => /with a gap of \d+\.\d\scm, and is skipped then/.test(e.textContent ?? "")),
    );
    await hands.press("button", /^Send it instead: While a piece is on its way to Coral rims gate/);
    await screen.see("button", /^Coral rim arrives, in Patrol: send to Coral rims/);
    await hands.press("link", /^Prove,/);
    await runToEnd(desk, 2);
  },
};

export const MACHINE_JOBS: readonly MachineJob[] = [shuttles, cardStarts, plainGates];
