import { glasshouseRound } from "@perceptum/core/demo";
import { emptyProject, type Project } from "@perceptum/core/project";
import type { Page } from "puppeteer-core";
import { beforeEach, describe, expect, it } from "vitest";
import type { Screen } from "./Screen";
import { useSession } from "./session";

const session = useSession();
const { open, atServer } = session;
let page: Page;
let screen: Screen;
beforeEach(() => {
  ({ page, screen } = session);
});

const bare = () => emptyProject("Bench work") as Project;
const addTarget = async (name: string, code: string, kind: "Tag" | "Background", paint: string) => {
  await screen.press("button", "Add target");
  await screen.see("dialog", "New target");
  await page.type("[role=dialog] input[type=text]", name);
  await page.type("[role=dialog] input[maxlength]", code);
  await screen.press("radio", kind);
  await page.$eval(
    "[role=dialog] input[type=color]",
    (input, value) => {
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set;
      set?.call(input, value);
      input.dispatchEvent(new Event("input", { bubbles: true }));
    },
    paint,
  );
  await screen.press("button", "Add");
  await screen.seeNo("dialog", /./);
};
/** Waits until so many more readings were recorded. */
const recorded = async (more: number) => {
  const count = () =>
    page.$eval('[role=timer][aria-label="Recorded"]', (e) => Number(e.textContent?.split("·")[1] ?? 0));
  const from = await count();
  await screen.until(`${more} readings`, async () => (await count()) >= from + more);
};
const holdKey = async (key: "1" | "2" | "3" | "4" | "5") => {
  await page.keyboard.down(key);
  await recorded(25);
  await page.keyboard.up(key);
};
/** Records one tape in a light, holding the number key of each thing while it lies under the sensor. */
async function recordIn(light: string, things: readonly string[]): Promise<void> {
  await screen.choose(/Light on the bench/, light);
  await screen.choose(/Under the sensor/, things[0]);
  await (await screen.find("slider", "tremble")).focus();
  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
  await page.keyboard.press("r");
  await screen.see("button", "■ Stop and keep");
  for (const [i, thing] of things.entries()) {
    if (i > 0) await screen.choose(/Under the sensor/, thing);
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await recorded(5);
    await holdKey(String(i + 1) as "1");
  }
  await page.keyboard.press("r");
  await screen.see("button", "● Record");
}

describe("from an empty project to rules that hold in every light", () => {
  it("adds a 10-bit sensor, takes white and dark, records in two lights, takes the suggestion, and holds in a third", async () => {
    await open(bare(), "sense");
    await addTarget("Coral tag", "CO", "Tag", "#e4573d");
    await addTarget("Teal tag", "TE", "Tag", "#12868a");
    await addTarget("Amber strip", "AM", "Tag", "#e8a317");
    await addTarget("Slate paving", "sl", "Background", "#64666a");
    await screen.press("button", "Lights");
    await screen.choose(/Add a light/, "Noon sun");
    await screen.choose(/Add a light/, "Dusk");
    await screen.press("button", "Close");

    await screen.press("button", "Add sensor");
    await screen.see("dialog", "New sensor");
    await page.type("[role=dialog] input[type=text]", "Tag eye");
    await screen.choose(/Ready form/, "Red, green, blue, 10 bit (0–1023)");
    await screen.press("button", "Add");
    await screen.see("button", /Tag eye/);

    // A frozen display goes on by itself: what is taken is what lies there now.
    await screen.press("radio", "Bench");
    await screen.press("button", "Freeze");
    await screen.press("button", "White and dark");
    await screen.press("button", "Put the white card under it");
    await screen.press("button", "Take white");
    await screen.press("button", "Put the dark cap on it");
    await screen.press("button", "Take dark");
    // Neither was pressed before a whole second of it was there, though both were pressed as soon as they could be.
    expect(await takenAs("White")).toSatisfy((values: number[]) => values.every((v) => v > 550));
    expect(await takenAs("Dark")).toSatisfy((values: number[]) => values.every((v) => v < 40));
    await screen.press("button", "Apply");
    await screen.seeNo("dialog", /./);
    await atServer("white and dark", (p) => p.sensors[1].reference !== undefined);

    // In the order of their number keys: a new project has the floor before all others.
    const things = ["Floor", "Coral tag", "Teal tag", "Amber strip", "Slate paving"];
    // The brightest and the dimmest: a suggestion holds between what it was made from, and is not sure beyond.
    for (const light of ["Noon sun", "Dusk"]) await recordIn(light, things);
    await atServer("two marked tapes", (p) => p.tapes.length === 2 && p.tapes.every((t) => t.marks.length === 5));

    await screen.press("link", /^Decide,/);
    await screen.press("button", "Suggest rules");
    await screen.see("checkbox", "Take the rule for Amber strip");
    await screen.press("button", "Use all rules");
    await screen.see("button", /^Rule 3, /);

    await screen.press("link", /^Sense,/);
    await screen.press("radio", "Bench");
    await recordIn("Overcast", things);
    await atServer("the third tape", (p) => p.tapes.length === 3);
    await screen.press("link", /^Decide,/);
    await screen.press("radio", "Score");
    const overcast = await screen.until("the score in overcast", () =>
      page.evaluate(() => {
        const row = [...document.querySelectorAll("tr")].find((r) => r.querySelector("th")?.textContent === "Overcast");
        return row?.querySelector("td")?.textContent ?? undefined;
      }),
    );
    expect(Number.parseFloat(overcast)).toBeGreaterThanOrEqual(99);
  }, 240_000);
});

/** What was taken for white or dark, a value for each channel. */
const takenAs = (name: "White" | "Dark") =>
  page.evaluate((asked) => {
    const step = [...document.querySelectorAll("[role=dialog] b")].find((b) => b.textContent === asked)?.parentElement;
    // An empty text would be 0.
    return (step?.lastElementChild?.textContent?.trim() || "not there").split(/\s+/).map(Number);
  }, name);

describe("tapes", () => {
  it("are renamed, marked by dragging, cut, joined, duplicated and deleted, and all of it undone", async () => {
    await open(glasshouseRound(), "sense");
    await screen.see("region", "Statistics of the marked stretch");
    await screen.enter("Name of the tape", "Noon walk");
    await atServer("the name", (p) => p.tapes[1].name === "Noon walk");

    // Half a second of the lane of the truth, right of the middle, becomes a mark of the chosen target.
    const lane = await screen.find("group", "Marks of the tape");
    const box = await lane.boundingBox();
    if (box === null) throw new Error("the lane is not on screen");
    await page.mouse.move(box.x + box.width * 0.41, box.y + 8);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.415, box.y + 8);
    await page.mouse.move(box.x + box.width * 0.42, box.y + 8);
    await page.mouse.up();
    await screen.see("slider", "Start of the mark");
    await atServer("the mark", (p) => p.tapes[1].marks.length === 22);
    await screen.choose(/Target of the mark/, "Violet tag");
    const end = await screen.find("slider", "End of the mark");
    await end.focus();
    await page.keyboard.press("ArrowRight");
    await atServer("its target", (p) => p.tapes[1].marks.some((m) => m.target === "violet" && m.to - m.from < 1000));
    await screen.press("button", "Delete the mark");
    await atServer("the mark gone", (p) => p.tapes[1].marks.length === 21);

    await screen.press("button", "Duplicate");
    await atServer("a copy", (p) => p.tapes.length === 3);
    await screen.press("button", "One reading on");
    await screen.press("button", "Cut at the playhead");
    await atServer("two parts", (p) => p.tapes.length === 4);
    await screen.press("button", "Delete");
    await screen.press("button", /^Undo: .* deleted/);
    await screen.press("button", "Join …");
    await screen.choose(/Join with/, "Aisle walk, overcast");
    await atServer(
      "joined",
      (p) => p.tapes.length === 3 && p.tapes.some((t) => t.origin === "bench" && t.marks.length >= 21),
    );
    while ((await screen.names("button", /^Undo: /)).length > 0) await screen.press("button", /^Undo: /);
    await atServer("everything as it was", (p) => p.tapes.length === 2 && p.tapes[1].name === "Aisle walk, noon sun");
  });

  it("get a mark that is drawn faster than the page", async () => {
    await open(glasshouseRound(), "sense");
    await screen.dragAtOnce("group", "Marks of the tape", [0.41, 0.5], [0.42, 0.5]);
    await atServer("the mark", (p) => p.tapes[1].marks.length === 22);
  });

  it("are zoomed, and trimmed to what is shown", async () => {
    await open(glasshouseRound(), "sense");
    await screen.press("button", "Show less of the tape");
    await screen.press("button", "Show less of the tape");
    await screen.press("button", "Trim to what is shown");
    await atServer("a shorter tape", (p) => p.tapes[1].marks.length < 21);
    await screen.press("button", /^Undo: .* trimmed/);
    await atServer("the whole tape", (p) => p.tapes[1].marks.length === 21);
  });

  it("are imported from pasted text, bad rows shown, labels made marks and missing ones targets", async () => {
    await open(glasshouseRound(), "sense");
    const rows = Array.from(
      { length: 60 },
      (_, i) => `${(i * 0.02).toFixed(2)};${700 - i},${i % 10};120;80;${i < 30 ? "coral" : "Rose tag"}`,
    );
    rows.splice(10, 0, "0,2;oops;120;80;coral");
    await screen.press("button", "Paste …");
    await screen.see("dialog", "Paste readings");
    await page.type('[aria-label="Readings as text"]', "time;red;green;blue;label\n");
    await page.$eval(
      '[aria-label="Readings as text"]',
      (area, text) => {
        const set = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, "value")?.set;
        set?.call(area, text);
        area.dispatchEvent(new Event("input", { bubbles: true }));
      },
      `time;red;green;blue;label\n${rows.join("\n").replaceAll(".", ",")}\n`,
    );
    await screen.press("button", "Look at it");
    await screen.see("button", "Import 60 readings");
    expect(await page.$eval('[aria-label="Rows left out"]', (e) => e.textContent)).toContain(
      "line 12: column red holds “oops”, which is not a number",
    );
    await screen.press("button", "Import 60 readings");
    await screen.seeNo("dialog", /./);
    await atServer("the tape, its marks and the new target", (p) => {
      const tape = p.tapes.at(-1);
      return tape?.origin === "import" && tape.marks.length === 2 && p.targets.some((t) => t.name === "Rose tag");
    });
  });

  it("that hold nothing to read are refused in a sentence, and nothing is changed", async () => {
    await open(glasshouseRound(), "sense");
    await screen.press("button", "Paste …");
    await screen.see("dialog", "Paste readings");
    await page.type('[aria-label="Readings as text"]', "{oops");
    await screen.press("button", "Look at it");
    await screen.until("the sentence", async () =>
      (await page.$$eval("[role=alert]", (all) => all.map((e) => e.textContent).join())).includes(
        "Nothing was changed",
      ),
    );
    await screen.press("button", "Cancel");
    await atServer("two tapes", (p) => p.tapes.length === 2);
  });
});

describe("sensors", () => {
  it("are read anew when their scale changes, and as before when that is undone", async () => {
    await open(glasshouseRound(), "sense");
    const value = () => page.$eval('[aria-label="Reading at the playhead"]', (e) => e.textContent);
    await screen.see("region", "Reading at the playhead");
    const before = await value();
    await screen.press("button", "Change sensor");
    await screen.choose(/Order over the wire/, "blue, green, red");
    await screen.press("button", "Save");
    await screen.until("another reading", async () => (await value()) !== before);
    await screen.press("button", /^Undo: .* changed/);
    await screen.until("the reading as before", async () => (await value()) === before);
  });

  it("of every kind stream on the bench and are judged", async () => {
    await open(glasshouseRound(), "sense");
    for (const [name, form, shown] of [
      ["Clear eye", "Red, green, blue and clear, 16 bit", /clear \d+ %/],
      ["Cone eye", "Hue 0–360, saturation and value 0–100", /hue, saturation, value/],
      ["Hue eye", "Hue only, 0–360", /^.*hue/],
      ["Grey eye", "Reflected light, 0–100", /reflected light/],
      ["Code eye", "Colour codes of its own", /code/],
    ] as const) {
      await screen.press("button", "Add sensor");
      await screen.see("dialog", "New sensor");
      await page.type("[role=dialog] input[type=text]", name);
      await screen.choose(/Ready form/, form);
      if (form.startsWith("Colour codes")) await screen.press("button", "Add a code");
      await screen.press("button", "Add");
      await screen.press("radio", "Bench");
      await screen.choose(/Under the sensor/, "Coral tag");
      await screen.until(`${name} to read`, async () =>
        shown.test(await page.$eval('[aria-label="Live reading"]', (e) => e.textContent ?? "").catch(() => "")),
      );
    }
    await screen.until(
      "coral by its code",
      async () =>
        (await screen.names("region", "Under the sensor now")).length > 0 &&
        /Coral tag/.test(await page.$eval('[aria-label="Under the sensor now"]', (e) => e.textContent ?? "")),
    );
    await screen.press("button", "Freeze");
    await screen.see("button", "Go on");
  });

  it("stream on while another stage is gone to, which comes at once", async () => {
    await open(glasshouseRound(), "sense");
    await screen.press("radio", "Bench");
    await screen.see("region", "Live reading");
    // A slow machine: the stream never leaves the page idle.
    await page.emulateCPUThrottling(8);
    const pictures = await page.evaluate(async () => {
      (byRole("link", { pattern: "^Decide,", flags: "" })[0] as HTMLElement).click();
      let count = 0;
      for (; !document.querySelector("main h1")?.textContent?.startsWith("Decide,"); count++)
        await new Promise(requestAnimationFrame);
      return count;
    });
    expect(pictures).toBeLessThan(10);
  });

  it("have a height at which chosen things read best", async () => {
    await open(glasshouseRound(), "sense");
    await screen.press("radio", "Bench");
    // A slow machine: what is opened must come beside the stream, which then never leaves the page idle.
    await page.emulateCPUThrottling(4);
    await screen.press("button", "Height sweep");
    await screen.see("image", /^hue against height for Coral tag, Teal tag, Amber strip; usable from \d+ to \d+ mm$/);
    const canvas = '[aria-label^="hue against height"] canvas';
    await page.$eval(canvas, (e) => e.setAttribute("data-first", ""));
    await screen.press("button", /^Set the stand to \d+ mm$/);
    await screen.until("the stand's height", async () =>
      /The stand is at/.test(await page.$eval("[role=dialog]", (e) => e.textContent ?? "")),
    );
    // It is drawn anew in the chart that is there, and is as wide as the window lets it be.
    const wide = await page.$eval(canvas, (e) => e.clientWidth);
    await page.setViewport({ width: 500, height: 800 });
    await screen.until("the chart in its room", () =>
      page.$eval(
        canvas,
        (e, before) => {
          const room = e.closest("[role=img]")?.clientWidth ?? 0;
          return e.hasAttribute("data-first") && room < before && e.clientWidth === room;
        },
        wide,
      ),
    );
    await page.setViewport({ width: 1280, height: 800 });
    await screen.press("button", "Close");
    await screen.seeNo("dialog", /./);
  });
});
