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
  Travel,
  tellTravel,
  travelArgs,
  travelling,
  travelUntil,
} from "./travel";

const Speed = z.number().min(-1).max(1);
const schema = z.strictObject({ step: z.literal("wheels"), left: Speed, right: Speed, travel: Travel.optional() });

/** Each wheel at its own share of top speed. */
export const wheels = stepKind<z.infer<typeof schema>>({
  key: "wheels",
  schema,
  needs: "turn",
  opening: "wheels",
  templates: [
    "wheels {left 40} % {right 10} %",
    "wheels {left 40} % {right 10} % for {time 1.5} s",
    "wheels {left 40} % {right 10} % for {way 20} cm",
    "wheels {left 40} % {right 10} % until {condition}",
  ],
  parse(reader) {
    const left = reader.takePercent("the left wheel's speed");
    const right = reader.takePercent("the right wheel's speed");
    const travel = parseTravel(reader);
    return { step: "wheels", left, right, ...(travel && { travel }) };
  },
  print: ({ left, right, travel }) => `wheels ${percent(left)} % ${percent(right)} %${printTravel(travel)}`,
  tell: ({ left, right, travel }, name) =>
    `run the left wheel at ${percent(left)} % and the right one at ${percent(right)} %${tellTravel(travel, name)}`,
  acts: {
    wheels: {
      takes: ["left", "right", "by", "amount"],
      begin: (e, left, right) => runWheels(e, left, right),
      ended: (e, _, __, by, amount, until) => isOver(e, by, amount, until),
      end: (e, _, __, by) => brakeAfter(e, by),
    },
  },
  row: ({ left, right, travel }) => ({
    act: "wheels",
    args: [left, right, ...travelArgs(travel)],
    ...travelUntil(travel),
  }),
  ...travelling,
  named: ({ travel, ...rest }, visit) => ({ ...rest, ...namedTravel(travel, visit) }),
  facts: ({ left, right, travel }) => ({
    wheels: [left, right],
    leavesMoving: travel === undefined && (left !== 0 || right !== 0),
    goesOn: travel === undefined,
  }),
});
