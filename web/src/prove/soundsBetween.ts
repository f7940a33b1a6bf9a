import type { Trace } from "@perceptum/core/world";

/** A jump of the playhead so much farther than the time that has passed lets it go is no playing, in ms. */
const JUMP_MS = 1500;

export interface Sounding {
  hertz: number;
  ms: number;
}

/**
 * What a run's outputs sound between two places of the playhead, each as tones one after the other; nothing where it
 * was moved and not played. A page that is slow plays in large steps, and is heard all the same.
 *
 * @param passedMs how long it took from one place to the other
 */
export function soundsBetween(
  outputs: Trace["outputs"],
  from: number,
  to: number,
  passedMs: number,
  speed: number,
): (readonly Sounding[])[] {
  if (to <= from || to - from > JUMP_MS + passedMs * speed) return [];
  return outputs.flatMap(({ t, command }) => {
    if (t <= from || t > to) return [];
    return command.kind === "tone" ? [[command]] : command.kind === "tune" ? [command.tones] : [];
  });
}
