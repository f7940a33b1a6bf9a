import type { DidSpan } from "@perceptum/core/behaviour";
import type { Unlisted } from "@perceptum/core/names";
import type { Mark } from "@perceptum/core/readings";
import type { SeenSpan, Target } from "@perceptum/core/rules";

/** What lies below, as far as an instant of it is told. */
export interface Told {
  indexAt(t: number): number;
  targets: readonly Target[];
  marks: readonly Unlisted<Mark>[];
  spans: readonly SeenSpan[];
  did: readonly DidSpan[];
}

/** An instant of the lanes in words, for those who do not see them: `5.82 seconds; truth Coral tag; saw Coral tag; did stop`. */
export function tellMoment(t: number, { indexAt, targets, marks, spans, did }: Told): string {
  const name = (target: Target | undefined) => target?.name ?? "unknown";
  const index = indexAt(t);
  const mark = marks.findLast(({ from, to }) => from <= t && t <= to);
  const seen = spans.find(({ from, to }) => from <= index && index <= to);
  const doing = did.find(({ from, to }) => from <= t && t < to);
  return [
    `${(t / 1000).toFixed(2)} seconds`,
    ...(mark === undefined ? [] : [`truth ${name(targets.find((x) => x.id === mark.target))}`]),
    `saw ${seen === undefined ? "nothing known" : name(targets[seen.target - 1])}`,
    ...(doing === undefined ? [] : [`did ${doing.text}`]),
  ].join("; ");
}
