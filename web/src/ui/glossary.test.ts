import { readFileSync } from "node:fs";
import { expect, it } from "vitest";
import { GLOSSARY } from "./glossary";

it("the guide's glossary says the same as the page", () => {
  const guide = readFileSync(new URL("../../../docs/guide.md", import.meta.url), "utf8");
  for (const [word, text] of Object.entries(GLOSSARY)) expect(guide).toContain(`- **${word}:** ${text}`);
});
