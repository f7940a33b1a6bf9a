import { type LightId, numbered, type TargetId, type Unlisted } from "../names";
import type { Light, Mark } from "../readings";
import type { Target } from "../rules";

/** Labels of readings turned into marks, and the words among them that name nothing. */
export interface Labelled {
  marks: Mark[];
  /** Words that name no target, with how many readings have them; the commonest first. */
  unknown: { word: string; count: number }[];
}

const sameText = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** The thing that a word names: by id, name or, for targets, its code. */
function named<T extends { id: string; name: string; code?: string }>(
  things: readonly T[],
  word: string,
): T | undefined {
  return (
    things.find((x) => sameText(x.id, word) || sameText(x.name, word)) ?? things.find((x) => x.code === word.trim())
  );
}

/**
 * Marks from a label (and perhaps a light and a height) beside each reading: one mark for each run of readings whose
 * notes are the same. An empty label and `unknown` mark nothing.
 */
export function marksOfLabels(
  t: Float64Array,
  labels: readonly string[],
  targets: readonly Target[],
  lights: readonly Light[],
  notes: { lights?: readonly string[]; heights?: readonly number[] } = {},
): Labelled {
  const marks: Unlisted<Mark>[] = [];
  const unknown = new Map<string, number>();
  const known = new Map<string, TargetId | undefined>();
  const lightOf = new Map<string, LightId | undefined>();
  let [lastWord, lastLight, lastHeight]: [string, string, number | undefined] = ["", "", undefined];
  let marking = false;
  for (let i = 0; i < t.length; i++) {
    const word = labels[i];
    const lightWord = notes.lights?.[i] ?? "";
    const height = notes.heights?.[i];
    // Most readings are like the one before.
    const same = i > 0 && word === lastWord && lightWord === lastLight && Object.is(height, lastHeight);
    if (same && marking) {
      marks[marks.length - 1].to = t[i];
      continue;
    }
    [lastWord, lastLight, lastHeight] = [word, lightWord, height];
    if (!known.has(word)) known.set(word, named(targets, word)?.id);
    const target = known.get(word);
    marking = target !== undefined;
    if (target === undefined) {
      if (word !== "" && !sameText(word, "unknown")) unknown.set(word, (unknown.get(word) ?? 0) + 1);
      continue;
    }
    if (!lightOf.has(lightWord)) lightOf.set(lightWord, named(lights, lightWord)?.id);
    const light = lightOf.get(lightWord);
    marks.push({
      from: t[i],
      to: t[i],
      target,
      ...(light !== undefined && { light }),
      ...(height !== undefined && height >= 0 && height <= 1000 && { height }),
    });
  }
  const words = [...unknown].map(([word, count]) => ({ word, count })).sort((a, b) => b.count - a.count);
  return { marks: numbered("mark", marks), unknown: words };
}
