import type { ResponseId } from "../names";
import type { EngineState, Sent } from "./engineState";
import type { Program } from "./program";

/** A gate that moves, and for which response, which fired at that time in ms. */
export interface GateMove {
  gate: string;
  open: boolean;
  response: ResponseId | null;
  fired: number | null;
}

/**
 * The piece that fired, on its way to the gate of a crate: at which places of the belt that gate opens and closes. A
 * sentence where there is no such piece or gate; undefined for the end crate, where everything goes by itself.
 */
export function sentTo(program: Program, state: EngineState, crate: string): Sent | string | undefined {
  const { belt, eyes, topSpeed } = program;
  if (belt === undefined || crate === belt.end) return undefined;
  const { piece = null } = state.activity?.frame ?? {};
  if (piece === null) return `no piece fired that could be sent to ${crate}`;
  const sees = belt.looksAt[piece.eye];
  const gate = belt.gates.find((g) => g.crate === crate && g.atMm > sees);
  if (gate === undefined) return `no gate behind the sensor leads to ${crate}`;
  const { optics, periodMs } = eyes[piece.eye].sensor;
  // With its first reading the piece's edge lay within the spot, or has gone on for at most a period since.
  const slack = optics.spotMm / 2 + (Math.abs(state.wheels?.left ?? 0) * topSpeed * periodMs) / 1000;
  return {
    gate: gate.id,
    openAt: piece.way + gate.atMm - gate.reachMm / 2 - sees - slack,
    closeAt: piece.way + gate.atMm + gate.reachMm / 2 - sees,
    opened: false,
    response: state.activity?.response?.id ?? null,
    fired: piece.t,
  };
}

/** A belt whose speed nobody regulates may run faster than it was told: a gate begins so much sooner. */
export const GATE_RESERVE = 1.1;

/** The belt's longest way while a gate opens or closes, in mm: by its told speed, with the reserve. */
function leadOf({ belt, topSpeed }: Program, { wheels }: EngineState, gate: string): number {
  const travelMs = belt?.gates.find((g) => g.id === gate)?.travelMs ?? 0;
  return (Math.max(0, wheels?.left ?? 0) * topSpeed * travelMs * GATE_RESERVE) / 1000;
}

/** Which gates move for what was sent once the belt has gone `way` mm, in their order, and what is under way then. */
export function gateMoves(program: Program, state: EngineState, way: number): { moves: GateMove[]; sent: Sent[] } {
  const leadOfGate = (gate: string) => leadOf(program, state, gate);
  const moves: GateMove[] = [];
  const opened = state.sent.map((s): Sent => {
    if (s.opened || way < s.openAt - leadOfGate(s.gate)) return s;
    moves.push({ gate: s.gate, open: true, response: s.response, fired: s.fired });
    return { ...s, opened: true };
  });
  const hasPassed = (s: Sent) => s.opened && way >= s.closeAt;
  const sent = opened.filter((s) => !hasPassed(s));
  for (const { gate, response, fired } of opened.filter(hasPassed)) {
    // It stays open for another that comes sooner than it could close and open again.
    const lead = leadOfGate(gate);
    if (sent.some((s) => s.gate === gate && (s.opened || s.openAt - lead <= way + lead))) continue;
    moves.push({ gate, open: false, response, fired });
  }
  return { moves, sent };
}

/** How far the belt must have gone, in mm, for the next gate to move for what was sent. */
export function nextGateAt(program: Program, state: EngineState): number {
  let due = Number.POSITIVE_INFINITY;
  for (const s of state.sent) due = Math.min(due, s.opened ? s.closeAt : s.openAt - leadOf(program, state, s.gate));
  return due;
}
