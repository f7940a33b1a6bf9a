import { glasshouseRound } from "@perceptum/core/demo";
import type { Project } from "@perceptum/core/project";

/** How many readings the long project has. */
export const READINGS = 200_000;

/** The demo with its noon tape repeated, marks and all, until it has 200 000 readings. */
export function longProject(): Project {
  const demo = glasshouseRound();
  const [, tape] = demo.tapes;
  const n = tape.readings.t.length;
  const length = tape.readings.t[n - 1] + 20;
  const column = (values: number[]) => Array.from({ length: READINGS }, (_, i) => values[i % n]);
  const rounds = Math.floor(READINGS / n);
  return {
    ...demo,
    name: "Long",
    tapes: [
      {
        ...tape,
        readings: {
          t: Array.from({ length: READINGS }, (_, i) => tape.readings.t[i % n] + Math.floor(i / n) * length),
          channels: Object.fromEntries(
            Object.entries(tape.readings.channels).map(([name, values]) => [name, column(values)]),
          ),
        },
        marks: Array.from({ length: rounds }, (_, k) =>
          tape.marks.map((m) => ({ ...m, from: m.from + k * length, to: m.to + k * length })),
        ).flat(),
      },
    ],
  };
}
