import { gateName } from "@perceptum/core/behaviour";
import type { TargetId } from "@perceptum/core/names";
import {
  type Course,
  type DrawnCourse,
  laidOut,
  machineOf,
  paintsOf,
  type Robot,
  type Trace,
} from "@perceptum/core/world";
import { amount } from "../../ui/amount";

/** A piece where it is at a moment, its middle in mm from the belt's start and from its lower edge. */
export interface ScenePiece {
  piece: number;
  targets: readonly TargetId[];
  shape: DrawnCourse["patches"][number]["shape"];
  x: number;
  y: number;
}

/** A gate, from 0 for closed to 1 for open. */
export interface SceneGate {
  id: string;
  name: string;
  from: number;
  to: number;
  crate: string;
  open: number;
}

/** What lies in a crate: of each target how many, and whether they belong there. */
export interface SceneCrate {
  id: string;
  name: string;
  held: { target: TargetId; count: number; wrong: boolean }[];
}

/** All that moves along a belt at a moment of a run; without a run as it is before it begins. */
export interface BeltScene {
  pieces: ScenePiece[];
  gates: SceneGate[];
  crates: SceneCrate[];
  /** How many pieces gates have jammed. */
  jammed: number;
}

/** How open a gate is at time `t`, in ms, by what it was told. */
function openness(trace: Trace, gate: string, travelMs: number, t: number): number {
  let [open, since, from] = [false, 0, 0];
  const at = (until: number) => {
    const way = travelMs === 0 ? 1 : (until - since) / travelMs;
    return open ? Math.min(1, from + way) : Math.max(0, from - way);
  };
  for (const { t: told, command } of trace.outputs) {
    if (told > t) break;
    if (command.kind !== "gate" || command.gate !== gate) continue;
    from = at(told);
    [open, since] = [command.open, told];
  }
  return at(t);
}

export function beltScene(robot: Robot, course: Course | DrawnCourse, trace: Trace | null, t: number): BeltScene {
  const { gates = [], crates = [], end = "" } = machineOf(robot).belt ?? {};
  const laid = trace?.course ?? course;
  const gone = trace === null ? 0 : trace.x[Math.max(0, Math.min(trace.x.length - 1, Math.floor(t / trace.tickMs)))];
  const fallen = new Map<string, Map<TargetId, number>>();
  const away = new Set<number>();
  let jammed = 0;
  for (const note of trace?.notes ?? []) {
    if (note.t > t) break;
    if (note.kind !== "piece") continue;
    away.add(note.piece);
    if (note.into === null) jammed++;
    else {
      const held = fallen.get(note.into) ?? new Map<TargetId, number>();
      fallen.set(note.into, held.set(note.target, (held.get(note.target) ?? 0) + 1));
    }
  }
  return {
    pieces: laidOut(laid).patches.flatMap(({ shape, target, at }, piece): ScenePiece[] =>
      away.has(piece) ? [] : [{ piece, targets: paintsOf(target), shape, x: at[0] - gone, y: at[1] }],
    ),
    gates: gates.map(({ id, name, atMm, reachMm, crate, travelMs }) => ({
      id,
      name: gateName({ id, name }),
      crate,
      from: atMm - reachMm / 2,
      to: atMm + reachMm / 2,
      open: trace === null ? 0 : openness(trace, id, travelMs, t),
    })),
    crates: [...crates.filter((crate) => crate.id !== end), ...crates.filter((crate) => crate.id === end)].map(
      ({ id, name }) => ({
        id,
        name,
        held: [...(fallen.get(id) ?? [])].map(([target, count]) => ({
          target,
          count,
          wrong: trace?.belt !== undefined && trace.belt.belongs[target] !== id,
        })),
      }),
    ),
    jammed,
  };
}

/** A belt in words: what is on it, what fell where. */
export function tellBelt(
  { pieces, crates, gates, jammed }: BeltScene,
  long: number,
  name: (id: string) => string,
): string {
  const on = pieces.filter((piece) => piece.x >= 0 && piece.x <= long).length;
  const held = crates.flatMap((crate) =>
    crate.held.length === 0
      ? []
      : [`${crate.name} holds ${crate.held.map(({ target, count }) => `${count} ${name(target)}`).join(" and ")}`],
  );
  const open = gates.filter((gate) => gate.open > 0).map((gate) => gate.name);
  return [
    `${amount(on, "piece", "pieces")} on the belt`,
    ...held,
    ...(open.length > 0 ? [`open: ${open.join(", ")}`] : []),
    ...(jammed > 0 ? [`${amount(jammed, "piece", "pieces")} jammed`] : []),
  ].join("; ");
}

/** Where crates stand, by their middles: each as near as can be to where it is wished, none over another. */
export function spread(wished: readonly number[], wide: number, from: number, to: number): number[] {
  const order = wished.map((x, i) => ({ x, i })).sort((a, b) => a.x - b.x);
  const placed = order.map(({ x }) => Math.max(from + wide / 2, Math.min(to - wide / 2, x)));
  for (let k = 1; k < placed.length; k++) placed[k] = Math.max(placed[k], placed[k - 1] + wide);
  let most = to - wide / 2;
  for (let k = placed.length - 1; k >= 0; k--) {
    placed[k] = Math.min(placed[k], most);
    most = placed[k] - wide;
  }
  const made = new Array<number>(wished.length);
  order.forEach(({ i }, k) => {
    made[i] = placed[k];
  });
  return made;
}
