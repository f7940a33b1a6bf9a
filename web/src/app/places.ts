import type { Progress, StageId } from "../model/stages";

/** Where one was in a project, and how far it was, as this browser last saw it. */
export interface LastVisit {
  stage: StageId;
  tape: string | null;
  course: string | null;
  /** How far each stage was. */
  progress?: Record<StageId, Progress>;
  /** How the checks of the last run came out, and when that was, in ms. */
  checks?: { holding: number; of: number; at: number };
}

const keyOf = (project: string) => `perceptum.place.${project}`;

/** Where one was in a project; nothing where it was not opened in this browser, or what is kept cannot be read. */
export function placeIn(project: string): LastVisit | undefined {
  try {
    return (JSON.parse(localStorage.getItem(keyOf(project)) ?? "null") as LastVisit | null) ?? undefined;
  } catch {
    return undefined;
  }
}

/** Keeps a part of it. A browser that keeps nothing opens every project at its beginning. */
export function keepPlace(project: string, part: Partial<LastVisit>): void {
  try {
    const before = placeIn(project) ?? { stage: "sense", tape: null, course: null };
    localStorage.setItem(keyOf(project), JSON.stringify({ ...before, ...part }));
  } catch {
    // Nothing is lost but the way back.
  }
}

/** A project that is deleted leaves no place. */
export function forgetPlace(project: string): void {
  try {
    localStorage.removeItem(keyOf(project));
  } catch {
    // As above.
  }
}
