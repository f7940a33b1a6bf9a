import * as z from "zod";
import type { int } from "../../arithmetic";
import { outputKind } from "./OutputKind";

declare module "../engine/Engine" {
  interface RobotSide {
    gate(gate: int, opens: int): void;
  }
}

/** Opens a gate along the belt, or closes it. */
export const gate = outputKind<{ kind: "gate"; gate: string; open: boolean }, { gate: string; open: boolean }>({
  key: "gate",
  schema: z.object({ gate: z.string(), open: z.boolean() }),
  line: ({ gate, open }) => ({ gate, open }),
  command: ({ gate, open }) => ({ kind: "gate", gate, open }),
  heard: ({ naming }, gate: number, opens: number) => ({ kind: "gate", gate: naming.gates[gate], open: opens === 1 }),
  print: ({ gate, open }) => `gate ${gate} ${open ? "open" : "close"}`,
  tell: ({ gate, open }) => `${gate} ${open ? "opens" : "closes"}`,
  lasts: ({ gate }) => `gate ${gate}`,
  moves: ({ gate, open }, body) => body.gate?.(gate, open),
  fn: `fn robot_gate(gate: text, open: bool)
  "Opens or closes a gate."`,
  told: `fn tell_gate(gate: int, opens: int)
  robot_gate(IDS_OF_GATES[gate], opens == 1)`,
  on: {
    python: `def robot_gate(gate, is_open):
    """Opens or closes a gate."""
    tell({"gate": gate, "open": is_open})`,
    c: `/* Opens or closes a gate. */
static inline void robot_gate(const char *gate, bool is_open) {
  printf("{\\"gate\\": \\"%s\\", \\"open\\": %s}\\n", gate, is_open ? "true" : "false");
}`,
    javascript: `/** Opens or closes a gate. */
function robotGate(gate, isOpen) {
  tell({ gate, open: isOpen });
}`,
  },
});
