import * as z from "zod";
import { Id } from "../../names";
import { sendPiece, setGate } from "../engine/belt";
import { stepKind } from "./StepKind";

const schema = z.strictObject({ step: z.literal("gate"), gate: Id, to: z.enum(["open", "close"]) });

/** Opens a gate along the belt, or closes it; the next step follows at once. */
export const gate = stepKind<z.infer<typeof schema>>({
  key: "gate",
  schema,
  needs: "sort",
  opening: "gate",
  templates: ["gate {gates} open", "gate {gates} close"],
  parse(reader) {
    const name = reader.takeName("gates");
    const to = reader.skip("open") ? "open" : reader.skip("close") ? "close" : reader.fail("open or close");
    return { step: "gate", gate: name, to };
  },
  print: ({ gate, to }) => `gate ${gate} ${to}`,
  tell: ({ gate, to }, name) => `${to} ${name(gate)}`,
  acts: { gate: { takes: ["gate", "opens"], begin: setGate } },
  row: ({ gate, to: way }, to) => ({ act: "gate", args: [to.gate(gate), way === "open" ? 1 : 0] }),
  named: (step, visit) => ({ ...step, gate: visit("gate", step.gate, "gate") }),
  facts: ({ gate, to }) => ({ moves: { gate, open: to === "open" } }),
});

const sendSchema = z.strictObject({ step: z.literal("send"), crate: Id });

/**
 * Lets the piece that fired go into a crate: its way from the sensor to that crate's gate is measured on the belt, the
 * gate opens in time and closes behind it, however many pieces are under way. The next step follows at once.
 */
export const send = stepKind<z.infer<typeof sendSchema>>({
  key: "send",
  schema: sendSchema,
  needs: "sort",
  opening: "send",
  templates: ["send to {crates}"],
  parse(reader) {
    reader.take("to");
    return { step: "send", crate: reader.takeName("crates") };
  },
  print: ({ crate }) => `send to ${crate}`,
  tell: ({ crate }, name) => `send the piece just seen to ${name(crate)}`,
  acts: {
    send: { takes: ["crate"], begin: sendPiece },
    /** Everything goes to the end crate by itself. */
    "let go on": { takes: [] },
  },
  row({ crate }, to) {
    const place = to.crate(crate);
    return place < 0 ? { act: "let go on", args: [] } : { act: "send", args: [place] };
  },
  named: (step, visit) => ({ ...step, crate: visit("crate", step.crate, "crate") }),
  facts: ({ crate }) => ({ sendsTo: crate }),
});
