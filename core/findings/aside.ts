import type { ProjectDocument } from "../project";
import { type Finding, keyOf } from "./finding";

/** What is put aside is kept with the project. */
type Keeping = Pick<ProjectDocument, "putAside">;

type Aside = NonNullable<Keeping["putAside"]>[number];

/** Figures that change by more than this share make it another matter. */
const CHANGE = 0.25;

const figuresOf = ({ title, sentence }: Finding): number[] =>
  [...`${title} ${sentence}`.matchAll(/\d+(\.\d+)?/g)].map(([figure]) => Number(figure)).slice(0, 40);

const near = (a: number, b: number) => Math.abs(a - b) <= CHANGE * Math.max(Math.abs(a), Math.abs(b));

/** Whether a finding was put aside, and says now what it said then: no figure of it has changed by more than a quarter. */
export function isAside({ putAside = [] }: Keeping, finding: Finding): boolean {
  if (putAside.length === 0) return false;
  const known = putAside.find((aside) => aside.finding === keyOf(finding));
  if (known === undefined) return false;
  const figures = figuresOf(finding);
  return figures.length === known.figures.length && figures.every((figure, i) => near(figure, known.figures[i]));
}

/** The part of a finding that is kept when it is put aside: its key, and the figures that it has now. */
export const asideOf = (finding: Finding): Aside => ({ finding: keyOf(finding), figures: figuresOf(finding) });
