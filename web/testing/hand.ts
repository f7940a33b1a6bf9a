import { fireEvent, waitFor } from "@testing-library/react";
import { userEvent } from "@testing-library/user-event";
import { findByRole, type Name, named } from "./roles";

/** The longest wait for what must come, in ms. */
const PATIENCE = 10_000;

findByRole();

// What is found is shown, so nothing has to be asked about each element above it.
const hand = userEvent.setup({ pointerEventsCheck: 0, delay: null });

/** Waits until what is asked for is there. @throws Error that says what was awaited */
export const until = <T>(what: string, ask: () => T | undefined | false): Promise<T> =>
  waitFor(
    () => {
      const found = ask();
      if (found === undefined || found === false) throw new Error(`waited in vain for ${what}`);
      return found;
    },
    { timeout: PATIENCE },
  );

/** The element of a role and name; waits for it. */
export const see = (role: string, name: Name): Promise<HTMLElement> =>
  until(`${role} ${name}`, () => byRole(role, named(name))[0]);

/** Waits until nothing of that role and name is there. */
export const seeNo = (role: string, name: Name): Promise<boolean> =>
  until(`${role} ${name} to go`, () => byRole(role, named(name)).length === 0);

/** Waits until an element is there whose words are as asked. */
export const seeWords = (selector: string, words: RegExp): Promise<boolean> =>
  until(`${selector} to say ${words}`, () => words.test(textOf(selector)));

/** All names of that role that there are now. */
export const names = (role: string, name: Name = /./): string[] => byRole(role, named(name)).map(nameOf);

/** The words of the first element that a selector finds; none while there is none. */
export const textOf = (selector: string): string => document.querySelector(selector)?.textContent ?? "";

/** The value of a slider or text box. */
export async function valueIn(role: string, name: Name): Promise<string> {
  const found = await see(role, name);
  return found.getAttribute("aria-valuenow") ?? (found as HTMLInputElement).value;
}

/** Presses by pointer; waits until it can be pressed. */
export async function press(role: string, name: Name): Promise<void> {
  const found = await until(`${role} ${name} to be pressed`, () =>
    byRole(role, named(name)).find((e) => !e.matches(":disabled, [aria-disabled=true]")),
  );
  await hand.click(found);
}

/** Presses keys, in the words of user-event: `{Enter}`, `{Shift>}{Tab}{/Shift}`. */
export const keys = (pressed: string): Promise<void> => hand.keyboard(pressed);

/** Puts words into a text box in the place of those that it has, as from the clipboard. */
export async function put(box: Name, text: string): Promise<void> {
  const found = (await see("textbox", box)) as HTMLInputElement;
  await hand.click(found);
  found.select();
  await hand.paste(text);
}

/** Puts words into a text box, and enters them. */
export async function enter(box: Name, text: string): Promise<void> {
  await put(box, text);
  await hand.keyboard("{Enter}");
}

/** Moves a slider to a value. */
export async function slide(name: Name, value: number): Promise<void> {
  fireEvent.change(await see("slider", name), { target: { value } });
}

/** Chooses an option in a list that opens. */
export async function choose(list: Name, option: Name): Promise<void> {
  await press("button", list);
  await press("option", option);
  await seeNo("listbox", /^/);
}
