import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, it } from "vitest";
import { buildForUse } from "./workspace.mjs";

it("builds for use where a test asks for it, and leaves the test's surroundings as they are", async () => {
  const root = mkdtempSync(join(tmpdir(), "perceptum-build-"));
  try {
    writeFileSync(join(root, "main.js"), "export const mode = process.env.NODE_ENV;\n");
    writeFileSync(
      join(root, "vite.config.mjs"),
      'export default { build: { rolldownOptions: { input: "main.js", preserveEntrySignatures: "strict", output: { entryFileNames: "main.js" } } } };\n',
    );
    const before = process.env.NODE_ENV;
    await buildForUse(root);
    expect(readFileSync(join(root, "dist/main.js"), "utf8")).toContain("production");
    expect([before, process.env.NODE_ENV]).toEqual(["test", "test"]);
  } finally {
    rmSync(root, { recursive: true });
  }
});
