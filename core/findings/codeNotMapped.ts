import type { TargetId } from "../names";
import { REPORT_KINDS, type Sensor } from "../readings";
import { type Finding, type FindingKind, nameOf } from "./finding";

/** Fewer readings than this may be strays. */
const FEW = 3;

/** A sensor says a code that stands for no target. */
export const codeNotMapped: FindingKind = {
  code: "code-not-mapped",
  find({ project, tapes }) {
    return project.sensors
      .filter((sensor) => REPORT_KINDS.get(sensor.reports).coded)
      .flatMap((sensor) => {
        const counts = new Map<number, number[]>();
        let first: { code: number; tape: (typeof tapes)[number]; index: number } | undefined;
        for (const tape of tapes.filter((t) => t.sensor.id === sensor.id)) {
          const codes = tape.block.column("code");
          codes.forEach((code, index) => {
            // 0 is what such sensors say of nothing.
            if (code === 0 || sensor.codes?.[code] !== undefined) return;
            const by = counts.get(code) ?? project.targets.map(() => 0).concat(0);
            by[tape.truth[index]]++;
            counts.set(code, by);
            first ??= { code, tape, index };
          });
        }
        return [...counts].flatMap(([code, by]): Finding[] => {
          const n = by.reduce((a, b) => a + b, 0);
          if (n < FEW) return [];
          const likely = likelyTarget(
            by,
            project.targets.map((t) => t.id),
          );
          return [
            {
              code: "code-not-mapped",
              level: "warning",
              title: `${sensor.name} says code ${code}, which stands for nothing`,
              sentence: `It came ${n} times${likely ? `, most often over what is marked as ${nameOf(project, likely)}` : ""}; until it is given a target it stays unknown.`,
              place: {
                stage: "sense",
                about: `${sensor.id} ${code}`,
                ...(first?.code === code && {
                  reading: { tape: first.tape.head.id, t: first.tape.block.t[first.index] },
                }),
              },
              ...(likely && {
                fix: {
                  label: `Map to ${nameOf(project, likely)}`,
                  change: {
                    sensor: sensor.id,
                    codes: { ...sensor.codes, [code]: likely } as NonNullable<Sensor["codes"]>,
                  },
                },
              }),
            },
          ];
        });
      });
  },
};

/** The target that more than half of a code's marked readings are of. */
function likelyTarget(by: readonly number[], targets: readonly TargetId[]): TargetId | undefined {
  const marked = by.slice(1);
  const sum = marked.reduce((a, b) => a + b, 0);
  const at = marked.findIndex((n) => n * 2 > sum);
  return at < 0 ? undefined : targets[at];
}
