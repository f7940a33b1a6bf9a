import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join, resolve } from "node:path";

export const ROOT = resolve(import.meta.dirname ?? new URL(".", import.meta.url).pathname, "..");

/** Ends with a sentence for the person at the terminal. */
export function giveUp(message) {
  process.stderr.write(`perceptum: ${message}\n`);
  process.exit(1);
}

/** Runs a command in the repository; its output is shown. Gives whether it succeeded. */
export function runs(command, ...args) {
  return spawnSync(command, args, { cwd: ROOT, stdio: ["ignore", "inherit", "inherit"] }).status === 0;
}

/** Installs the packages that package-lock.json names, if they are not there yet. */
export function ensureInstalled() {
  const [major, minor] = process.versions.node.split(".").map(Number);
  const fits = (major === 20 && minor >= 19) || (major === 22 && minor >= 12) || major > 22;
  if (!fits) giveUp(`Node 20.19 or later, or 22.12 or later, is needed; this is ${process.version}.`);
  const installed = join(ROOT, "node_modules/.package-lock.json");
  const stamp = join(ROOT, "node_modules/.perceptum-lock");
  const lock = createHash("sha256")
    .update(readFileSync(join(ROOT, "package-lock.json")))
    .digest("hex");
  if (existsSync(installed) && existsSync(stamp) && readFileSync(stamp, "utf8") === lock) return;
  process.stderr.write("Installing packages (the database driver is compiled; this takes a few minutes once) …\n");
  if (!runs("npm", "ci", "--no-audit", "--no-fund", "--loglevel=error")) {
    giveUp(
      "The packages could not be installed; npm's output above says why. A C++ compiler, make and python3 are needed once, for the database driver. Nothing else was changed.",
    );
  }
  writeFileSync(stamp, lock);
}

/** What each built part is made from. */
const PARTS = {
  web: ["core", "contract", "web", "package-lock.json", "tsconfig.base.json"],
  server: ["core", "contract", "wires", "server", "package-lock.json", "tsconfig.base.json"],
  cli: ["core", "wires", "cli", "package-lock.json", "tsconfig.base.json"],
  bench: ["core", "wires", "bench", "e2e", "trials", "package-lock.json", "tsconfig.base.json"],
};
/** What is built to be used; the bench is built only to be run. */
const USED = ["web", "server", "cli"];

/** Builds the parts whose sources changed since they were last built. */
export async function ensureBuilt(parts = USED) {
  for (const part of parts) {
    const stamp = join(ROOT, part, "dist/.built-from");
    const now = digest(PARTS[part]);
    if (existsSync(stamp) && readFileSync(stamp, "utf8") === now) continue;
    process.stderr.write(`Building ${part} …\n`);
    await buildForUse(join(ROOT, part));
    mkdirSync(join(ROOT, part, "dist"), { recursive: true });
    writeFileSync(stamp, now);
  }
}

/** Builds what is in a folder as people use it, whatever NODE_ENV says: tests set it, and React for development is several times slower. */
export async function buildForUse(root) {
  const { build } = await import("vite");
  const { NODE_ENV } = process.env;
  process.env.NODE_ENV = "production";
  try {
    await build({ root, logLevel: "warn" });
  } finally {
    if (NODE_ENV === undefined) delete process.env.NODE_ENV;
    else process.env.NODE_ENV = NODE_ENV;
  }
}

/** One digest of all source files below these places; tests and built files do not count. */
function digest(places) {
  const hash = createHash("sha256");
  const visit = (path) => {
    const full = join(ROOT, path);
    if (statSync(full).isDirectory()) {
      for (const name of readdirSync(full).sort())
        if (!["dist", "node_modules"].includes(name)) visit(join(path, name));
    } else if (!/\.test\.tsx?$/.test(path)) hash.update(path).update("\0").update(readFileSync(full)).update("\0");
  };
  places.forEach(visit);
  return hash.digest("hex");
}

/** The browser that drives the interface tests, installed on Debian if it is missing. */
export function ensureChromium() {
  // The one that has no window at all starts and draws quicker; what Debian puts into bin only calls it.
  const places = [
    process.env.CHROMIUM,
    "/usr/lib/chromium/chromium-headless-shell",
    "/usr/bin/chromium",
    "/usr/bin/chromium-browser",
    "/usr/bin/google-chrome",
  ];
  const found = places.find((path) => path && existsSync(path));
  if (found) return found;
  if (existsSync("/usr/bin/apt-get") && process.getuid?.() === 0) {
    process.stderr.write("Installing Chromium for the interface tests …\n");
    if (
      runs("apt-get", "update", "-qq") &&
      runs("apt-get", "install", "-y", "-qq", "--no-install-recommends", "chromium-headless-shell") &&
      existsSync("/usr/lib/chromium/chromium-headless-shell")
    )
      return "/usr/lib/chromium/chromium-headless-shell";
  }
  return giveUp(
    "Chromium is needed for the interface tests. Install it (on Debian: apt-get install chromium-headless-shell), or name it with CHROMIUM=/path/to/it.",
  );
}

/** What some tests need: where it is not there and cannot be installed, they are left out, which is said. */
export function ensureTools() {
  for (const [program, tests, asked] of [
    ["socat", "a serial line", "command -v socat"],
    ["mosquitto", "MQTT", "command -v mosquitto"],
    ["python3-numpy", "frames by numpy", "python3 -c 'import numpy'"],
  ]) {
    const isThere = () => spawnSync("sh", ["-c", asked], { stdio: "ignore" }).status === 0;
    if (isThere()) continue;
    if (existsSync("/usr/bin/apt-get") && process.getuid?.() === 0) {
      process.stderr.write(`Installing ${program} for the tests of ${tests} …\n`);
      if (
        runs("apt-get", "update", "-qq") &&
        runs("apt-get", "install", "-y", "-qq", "--no-install-recommends", program) &&
        isThere()
      )
        continue;
    }
    process.stderr.write(
      `${program} is not there: the tests of ${tests} are skipped. Install it (on Debian: apt-get install ${program}).\n`,
    );
  }
}

/** python3, which runs the exported code in the tests. */
export function ensurePython() {
  if (spawnSync("python3", ["--version"]).status === 0) return;
  if (
    existsSync("/usr/bin/apt-get") &&
    process.getuid?.() === 0 &&
    runs("apt-get", "update", "-qq") &&
    runs("apt-get", "install", "-y", "-qq", "--no-install-recommends", "python3")
  )
    return;
  giveUp(
    "python3 is needed: the tests run the exported code with it. Install it (on Debian: apt-get install python3).",
  );
}
