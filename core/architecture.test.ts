import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import { dirname, join, normalize, relative } from "node:path";
import { describe, expect, it } from "vitest";
import { dragPicture, WAY } from "../demo/dragPicture";

const ROOT = new URL("..", import.meta.url).pathname;

/** The rooms of core, lowest first: each may use those before it, by their faces. */
const ROOMS = [
  "names",
  "arithmetic",
  "colour",
  "readings",
  "rules",
  "phrases",
  "teaching",
  "vision",
  "png",
  "tree",
  "behaviour",
  "world",
  "live",
  "project",
  "findings",
  "edits",
  "code",
  "demo",
];

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

const textOf = (path: string) => readFileSync(join(ROOT, path), "utf8");
const importsIn = (text: string) =>
  [...text.matchAll(/^(?:import|export)[^;]*? from "([^"]+)";|^import "([^"]+)";|\bimport\("([^"]+)"\)/gm)].map(
    (m) => m[1] ?? m[2] ?? m[3],
  );

/** The files that each file imports, of those that are named; types count. */
type Graph = ReadonlyMap<string, readonly string[]>;
function graphOf(files: ReadonlyMap<string, string>): Graph {
  return new Map(
    [...files].map(([path, text]) => [
      path,
      importsIn(text)
        .filter((name) => name.startsWith("."))
        .map((name) => {
          const to = normalize(join(dirname(path), name));
          return [`${to}.ts`, `${to}.tsx`].find((file) => files.has(file)) ?? `${to}/index.ts`;
        }),
    ]),
  );
}

const roomOf = (path: string) => path.split("/")[1];

/** Imports that go to a room above, or past a room's face. */
function wrongWays(graph: Graph): string[] {
  return [...graph].flatMap(([path, to]) =>
    to.flatMap((target) => {
      const [from, at] = [roomOf(path), roomOf(target)];
      if (from === at) return [];
      const wrong =
        ROOMS.indexOf(at) < 0 || ROOMS.indexOf(at) > ROOMS.indexOf(from)
          ? "goes up to"
          : target === `core/${at}/index.ts`
            ? undefined
            : "goes past the face of";
      return wrong === undefined ? [] : [`${path} ${wrong} ${at}`];
    }),
  );
}

/** The first circle of imports, as the files on it; empty where there is none. */
function circle(graph: Graph): string[] {
  const done = new Set<string>();
  const way: string[] = [];
  const visit = (path: string): string[] => {
    const at = way.indexOf(path);
    if (at >= 0) return [...way.slice(at), path];
    if (done.has(path)) return [];
    way.push(path);
    for (const next of graph.get(path) ?? []) {
      const found = visit(next);
      if (found.length > 0) return found;
    }
    way.pop();
    done.add(path);
    return [];
  };
  for (const path of graph.keys()) {
    const found = visit(path);
    if (found.length > 0) return found;
  }
  return [];
}

const core = new Map(sources("core").map((path) => [path, textOf(path)]));

describe("the rooms of core", () => {
  it("are all in order", () => {
    const there = readdirSync(join(ROOT, "core"), { withFileTypes: true })
      .filter((entry) => entry.isDirectory() && !["node_modules", "dist"].includes(entry.name))
      .map((entry) => entry.name);
    expect(there.filter((room) => !ROOMS.includes(room))).toEqual([]);
    for (const room of there) expect(existsSync(join(ROOT, "core", room, "index.ts"))).toBe(true);
  });

  it("use only the rooms below them, by their faces", () => {
    expect(wrongWays(graphOf(core))).toEqual([]);
  });

  it("hold no circle, not even of types", () => {
    expect(circle(graphOf(core))).toEqual([]);
  });

  it("are tested without a browser: no test of core uses what the browser's tests do", () => {
    const all = readdirSync(join(ROOT, "core"), { recursive: true, encoding: "utf8" }).filter(
      (path) => /\.tsx?$/.test(path) && !/^(node_modules|dist)\//.test(path),
    );
    expect(all.filter((path) => path.endsWith(".test.ts")).length).toBeGreaterThan(50);
    const uses = (path: string) => importsIn(textOf(join("core", path))).some((name) => /(^|\/)e2e\//.test(name));
    expect(all.filter(uses)).toEqual([]);
  });

  it("would fail these tests if they were not so", () => {
    const bad = new Map([
      ["core/names/index.ts", 'export * from "./ids";\n'],
      ["core/names/ids.ts", 'import type { Rule } from "../rules";\n'],
      ["core/rules/index.ts", 'export * from "./rule";\n'],
      ["core/rules/rule.ts", 'import { Id } from "../names/ids";\nimport { b } from "./b";\n'],
      ["core/rules/b.ts", 'export { Rule } from "./rule";\n'],
    ]);
    expect(wrongWays(graphOf(bad))).toEqual([
      "core/names/ids.ts goes up to rules",
      "core/rules/rule.ts goes past the face of names",
    ]);
    expect(circle(graphOf(bad))).toContain("core/rules/rule.ts");
    expect(circle(graphOf(new Map([...bad].filter(([path]) => !path.startsWith("core/rules/")))))).toEqual([]);
  });
});

/** A component of more lines does too much. */
const MOST_LINES = 200;

/** The rooms of web/src, lowest first: each may use those before it. */
const WEB_ROOMS = [
  "server",
  "workers",
  "model",
  "browser",
  "hooks",
  "ui",
  "targets",
  "lights",
  "findings",
  "camera",
  "tape",
  "sense",
  "decide",
  "act",
  "ship",
  "prove",
  "app",
  "main.tsx",
];

/** Files of the page that use a room above their own. */
const upwards = (graph: Graph): string[] => {
  const heightOf = (path: string) => WEB_ROOMS.indexOf(path.split("/")[2]);
  return [...graph].flatMap(([path, to]) =>
    to.flatMap((target) => (heightOf(target) > heightOf(path) || heightOf(path) < 0 ? [`${path} uses ${target}`] : [])),
  );
};

const web = new Map(
  sources("web/src")
    .filter((path) => !path.endsWith(".d.ts"))
    .map((path) => [path, textOf(path)]),
);

describe("the rooms of the page", () => {
  it("use only the rooms below them", () => {
    expect(upwards(graphOf(web))).toEqual([]);
  });

  it("hold no circle, not even of types", () => {
    expect(circle(graphOf(web))).toEqual([]);
  });

  it("have a model that knows no React and makes no worker: the page is what shows it", () => {
    const foreign = [...web].flatMap(([path, text]) =>
      ["server", "workers", "model"].includes(path.split("/")[2])
        ? importsIn(text)
            .filter((name) => !/^(\.|@perceptum\/(core|contract)\b)/.test(name))
            .filter((name) => !["comlink", "@reduxjs/toolkit", "dequal/lite"].includes(name))
            .map((name) => `${path}: ${name}`)
        : [],
    );
    expect(foreign).toEqual([]);
    const making = [...web].filter(([, text]) => /new Worker\(/.test(text)).map(([path]) => path);
    expect(making).toEqual(["web/src/browser/surroundings.ts"]);
    // The model may use what a worker has of the browser: it is checked without the types of a page.
    expect(JSON.parse(textOf("package.json")).scripts.types).toBe("node scripts/types.mjs");
    expect(textOf("scripts/types.mjs")).toContain('"web/tsconfig.model.json"');
    expect(JSON.parse(textOf("web/tsconfig.model.json")).compilerOptions.lib).toEqual([
      "ES2023",
      "WebWorker",
      "WebWorker.Iterable",
    ]);
  });

  it("have no component of over 200 lines", () => {
    const long = [...web].flatMap(([path, text]) =>
      path.endsWith(".tsx")
        ? [...text.matchAll(/^(?:export )?function (\w+)[\s\S]*?\n\}$/gm)].flatMap(([whole, name]) => {
            const lines = whole.split("\n").length;
            return lines > MOST_LINES ? [`${name} in ${path} has ${lines}`] : [];
          })
        : [],
    );
    expect(long).toEqual([]);
  });

  it("would fail these tests if they were not so", () => {
    const bad = graphOf(
      new Map([
        ["web/src/model/a.ts", 'import type { B } from "../ui/B";\n'],
        ["web/src/ui/B.tsx", 'import { a } from "../model/a";\n'],
      ]),
    );
    expect(upwards(bad)).toEqual(["web/src/model/a.ts uses web/src/ui/B.tsx"]);
    expect(circle(bad)).toContain("web/src/ui/B.tsx");
  });
});

describe("the page about the way of a drag", () => {
  it("names files that are there, and has the picture that its script draws", () => {
    const named = [...textOf("docs/drag.md").matchAll(/`([\w/.]+\.tsx?)`/g)].map(([, file]) => file);
    expect(named.length).toBeGreaterThan(8);
    const files = [...named, ...WAY.flatMap(({ file }) => (file === "" ? [] : [file]))];
    expect(files.filter((file) => !existsSync(join(ROOT, "web/src", file)))).toEqual([]);
    expect(textOf("docs/drag.svg")).toBe(dragPicture());
  });
});

it("core imports only Zod, pure-rand and, where frames are kept as PNG, what packs them", () => {
  const foreign = [...core].flatMap(([path, text]) =>
    importsIn(text)
      .filter((name) => !name.startsWith(".") && name !== "zod" && !name.startsWith("pure-rand/"))
      .filter((name) => roomOf(path) !== "png" || !["fast-png", "fflate"].includes(name))
      .map((name) => `${path}: ${name}`),
  );
  expect(foreign).toEqual([]);
});

it("core knows no clock, no randomness of its own and no functions that differ between engines in its world", () => {
  // What is written for a robot has a clock there.
  const here = [...core].filter(([path]) => !path.startsWith("core/code/sides/"));
  const loose = here.filter(([, text]) => /Date\.now|new Date|Math\.random|performance\./.test(text));
  expect(loose.map(([path]) => path)).toEqual([]);
  const inexact = [...core].filter(
    ([path, text]) =>
      ["world", "behaviour", "rules"].includes(roomOf(path)) &&
      /Math\.(sin|cos|tan|atan2?|log|exp|pow|hypot|cbrt)\(/.test(text.replace(/\/\*[\s\S]*?\*\/|\/\/.*/g, "")),
  );
  expect(inexact.map(([path]) => path)).toEqual([]);
});

it("web, server, cli and wires reach core by its public faces, and never each other; the contract serves web and server, wires serve server and cli", () => {
  const faces = Object.keys(JSON.parse(textOf("core/package.json")).exports).map(
    (face) => `@perceptum/core${face.slice(1)}`,
  );
  const wrong = ["web", "server", "cli", "wires", "contract"].flatMap((part) =>
    sources(part).flatMap((path) =>
      importsIn(textOf(path))
        .filter(
          (name) =>
            (name.startsWith("@perceptum/") &&
              !faces.includes(name) &&
              !(name === "@perceptum/wires" && ["server", "cli"].includes(part)) &&
              !(/^@perceptum\/contract(\/paths)?$/.test(name) && ["server", "web"].includes(part))) ||
            (name.startsWith(".") && relative(part, join(path, "..", name)).startsWith("..")),
        )
        .map((name) => `${path}: ${name}`),
    ),
  );
  expect(wrong).toEqual([]);
});
