import { glasshouseRound } from "@perceptum/core/demo";
import { numbered } from "@perceptum/core/names";
import type { Project } from "@perceptum/core/project";

/** How many readings the long project has. */
export const READINGS = 200_000;

/** The most marks of a tape. */
const MOST_MARKS = 5000;

/** The demo with its noon tape repeated, marks and all, until it has so many readings. */
export function longProject(readings = READINGS): Project {
  const demo = glasshouseRound();
  const [, tape] = demo.tapes;
  const n = tape.readings.t.length;
  const length = tape.readings.t[n - 1] + 20;
  const column = (values: number[]) => Array.from({ length: readings }, (_, i) => values[i % n]);
  const rounds = Math.floor(readings / n);
  return {
    ...demo,
    name: "Long",
    tapes: [
      {
        ...tape,
        readings: {
          t: Array.from({ length: readings }, (_, i) => tape.readings.t[i % n] + Math.floor(i / n) * length),
          channels: Object.fromEntries(
            Object.entries(tape.readings.channels).map(([name, values]) => [name, column(values)]),
          ),
        },
        marks: numbered(
          "mark",
          Array.from({ length: rounds }, (_, k) =>
            tape.marks.map(({ id: _, ...m }) => ({ ...m, from: m.from + k * length, to: m.to + k * length })),
          )
            .flat()
            .slice(0, MOST_MARKS),
        ),
      },
    ],
  };
}
