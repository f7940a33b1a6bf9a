import { type Browser, launch } from "puppeteer-core";

/** Debian's Chromium without a window, and without calls to anywhere. */
export function startBrowser(): Promise<Browser> {
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
    ],
  });
}
