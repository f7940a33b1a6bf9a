import { expect, it } from "vitest";
import { glasshouseRound } from "../demo";
import { splitProject } from "../project";
import { talkThrough } from ".";

it("a behaviour is told mode by mode, in the names that people use", () => {
  const { document } = splitProject(glasshouseRound());
  const name = (id: string) => [...document.targets, ...document.sensors].find((x) => x.id === id)?.name ?? id;
  const talk = talkThrough(document.behaviour, name);
  expect(talk.map((t) => t.title)).toEqual([
    "Patrol, where it starts",
    "In the bay",
    "Along the line",
    "Astride the line",
    "The routine water",
  ]);
  expect(talk[0].sentences.slice(0, 2)).toEqual([
    "On entering, the robot does this: drive on at 35 %.",
    "When Coral tag arrives: stop, then light the lamp in Coral tag’s colour, blinking 2 times a second, then wait 2 s, then switch the lamp off, then drive on at 35 %.",
  ]);
  expect(talk[2].sentences).toContain(
    "When Side eye sees Coral tag arrive: say “thirsty ahead”, then write “a coral sign” into the log.",
  );
  expect(talk[3].sentences[0]).toContain("follow Chalk line with Left eye and Right eye astride at 20 %");
  expect(talk[1].sentences).toContain(
    "As soon as the count tally >= 2: stop, then light the lamp in Violet tag’s colour, then wait 0.5 s, then finish.",
  );
});
