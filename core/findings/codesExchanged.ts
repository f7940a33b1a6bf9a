import type { TargetId } from "../names";
import { REPORT_KINDS, type Sensor } from "../readings";
import { type Finding, type FindingKind, nameOf } from "./finding";

/** So large a share of a target's readings must carry another's code. */
const MOST = 0.8;
const FEW = 5;

/** A sensor's code stands for one target where the marks say another: two have been exchanged. */
export const codesExchanged: FindingKind = {
  code: "codes-exchanged",
  find({ project, tapes }) {
    return project.sensors
      .filter((sensor) => REPORT_KINDS.get(sensor.reports).coded)
      .flatMap((sensor): Finding[] => {
        const codes: Partial<Record<string, TargetId>> = sensor.codes ?? {};
        /** The target that most readings with a code are marked as, with how many. */
        const meant = new Map<string, { target: TargetId; n: number; of: number }>();
        for (const code of Object.keys(codes)) {
          const counts = project.targets.map(() => 0);
          for (const tape of tapes.filter((t) => t.sensor.id === sensor.id)) {
            const column = tape.block.column("code");
            for (let i = 0; i < column.length; i++)
              if (tape.truth[i] > 0 && String(column[i]) === code) counts[tape.truth[i] - 1]++;
          }
          const of = counts.reduce((a, b) => a + b, 0);
          const most = Math.max(...counts);
          if (of >= FEW && most >= MOST * of)
            meant.set(code, { target: project.targets[counts.indexOf(most)].id, n: most, of });
        }
        const wrong = [...meant].filter(([code, { target }]) => codes[code] !== target);
        if (wrong.length === 0) return [];
        const [[code, { target, n, of }]] = wrong;
        const next = { ...codes, ...Object.fromEntries(wrong.map(([c, m]) => [c, m.target])) };
        const others =
          wrong.length > 1 ? ` So ${wrong.length === 2 ? "is one other" : `are ${wrong.length - 1} others`}.` : "";
        return [
          {
            code: "codes-exchanged",
            level: "error",
            title: `Code ${code} of ${sensor.name} stands for the wrong target`,
            sentence: `${n} of its ${of} marked readings are of ${nameOf(project, target)}, and it is mapped to ${nameOf(project, codes[code] as TargetId)}.${others}`,
            place: { stage: "sense", about: sensor.id },
            fix: { label: "Map as marked", change: { sensor: sensor.id, codes: next as NonNullable<Sensor["codes"]> } },
          },
        ];
      });
  },
};
