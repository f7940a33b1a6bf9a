import { glasshouseRound } from "@perceptum/core/demo";
import { describe, expect, it } from "vitest";
import { useSession } from "./session";

const session = useSession();
const demo = glasshouseRound();
const readings = demo.tapes.reduce((sum, tape) => sum + tape.readings.t.length, 0).toLocaleString("en");

describe("code for the robot", () => {
  it("comes in every language, of one sensor or of all", async () => {
    await session.open(demo, "ship");
    const { screen } = session;
    const code = (language: string) => session.textOf(`[aria-label="${language} code"]`);
    await screen.until("the behaviour", async () => /drive\(0\.35\), {2}# drive 35 %/.test(await code("Python")));
    expect(await code("Python")).toContain("def robot_wheels(left, right):");
    await screen.choose(/rules and behaviour/, "rules of all sensors");
    await screen.until("Python", async () => (await code("Python")).includes("def classify_left_eye(first, second"));
    expect(await code("Python")).not.toContain("robot_wheels");
    for (const [language, words] of [
      ["C", "static inline int classify_left_eye(double first"],
      ["JavaScript", "export function classifyLeftEye(first"],
      ["MicroPython", "def classify_left_eye(first"],
    ]) {
      await screen.choose(/Language/, language);
      await screen.until(language, async () => (await code(language)).includes(words));
    }
    await screen.choose(/all sensors/, "rules of Belly sensor");
    await screen.until("one sensor", async () => !(await code("MicroPython")).includes("left_eye"));
  });

  it("is proved on all tapes by running it, and proved anew for what is written after a change", async () => {
    await session.open(demo, "ship");
    const { screen } = session;
    const said = () => session.page.$$eval('[role="status"]', (all) => all.map((e) => e.textContent).join("\n"));
    await screen.press("button", "Prove this file");
    await screen.until("the proof of the behaviour", async () =>
      /Proved in JavaScript: what is seen, [\d,]+ commands and [\d,]+ notes agree for all [\d,]+ readings of \d+ tapes and a run on /.test(
        await said(),
      ),
    );
    await screen.choose(/rules and behaviour/, "rules of all sensors");
    await screen.until("no proof of the rules", async () => !(await said()).includes("Proved"));
    await screen.press("button", "Prove this file");
    const all = `Proved in JavaScript: label and seen agree for all ${readings} readings of ${demo.tapes.length} tapes.`;
    await screen.until("the proof", async () => (await said()).includes(all));
    await screen.choose(/all sensors/, "rules of Left eye");
    await screen.until("no proof of that", async () => !(await said()).includes("Proved"));
    await screen.press("button", "Prove this file");
    await screen.until("its proof", async () => /Proved in JavaScript|There is no reading/.test(await said()));
    expect(await said()).not.toContain("differs");
  });

  it("is not called proved where it was changed while it was being proved", async () => {
    await session.open(demo, "ship");
    const { screen, page } = session;
    await screen.press("button", "Prove this file");
    await screen.see("button", "Stop proving");
    await screen.enter("Project name", "Changed meanwhile");
    await screen.until("the end of the proof", async () => !page.workers().some((w) => w.url().includes("proof")));
    await screen.see("button", "Prove this file");
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
    expect(await session.textOf("main")).not.toContain("Proved");
  });
});
