import { nameProblem } from "../../ui/typed";

/** A sentence that says what is wrong with a name that others of its kind must not have. */
export const nameTaken = (text: string, taken: readonly string[], own: string) => {
  const name = text.trim();
  const problem = nameProblem(name);
  if (problem !== undefined) return problem;
  return name !== own && taken.includes(name) ? `“${name}” is already there.` : undefined;
};
