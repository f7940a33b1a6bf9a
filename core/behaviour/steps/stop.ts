import * as z from "zod";
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
  begin: ({ coast }, scene) => scene.stop(coast ? "coast" : "brake"),
  code: ({ coast }) => ({ begin: `stop_wheels("${coast ? "coast" : "brake"}")` }),
  facts: () => ({ leavesMoving: false }),
});
