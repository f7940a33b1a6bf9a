import { WorkerGone } from "./WorkerLink";

/** A hearer of errors for each thing that could not be done: “The readings could not be judged”. */
export type Failed = (what: string) => (error: unknown) => undefined;

/** Has the person told of work that failed. A worker that broke off tells of itself, and what was cancelled is no error. */
export const failedBy =
  (tell: (sentence: string) => void): Failed =>
  (what) =>
  (error) => {
    if (error instanceof WorkerGone) return undefined;
    const why = error instanceof Error ? error.message : String(error);
    tell(`${what} (${why}). What is shown may be older; your project is untouched.`);
    return undefined;
  };
