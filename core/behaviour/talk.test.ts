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

it("what a routine takes is told, and what it is given", () => {
  const { document } = splitProject(glasshouseRound());
  const [{ steps, ...water }] = document.behaviour.routines;
  const inputs = [
    { name: "span", kind: "time" as const, value: "2 s" },
    { name: "mark", kind: "target" as const, value: "coral" },
  ];
  const given = [{ input: "mark", kind: "target" as const, value: "teal" }];
  const [patrol, ...modes] = document.behaviour.modes;
  const entering = [{ id: "step-1" as never, step: "do" as const, routine: "water", with: given }];
  const behaviour = {
    ...document.behaviour,
    modes: [{ ...patrol, entering }, ...modes],
    routines: [{ ...water, inputs, steps }],
  };
  const talk = talkThrough(behaviour, (id) => document.targets.find((target) => target.id === id)?.name ?? id);
  expect(talk[0].sentences[0]).toBe("On entering, the robot does this: do the routine water with mark Teal tag.");
  expect(talk.at(-1)?.sentences[0]).toBe(
    "It takes span, a time (2 s where none is given), mark, a target (Coral tag where none is given).",
  );
});
