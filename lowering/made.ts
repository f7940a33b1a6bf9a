import { loweredEngine } from "./engine";

/** What robots' code has of the core, as a file of the core: a line for each function, field and kind. */
export function madeFile(): string {
  const { constants, fields, fns, given, acts, endless } = loweredEngine();
  const all = { constants, fields, fns, given, acts, endless };
  const lists = Object.entries(all).map(
    ([name, list]) =>
      `  ${name}: [\n${list.map((one) => `    ${JSON.stringify(JSON.stringify(one))},\n`).join("")}  ],\n`,
  );
  return `/* Made by \`npm run lower\` from the functions of the core that robots' code has, too. */

export const MADE: Readonly<Record<string, readonly string[]>> = {
${lists.join("")}};
`;
}
