import type { ProjectDocument } from "../project";
import type { ReadingsByTape } from "../readings";
import { judgeTapes, markedTapes } from "../teaching";
import type { FrameFacts } from "../vision";
import { cameToItsEnd, RunError, run, verdicts } from "../world";
import { findAll } from "./findAll";
import { type Finding, keyOf } from "./finding";
import { applyFix, type FixChange } from "./fix";

/** What a project is like, so far as a fix may make it worse. */
interface Quality {
  keys: ReadonlySet<string>;
  /** Errors and warnings. */
  grave: ReadonlySet<string>;
  /** The share of marked readings that are judged rightly; 1 where none is marked. */
  share: number;
  /** The checks that hold, by course and place. */
  holding: ReadonlySet<string>;
}

function standingOf(project: ProjectDocument, readings: ReadingsByTape, withRuns: boolean): Quality {
  const tapes = markedTapes(project, readings);
  const findings = findAll({ project, tapes });
  const { marked, right } = judgeTapes(project, tapes).score;
  return {
    keys: new Set(findings.map(keyOf)),
    grave: new Set(findings.filter((f) => f.level !== "hint").map(keyOf)),
    share: marked === 0 ? 1 : right / marked,
    holding: withRuns ? holdingChecks(project) : new Set(),
  };
}

/** The checks that hold on a run of each course that comes to its end, from its first start in the first light. */
function holdingChecks(project: ProjectDocument): Set<string> {
  const holding = new Set<string>();
  for (const course of project.courses) {
    if (course.checks.length === 0) continue;
    try {
      const trace = run(project, { course: course.id });
      // A run that went astray keeps some checks by never coming to them: that is nothing to be kept.
      if (!cameToItsEnd(trace.ending)) continue;
      verdicts(trace).forEach(({ verdict }, i) => {
        if (verdict.outcome === "holds") holding.add(`${course.id} ${i}`);
      });
    } catch (error) {
      if (!(error instanceof RunError)) throw error;
    }
  }
  return holding;
}

/** What lets so much more be judged rightly lets other faults come to light. */
const REVEALS = 0.1;

/** Tries fixes of one project's findings, one after the other. What it is like before is worked out once. */
export class FixTrial {
  private before: Quality | undefined;

  constructor(
    private readonly project: ProjectDocument,
    private readonly readings: ReadingsByTape,
  ) {}

  /**
   * Whether a finding's fix mends: with it made the finding goes, no error or warning comes, no smaller share of marked
   * readings is judged rightly, and every check that held goes on holding. Where far more is judged rightly than before,
   * others may come: they were hidden by what is mended.
   */
  mends(finding: Finding, change: FixChange): boolean {
    this.before ??= standingOf(this.project, this.readings, true);
    const { before } = this;
    const after = standingOf(applyFix(this.project, change), this.readings, before.holding.size > 0);
    return (
      !after.keys.has(keyOf(finding)) &&
      (after.share > before.share + REVEALS || [...after.grave].every((key) => before.grave.has(key))) &&
      after.share >= before.share - 1e-9 &&
      [...before.holding].every((check) => after.holding.has(check))
    );
  }

  /** The finding with its fix where that mends, and without it where it does not. */
  proven(finding: Finding): Finding {
    if (finding.fix === undefined || this.mends(finding, finding.fix.change)) return finding;
    const { fix: _, ...rest } = finding;
    return rest;
  }
}

/** All findings of a project, each fix tried before it is offered. */
export function findProven(
  project: ProjectDocument,
  readings: ReadingsByTape,
  frames: readonly FrameFacts[] = [],
): Finding[] {
  const trial = new FixTrial(project, readings);
  return findAll({ project, tapes: markedTapes(project, readings), frames }).map((finding) => trial.proven(finding));
}
