import type { PageLife, Surroundings, WorkerName } from "../model/surroundings";
import { BrowserStore } from "./BrowserStore";
import { BrowserWindow } from "./BrowserWindow";

const onHide: PageLife["onHide"] = (hear) => {
  window.addEventListener("pagehide", hear);
  return () => window.removeEventListener("pagehide", hear);
};

const onLeave: PageLife["onLeave"] = (asks) => {
  const ask = (event: BeforeUnloadEvent) => {
    if (asks()) event.preventDefault();
  };
  window.addEventListener("beforeunload", ask);
  return () => window.removeEventListener("beforeunload", ask);
};

const onFailure: PageLife["onFailure"] = (hear) => {
  const failed = ({ reason }: PromiseRejectionEvent) => hear(reason);
  window.addEventListener("unhandledrejection", failed);
  return () => window.removeEventListener("unhandledrejection", failed);
};

/** Each is named in full: so the build finds it. */
const WORKERS: Readonly<Record<WorkerName, () => Worker>> = {
  judge: () => new Worker(new URL("../workers/judge.worker.ts", import.meta.url), { type: "module" }),
  mentor: () => new Worker(new URL("../workers/mentor.worker.ts", import.meta.url), { type: "module" }),
  teacher: () => new Worker(new URL("../workers/teacher.worker.ts", import.meta.url), { type: "module" }),
  sweep: () => new Worker(new URL("../workers/sweep.worker.ts", import.meta.url), { type: "module" }),
  vision: () => new Worker(new URL("../workers/vision.worker.ts", import.meta.url), { type: "module" }),
  robot: () => new Worker(new URL("../workers/robot.worker.ts", import.meta.url), { type: "module" }),
  import: () => new Worker(new URL("../workers/import.worker.ts", import.meta.url), { type: "module" }),
  proof: () => new Worker(new URL("../workers/proof.worker.ts", import.meta.url), { type: "module" }),
};

/** What the browser has for the model; once for a page. */
export const browserSurroundings = (): Surroundings => ({
  kept: new BrowserStore(),
  window: new BrowserWindow(),
  page: { onHide, onLeave, onFailure },
  startWorker: (name) => WORKERS[name](),
  spares: { judge: [], mentor: [] },
  cores: navigator.hardwareConcurrency || 2,
});
