import type { Desk } from "./Job";

/** So many readings of each thing are recorded. */
const ENOUGH = 30;

/** Adds a target by its sheet. */
export async function addTarget({ hands, screen }: Desk, name: string, kind: string, paint: string): Promise<void> {
  await hands.press("button", "Add target");
  await screen.see("dialog", "New target");
  await hands.type("Name", name);
  if (kind !== "Tag") await hands.press("radio", kind);
  await hands.type("Paint as a number", paint);
  await hands.press("button", "Add");
  await screen.seeNo("dialog", /./);
}

/** Records a tape on the bench, each thing held to mark for as long as it lies under the sensor. */
export async function record({ hands, screen, page }: Desk, things: readonly string[]): Promise<void> {
  const count = () =>
    page.$eval('[role=timer][aria-label="Recorded"]', (e) => Number(e.textContent?.split("·")[1] ?? 0));
  const recorded = async (more: number) => {
    const from = await count();
    await screen.until(`${more} readings`, async () => (await count()) >= from + more);
  };
  await hands.press("radio", "Bench");
  await hands.choose(/Under the sensor/, things[0]);
  await hands.press("button", "● Record");
  await screen.see("button", "■ Stop and keep");
  for (const [i, thing] of things.entries()) {
    if (i > 0) await hands.choose(/Under the sensor/, thing);
    await recorded(8);
    await hands.hold("button", new RegExp(`^Hold to mark ${thing},`), () => recorded(ENOUGH));
  }
  await hands.press("button", "■ Stop and keep");
  await screen.see("button", "● Record");
}

/** Adds a row to the grid, and its steps. */
export async function addRow({ hands }: Desk, when: string, steps: readonly string[]): Promise<void> {
  await hands.enter("Add a row", when);
  for (const step of steps) await hands.enter("Add a step", step);
}

/** Adds checks to the course. */
export async function addChecks({ hands }: Desk, checks: readonly string[]): Promise<void> {
  await hands.press("button", "Edit checks");
  for (const check of checks) await hands.enter("Add a check", check);
  await hands.press("button", "Done");
}

/** Takes the suggestion whole. */
export async function useSuggestion({ hands, screen }: Desk, rules: number): Promise<void> {
  await hands.press("link", /^Decide,/);
  await hands.press("button", "Suggest rules");
  await screen.see("dialog", /./);
  await hands.press("button", "Use all rules");
  await screen.see("button", new RegExp(`^Rule ${rules}, `));
}

/** Makes a run, goes to its end, and holds that every check holds. */
export async function runToEnd({ hands, screen, page }: Desk, checks: number): Promise<void> {
  await hands.press("radio", "One run");
  await hands.press("button", "Run");
  await hands.press("button", "To the end");
  const holding = () => page.$eval('[aria-label="Checks that hold"]', (e) => e.textContent ?? "");
  await screen.until("all checks to hold", async () => (await holding()) === `${checks} of ${checks} hold`);
}

/** Begins a project of a name. */
export async function begin({ hands, screen, page }: Desk, name: string): Promise<void> {
  await hands.press("button", "New project");
  await screen.see("textbox", "Project name");
  await hands.enter("Project name", name);
  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
}
