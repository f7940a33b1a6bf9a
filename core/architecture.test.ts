import { readdirSync, readFileSync, statSync } from "node:fs";
import { join, relative } from "node:path";
import { expect, it } from "vitest";

const ROOT = new URL("..", import.meta.url).pathname;

function sources(folder: string): string[] {
  return readdirSync(join(ROOT, folder)).flatMap((name) => {
    const path = join(folder, name);
    if (name === "node_modules" || name === "dist") return [];
    return statSync(join(ROOT, path)).isDirectory()
      ? sources(path)
      : /(?<!\.test|\/arbitrary)\.tsx?$/.test(path)
        ? [path]
        : [];
  });
}

const importsOf = (path: string) =>
  [
    ...readFileSync(join(ROOT, path), "utf8").matchAll(
      /^(?:import|export)[^;]*? from "([^"]+)";|^import "([^"]+)";|\bimport\("([^"]+)"\)/gm,
    ),
  ].map((m) => m[1] ?? m[2] ?? m[3]);

it("core imports only Zod and pure-rand", () => {
  const foreign = sources("core").flatMap((path) =>
    importsOf(path)
      .filter((name) => !name.startsWith(".") && name !== "zod" && !name.startsWith("pure-rand/"))
      .map((name) => `${path}: ${name}`),
  );
  expect(foreign).toEqual([]);
});

it("core knows no clock, no randomness of its own and no functions that differ between engines in its world", () => {
  const loose = sources("core").filter((path) =>
    /Date\.now|new Date|Math\.random|performance\./.test(readFileSync(join(ROOT, path), "utf8")),
  );
  expect(loose).toEqual([]);
  const inexact = [...sources("core/world"), ...sources("core/behaviour"), ...sources("core/rules")].filter((path) =>
    /Math\.(sin|cos|tan|atan2?|log|exp|pow|hypot|cbrt)\(/.test(
      readFileSync(join(ROOT, path), "utf8").replace(/\/\*[\s\S]*?\*\/|\/\/.*/g, ""),
    ),
  );
  expect(inexact).toEqual([]);
});

it("web, server and cli reach core by its public faces, and never each other", () => {
  const faces = Object.keys(JSON.parse(readFileSync(join(ROOT, "core/package.json"), "utf8")).exports).map(
    (face) => `@perceptum/core${face.slice(1)}`,
  );
  const wrong = ["web", "server", "cli"].flatMap((part) =>
    sources(part).flatMap((path) =>
      importsOf(path)
        .filter(
          (name) =>
            (name.startsWith("@perceptum/") && !faces.includes(name)) ||
            (name.startsWith(".") && relative(part, join(path, "..", name)).startsWith("..")),
        )
        .map((name) => `${path}: ${name}`),
    ),
  );
  expect(wrong).toEqual([]);
});
