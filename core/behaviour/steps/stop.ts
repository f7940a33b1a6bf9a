import * as z from "zod";
import { stopWheels } from "../engine/outputs";
import { stepKind } from "./StepKind";

const schema = z.strictObject({ step: z.literal("stop"), coast: z.boolean().optional() });

/** Brakes, or lets the wheels run out. */
export const stop = stepKind<z.infer<typeof schema>>({
  key: "stop",
  schema,
  opening: "stop",
  templates: ["stop", "stop coast"],
  parse: (reader) => (reader.skip("coast") ? { step: "stop", coast: true } : { step: "stop" }),
  print: ({ coast }) => (coast ? "stop coast" : "stop"),
  tell: ({ coast }) => (coast ? "let the wheels coast" : "stop"),
  acts: { stop: { takes: ["coasts"], begin: stopWheels } },
  row: ({ coast }) => ({ act: "stop", args: [coast ? 1 : 0] }),
  facts: () => ({ leavesMoving: false }),
});
