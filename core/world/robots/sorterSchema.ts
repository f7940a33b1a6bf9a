import * as z from "zod";
import { Id, Name } from "../../names";
import { looksAhead, Motor, onAnyRobot } from "./parts";

const Positive = z.number().positive();

/** Diverts pieces: its middle lies `atMm` from the belt's start, and open it clears `reachMm` of belt into its crate. */
export const Gate = z.strictObject({
  id: Id,
  /** The name that people know it by; its id where it has none. */
  name: Name.optional(),
  atMm: z.number().min(0).max(100_000),
  crate: Id,
  /** To open, and again to close. */
  travelMs: z.number().min(0).max(10_000),
  reachMm: Positive.max(2000),
});

export const Crate = z.strictObject({ id: Id, name: Name });

/** A belt with sensors over it, and gates along it that lead to crates. */
export const SorterRobot = z
  .strictObject({
    ...onAnyRobot,
    kind: z.literal("sorter"),
    belt: Motor,
    rollerMm: Positive.max(1000),
    gates: z.array(Gate).max(20),
    crates: z.array(Crate).min(1).max(21),
    /** Where goes what nobody took. */
    end: Id,
  })
  .superRefine(({ mounts, gates, crates, end }, context) => {
    const wrong = (message: string, ...path: (string | number)[]) =>
      context.addIssue({ code: "custom", message, path });
    const known = new Set(crates.map((crate) => crate.id));
    if (!known.has(end)) wrong(`the end crate “${end}” is none of the crates`, "end");
    // A tilted sensor looks at the belt before its mount, or behind it.
    const first = Math.min(...mounts.map((mount) => mount.x + looksAhead(mount)));
    gates.forEach(({ id, name = id, atMm, crate, reachMm }, i) => {
      if (!known.has(crate)) wrong(`${name} leads to the crate “${crate}”, which is not there`, "gates", i, "crate");
      if (atMm - reachMm / 2 <= first)
        wrong(
          `${name} begins ${atMm - reachMm / 2} mm along the belt and every sensor looks at ${Math.round(first * 10) / 10} mm or later: a piece passes the gate before it is seen`,
          "gates",
          i,
          "atMm",
        );
    });
  });
export type SorterRobot = z.infer<typeof SorterRobot>;
