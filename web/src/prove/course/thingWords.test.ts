import type { CourseId, TargetId } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import { emptyCourse } from "@perceptum/core/world";
import { expect, it } from "vitest";
import { ADDABLE, type Addable, added } from "./courseEdit";
import { thingWords } from "./thingWords";

const coral = "coral" as TargetId;
const targets = new Map([[coral, { id: coral, name: "Coral tag", kind: "tag" } as Target]]);
const bare = emptyCourse("yard" as CourseId, "Yard", "floor" as TargetId);

const WORDS: Record<Addable, string> = {
  rect: "Coral tag, patch at 100, 60 cm",
  disc: "Coral tag, patch at 100, 60 cm",
  polygon: "Coral tag, patch at 100, 60 cm",
  line: "Coral tag, line from 70, 60 cm",
  sign: "Coral tag, sign at 100, 60 cm",
  zone: "Zone 1, zone at 100, 60 cm",
  shade: "Shade × 0.5 at 100, 60 cm",
  start: "Start 1, start at 100, 60 cm",
  card: "Coral tag, card at 0.5 s",
  press: "Button start-key at 1 s",
};

it.each(Object.keys(ADDABLE) as Addable[])("%s says what it is and where", (what) => {
  const made = added(bare, what, [...targets.values()], coral, "start-key");
  const said = made && thingWords(bare, made, targets);
  // Zones and starts take the first name that is free.
  expect(said?.replace(/^(Zone|Start) \d/, "$1 1")).toBe(WORDS[what]);
});

it("what is drawn by the seed names all that it may be", () => {
  const made = added(bare, "rect", [...targets.values()], coral, undefined);
  if (made === undefined) throw new Error("a patch cannot be added");
  const either = { ...made, thing: { ...made.thing, target: { oneOf: [coral, "teal" as TargetId] } } } as typeof made;
  expect(thingWords(bare, either, targets)).toBe("Coral tag or teal, patch at 100, 60 cm");
});

it("a button cannot be pressed where there is none", () => {
  expect(added(bare, "press", [...targets.values()], coral, undefined)).toBeUndefined();
});
