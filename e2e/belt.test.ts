import { glasshouseRound, pipeRailCarrier, pottingShed } from "@perceptum/core/demo";
import { type ProjectDocument, splitProject } from "@perceptum/core/project";
import {
  type BeltCourse,
  paintsOf,
  type RailCourse,
  RailWay,
  run,
  type SorterRobot,
  traceJsonLines,
} from "@perceptum/core/world";
import type { Page } from "puppeteer-core";
import { beforeEach, describe, expect, it } from "vitest";
import { withoutTapes } from "../trials/demos";
import type { Name, Screen } from "./Screen";
import { useSession } from "./session";

const session = useSession();
const { open, atServer, textOf } = session;
let page: Page;
let screen: Screen;
beforeEach(() => {
  ({ page, screen } = session);
});

const middleOf = async (name: Name): Promise<[number, number]> => {
  const box = await (await screen.find("button", name)).boundingBox();
  if (box === null) throw new Error(`${name} is not in the drawing`);
  return [box.x + box.width / 2, box.y + box.height / 2];
};
const dragTo = async (name: Name, x: number, y: number) => {
  const from = await middleOf(name);
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.mouse.move((from[0] + x) / 2, (from[1] + y) / 2);
  await page.mouse.move(x, y);
  await page.mouse.up();
};
const focus = async (name: Name) => (await screen.find("button", name)).evaluate((e) => (e as HTMLElement).focus());

describe("a belt", () => {
  const piecesOf = (p: ProjectDocument) => (p.courses[0] as BeltCourse).pieces;
  const row = (p: ProjectDocument) => {
    const { order } = piecesOf(p);
    return Array.isArray(order) ? order.map((piece) => paintsOf(piece).join("/")).join(" ") : "";
  };

  it("has its pieces set one by one, moved by keys and by pointer, and drawn by shares; all is undone", async () => {
    const project = pottingShed();
    const [course] = project.courses as BeltCourse[];
    project.courses = [{ ...course, pieces: { ...course.pieces, order: [] } }];
    await open(withoutTapes(project), "prove");
    await screen.press("radio", "Edit course");
    for (const name of ["Coral tag", "Teal tag", "Amber strip"])
      await screen.press("button", new RegExp(`^Add ${name},`));
    await atServer("three pieces", (p) => row(p) === "coral teal amber");
    await focus("Piece 3: Amber strip");
    await page.keyboard.press("ArrowLeft");
    await atServer("amber before teal", (p) => row(p) === "coral amber teal");
    await screen.see("button", "Piece 2: Amber strip");
    await page.keyboard.press("Delete");
    await atServer("no amber", (p) => row(p) === "coral teal");
    await dragTo("Piece 1: Coral tag", ...(await middleOf("Piece 2: Teal tag")));
    await atServer("coral behind teal", (p) => row(p) === "teal coral");
    await screen.press("radio", "By shares");
    await screen.enter("How many pieces", "12");
    await screen.press("button", "Add a share");
    await screen.enter("Weight of share 2", "3");
    await atServer("shares", (p) => {
      const { order } = piecesOf(p);
      return !Array.isArray(order) && order.count === 12 && order.draw.map((share) => share.weight).at(1) === 3;
    });
    for (let i = 0; i < 4; i++) await screen.press("button", /^Undo: /);
    await atServer("the row again", (p) => row(p) === "teal coral");
  });

  it("gets gates and crates that phrases name; what cannot stand is said and changes nothing", async () => {
    await open(withoutTapes(pottingShed()), "prove");
    await screen.press("radio", "Robot");
    await screen.enter("Coral gate at in mm", "60");
    await screen.until("why", async () =>
      /^Nothing was changed: Coral gate begins 20 mm along the belt/.test(await textOf("[role=alert]")),
    );
    await screen.enter("Belly sensor ahead", "900");
    await screen.until("why", async () => /every sensor looks at 900 mm or later/.test(await textOf("[role=alert]")));
    await screen.enter("Add a crate", "Seedlings");
    await screen.press("button", "Add a gate");
    await screen.enter("Name of gate 5", "Seed gate");
    await screen.enter("Name of crate 1", "Coral pots");
    await atServer("both, and no other change", (p) => {
      const { gates, crates, mounts } = p.robot as SorterRobot;
      return (
        gates.at(-1)?.name === "Seed gate" &&
        gates.at(-1)?.crate === "seedlings" &&
        gates[0].atMm === (pottingShed().robot as SorterRobot).gates[0].atMm &&
        mounts[0].x === pottingShed().robot.mounts[0].x &&
        crates[0].name === "Coral pots"
      );
    });
    await screen.see("button", "Remove Seed gate");
    await screen.press("link", /^Act,/);
    await screen.press("button", /^Coral tag arrives, in Sorting/);
    await screen.enter("Add a step", "send to nowhere");
    await screen.until("that there is no such crate", async () =>
      /nowhere/.test(
        await page.$eval('[aria-label="Add a step"]', (e) => e.closest("div")?.parentElement?.textContent ?? ""),
      ),
    );
    await screen.enter("Add a step", "gate seed gate open");
    await screen.enter("Add a step", "send to coral pots");
    await atServer("both steps", (p) => {
      const steps = p.behaviour.modes[0].responses[0].steps.slice(-2);
      return JSON.stringify(steps).includes("seedlings-gate") && JSON.stringify(steps).includes("coral");
    });
  });

  it("tells in words where its pieces went, says of each in which crate it ended, and why not in its own", async () => {
    await open(withoutTapes(pottingShed()), "prove");
    await screen.press("button", /^Run( again)?$/);
    await screen.press("button", "To the end");
    await screen.see("button", /^fails: Sorts every piece into the crate with its name, 22\/24/);
    await screen.see("image", /^Bench belt: /);
    await screen.press("radio", "Things");
    await screen.see("button", /^Go to Coral tag, piece 1,/);
    const said = await textOf('[aria-label="Things passed"]');
    expect(said).toMatch(/^Pieces/);
    expect(said).toMatch(/answered, in Coral crate at \d+\.\d\d s/);
    expect(said).toMatch(/It went on to End crate; it was not answered: .*was still running/);
  });
});

describe("a rail", () => {
  const railOf = (p: ProjectDocument) => p.courses[0] as RailCourse;

  it("has plates dragged along it, and its way built by pointer and keys; all is undone", async () => {
    await open(withoutTapes(pipeRailCarrier()), "prove");
    await screen.press("radio", "Edit course");
    const [, second] = (pipeRailCarrier().courses[0] as RailCourse).plates;
    const [x, y] = await middleOf(/^Plate 2: Coral tag, 60 cm along the rail/);
    await dragTo(/^Plate 2/, x + 40, y - 60);
    await atServer("the plate farther along, on whole cm, and not aside", (p) => {
      const { at, aside } = railOf(p).plates[1];
      return at > second.at && at % 10 === 0 && aside === second.aside;
    });
    await focus(/^Plate 2/);
    await page.keyboard.press("ArrowRight");
    await screen.press("button", "Undo: plate changed");
    await screen.press("button", "Undo: plate changed");
    await atServer("it where it was", (p) => railOf(p).plates[1].at === second.at);
    const sections = railOf(pipeRailCarrier() as never as ProjectDocument).rail.way.length;
    const [endX, endY] = await middleOf("Go on from the end of the rail");
    await dragTo("Go on from the end of the rail", endX - 80, endY - 80);
    await atServer("a bend more", (p) => {
      const last = railOf(p).rail.way.at(-1);
      return railOf(p).rail.way.length === sections + 1 && last !== undefined && "arc" in last && last.arc < 0;
    });
    const before = new RailWay((pipeRailCarrier().courses[0] as RailCourse).rail).sections[0].to;
    await focus("End of section 1");
    await page.keyboard.press("ArrowRight");
    await atServer("the first straight longer by 1 cm", (p) => {
      const [first] = railOf(p).rail.way;
      return "straight" in first && first.straight === before + 10;
    });
    await focus(`End of section ${sections + 1}`);
    await page.keyboard.press("Delete");
    await atServer("as many sections as before", (p) => railOf(p).rail.way.length === sections);
  });
});

describe("a run of a carrier and of a sorter", () => {
  it.each([pipeRailCarrier, pottingShed])("is on the page what it is elsewhere, byte for byte", async (demo) => {
    await open(withoutTapes(demo()), "prove");
    await screen.enter("Seed", "7");
    await screen.press("button", /^Run( again)?$/);
    await screen.press("button", "To the end");
    // Hands over what would be saved.
    await page.evaluate(() => {
      const make = URL.createObjectURL;
      URL.createObjectURL = (blob) => {
        void (blob as Blob).text().then((text) => {
          document.body.dataset.saved = text;
        });
        return make.call(URL, blob);
      };
    });
    await screen.choose(/Save the trace/, "JSON lines");
    const saved = await screen.until("the trace", () => page.evaluate(() => document.body.dataset.saved));
    const { document: project } = splitProject(demo());
    const trace = run(project, { course: project.courses[0].id, light: project.lights[0].id, seed: 7 });
    expect(saved === traceJsonLines(trace)).toBe(true);
  });

  it("is kept as a tape, and compared with another", async () => {
    await open(pottingShed(), "prove");
    await screen.press("button", /^Run( again)?$/);
    await screen.press("button", "To the end");
    await screen.press("button", "Keep as a tape");
    await atServer("another tape", (p) => p.tapes.length === pottingShed().tapes.length + 1);
    await screen.press("button", "Compare");
    await screen.enter("Seed", "2");
    await screen.press("button", /^Run( again)?$/);
    await screen.press("button", "To the end");
    await screen.until("where they part", async () =>
      /part at \d+\.\d+ s/.test(await textOf('[aria-label="Where the runs part"]')),
    );
  });
});

describe("a project whose courses are not for its robot", () => {
  it("is refused with the place", async () => {
    const mixed = { ...glasshouseRound(), robot: pottingShed().robot };
    const answer = await fetch(`${session.server.url}/api/projects`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(mixed),
    });
    expect(answer.status).toBe(422);
    const { place, detail } = (await answer.json()) as { place: string; detail: string };
    expect(place).toMatch(/^courses\[0\]/);
    expect(detail).toMatch(/belt/);
  });
});
