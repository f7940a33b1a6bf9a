import * as z from "zod";
import { Project } from "./schema";

/** The JSON Schema of a project file, as text. What goes across places (names, order of times) is not in it. */
export function projectJsonSchema(): string {
  const schema = z.toJSONSchema(Project, { io: "input", unrepresentable: "any", reused: "ref" });
  return `${JSON.stringify({ title: "Perceptum project", ...schema }, null, 2)}\n`;
}
