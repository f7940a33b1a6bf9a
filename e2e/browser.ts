import { type Browser, launch } from "puppeteer-core";

/** Debian's Chromium without a window, and without calls to anywhere; `more` are arguments of its own. */
export function startBrowser(more: readonly string[] = []): Promise<Browser> {
  return launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    headless: true,
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
      // Every core is busy: what V8 does in threads beside the page's would be done instead of another page's work.
      "--js-flags=--single-threaded",
      ...more,
    ],
  });
}
