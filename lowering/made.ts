import { loweredEngine } from "./engine";

/** The file of the core that holds what robots' code has of it: a line for each function, field and kind. */
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
