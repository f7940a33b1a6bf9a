import type { Page } from "puppeteer-core";
import type { Name, Screen } from "../Screen";
import type { HANDS, Hands } from "./Hands";

/** A job done from an empty project, told step by step as it is done: the guide's page of it is what was told. */
export interface Job {
  /** How it is done. */
  by: keyof typeof HANDS;
  /** The name of its page and picture in the guide. */
  file: string;
  title: string;
  /** What it is for, above its steps. */
  aim: string;
  /** What the picture shows. */
  picture: string;
  perform(at: Desk): Promise<void>;
}

/** Where a job is done. */
export interface Desk {
  page: Page;
  screen: Screen;
  hands: Hands;
  /** One step: what the guide says of it, and how it is done. Words in ** must be names of what was worked on in it. */
  step(words: string, does: () => Promise<void>): Promise<void>;
  /** Takes the picture of the job as the page is now. */
  picture(): Promise<void>;
}

/** A desk that writes down what is told, and holds that each name in it was really pressed, chosen or typed into. */
export function deskOf(
  page: Page,
  screen: Screen,
  hands: Hands,
  takePicture: () => Promise<void> = async () => {},
): { desk: Desk; told: string[] } {
  const told: string[] = [];
  let used: string[] = [];
  const heard =
    <A extends Name[], R>(names: (...args: A) => Name[], does: (...args: A) => R) =>
    (...args: A): R => {
      used.push(...names(...args).map(String));
      return does(...args);
    };
  const listening: Hands = {
    press: heard(
      (_role: Name, name: Name) => [name],
      (role, name) => hands.press(String(role), name),
    ),
    choose: heard((list: Name, option: Name) => [list, option], hands.choose),
    type: heard(
      (field: Name, text: Name) => [field, text],
      (field, text) => hands.type(field, String(text)),
    ),
    enter: heard(
      (field: Name, text: Name) => [field, text],
      (field, text) => hands.enter(field, String(text)),
    ),
    hold(role, name, meanwhile) {
      used.push(String(name));
      return hands.hold(role, name, meanwhile);
    },
    ...(hands.over && { over: hands.over }),
    drag(role, name, dx, dy) {
      used.push(String(name));
      return hands.drag(role, name, dx, dy);
    },
  };
  const desk: Desk = {
    page,
    screen,
    hands: listening,
    async step(words, does) {
      used = [];
      await does();
      const refused = await page.$eval(
        "body",
        (body) => body.querySelector('[aria-invalid="true"]')?.parentElement?.textContent,
      );
      if (refused !== undefined) throw new Error(`something was not taken: ${refused}`);
      const all = used.join("\n").replaceAll("\\", "");
      for (const [, name] of words.matchAll(/\*\*(.+?)\*\*/g))
        if (!all.includes(name)) throw new Error(`the guide speaks of “${name}”, which was not worked on: ${all}`);
      for (const [, phrase] of words.matchAll(/`(.+?)`/g))
        if (!all.includes(phrase)) throw new Error(`the guide writes “${phrase}”, which was not typed`);
      told.push(words);
    },
    picture: takePicture,
  };
  return { desk, told };
}

/** The page of a job in the guide. */
export function pageOf({ file, title, aim, picture }: Job, told: readonly string[]): string {
  return [
    `# ${title}`,
    aim,
    `![${picture}](../screenshots/job-${file}.png)`,
    told.map((words, i) => `${i + 1}. ${words}`).join("\n"),
    "_This page is written by the script that does the job; the tests do it, too._",
    "",
  ]
    .join("\n\n")
    .replace(/\n\n$/, "\n");
}
