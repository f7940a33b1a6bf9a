import * as z from "zod";
import { percent } from "../../phrases";
import { runWheels } from "../engine/outputs";
import { stepKind } from "./StepKind";
import {
  brakeAfter,
  isOver,
  namedTravel,
  parseTravel,
  printTravel,
  straightFacts,
  Travel,
  tellTravel,
  travelArgs,
  travelling,
  travelUntil,
} from "./travel";

const schema = z.strictObject({
  step: z.literal("drive"),
  speed: z.number().min(-1).max(1),
  travel: Travel.optional(),
});

/** Straight ahead or back, at a share of top speed, until something changes it or for a while. */
export const drive = stepKind<z.infer<typeof schema>>({
  key: "drive",
  schema,
  needs: "drive",
  opening: "drive",
  templates: [
    "drive {speed 35} %",
    "drive {speed 35} % for {way 20} cm",
    "drive {speed -30} % for {way 10} cm",
    "drive {speed 35} % for {time 2} s",
    "drive {speed 35} % for {turns 2} rev",
    "drive {speed 35} % until {condition}",
  ],
  parse(reader) {
    reader.offer(["30 %", "-30 %"]);
    const speed = reader.takePercent("a speed");
    const travel = parseTravel(reader);
    return { step: "drive", speed, ...(travel && { travel }) };
  },
  print: ({ speed, travel }) => `drive ${percent(speed)} %${printTravel(travel)}`,
  tell: ({ speed, travel }, name) =>
    `drive ${speed < 0 ? "back" : "on"} at ${percent(Math.abs(speed))} %${tellTravel(travel, name)}`,
  acts: {
    drive: {
      takes: ["speed", "by", "amount"],
      begin: (e, speed) => runWheels(e, speed, speed),
      ended: (e, _, by, amount, until) => isOver(e, by, amount, until),
      end: (e, _, by) => brakeAfter(e, by),
    },
  },
  row: ({ speed, travel }) => ({ act: "drive", args: [speed, ...travelArgs(travel)], ...travelUntil(travel) }),
  ...travelling,
  named: ({ travel, ...rest }, visit) => ({ ...rest, ...namedTravel(travel, visit) }),
  facts: ({ speed, travel }) => ({ ...straightFacts(speed, travel), wheels: [speed, speed] }),
  paced: (step, to) => ({ ...step, speed: to(step.speed) }),
});
