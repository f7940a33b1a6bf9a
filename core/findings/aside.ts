import type { ProjectDocument } from "../project";
import { type Finding, keyOf } from "./finding";

/** What is put aside is kept with the project. */
type Keeping = Pick<ProjectDocument, "putAside">;

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

/** The project with a finding put aside. */
export function putAside<P extends Keeping>(project: P, finding: Finding): P {
  const aside = { finding: keyOf(finding), figures: figuresOf(finding) };
  const others = takenBack(project, finding);
  return { ...others, putAside: [...(others.putAside ?? []), aside] };
}

/** The project with a finding no longer put aside. */
export function takenBack<P extends Keeping>(project: P, finding: Finding): P {
  const left = (project.putAside ?? []).filter((aside) => aside.finding !== keyOf(finding));
  const { putAside: _, ...rest } = project;
  return (left.length === 0 ? rest : { ...rest, putAside: left }) as P;
}
