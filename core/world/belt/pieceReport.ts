import { type BeltMachine, gateName, type NameOf, type Note } from "../../behaviour";
import { plainName, type TargetId } from "../../names";
import { at, sentence, thingWords, whyMissed } from "../checks/because";
import { passagesOver } from "../crossings";
import { type Trace, thingsOf } from "../trace";

/** What became of one piece. */
export interface PieceReport {
  /** Its place among the course's things, which is its place in the row. */
  piece: number;
  target: TargetId;
  /** Where it belongs: the crate that has its name, or the end crate. */
  wanted: string;
  /** The crate that it fell into, null where a gate jammed it; undefined while it is on the belt. */
  into: string | null | undefined;
  /** When that was, in ms. */
  t: number | undefined;
  gate: string | undefined;
}

type GateNote = Extract<Note, { kind: "gate" }>;
type PieceNote = Extract<Note, { kind: "piece" }>;

/** The words of a name, in any case, one or several of a thing alike. */
const wordsOf = (...names: string[]): Set<string> =>
  new Set(
    names.flatMap((name) =>
      plainName(name)
        .split(/[^\p{L}\p{N}]+/u)
        .filter((word) => word !== "")
        .map((word) => (word.length > 3 ? word.replace(/s$/, "") : word)),
    ),
  );

/**
 * The crate where each target belongs: the one that has in its name what tells the target from the others, as a
 * `Coral crate` has for a `Coral rim`. Of several it is the one that has most of it, and then the one that says least
 * beside. Otherwise it is the end crate.
 */
export function belongings(
  { crates, end }: BeltMachine,
  targets: readonly { id: TargetId; name: string }[],
): Record<TargetId, string> {
  const called = targets.map(({ id, name }) => wordsOf(id, name));
  const boxes = crates
    .filter((crate) => crate.id !== end)
    .map((crate) => ({ id: crate.id, words: wordsOf(crate.id, crate.name) }));
  return Object.fromEntries(
    targets.map(({ id }, i) => {
      const shared = (word: string) => called.some((words, k) => k !== i && words.has(word));
      const own = [...called[i]].filter((word) => !shared(word));
      const telling = own.length > 0 ? own : [...called[i]];
      const [best] = boxes
        .map(({ id: box, words }) => ({ box, has: telling.filter((word) => words.has(word)).length, all: words.size }))
        .filter(({ has }) => has > 0)
        .sort((a, b) => b.has - a.has || a.all - b.all);
      return [id, best?.box ?? end];
    }),
  );
}

/** Every piece of a run on a belt, in the order in which they come; none on another course. */
export function reportPieces(trace: Trace): PieceReport[] {
  const { belt } = trace;
  if (belt === undefined) return [];
  const fates = new Map(
    trace.notes.flatMap((note): [number, PieceNote][] => (note.kind === "piece" ? [[note.piece, note]] : [])),
  );
  return thingsOf(trace.course).flatMap(({ kind, target }, piece): PieceReport[] => {
    if (kind !== "piece") return [];
    const fate = fates.get(piece);
    return [
      { piece, target, wanted: belt.belongs[target] ?? belt.end, into: fate?.into, t: fate?.t, gate: fate?.gate },
    ];
  });
}

/** Why a piece is not where it belongs; undefined where it is, or is still on the belt. */
export function whySorted(trace: Trace, report: PieceReport, name: NameOf): string | undefined {
  const { belt } = trace;
  const { piece, into, wanted, t, gate } = report;
  if (belt === undefined || into === undefined || t === undefined || into === wanted) return undefined;
  const crate = (id: string) => belt.crates.find((c) => c.id === id)?.name ?? id;
  const moved = movesOf(trace).filter((note) => note.t <= t);
  if (into === null) {
    const last = moved.filter((note) => note.gate === gate).at(-1);
    const does = last?.open ? "opened beneath it" : "closed on it";
    return sentence(`${gateCalled(trace, gate)} ${does} at ${at(t)}`, last && movedFor(trace, last, piece, name));
  }
  if (gate !== undefined) {
    const opened = moved.filter((note) => note.gate === gate && note.open).at(-1);
    return sentence(`it fell into ${crate(into)} at ${at(t)}`, opened && openedFor(trace, opened, piece, name));
  }
  return sentence(`it went on to ${crate(into)}`, whyNotTaken(trace, report, name));
}

/** A gate as people know it. */
function gateCalled({ belt }: Trace, id: string | undefined): string {
  const gate = belt?.gates.find((g) => g.id === id);
  return gate === undefined ? (id ?? "a gate") : gateName(gate);
}

const movesOf = ({ notes }: Trace): GateNote[] => notes.filter((note) => note.kind === "gate");

/** Where the middle of a piece was at a time, in mm from the belt's start. */
const whereAt = ({ course, x, tickMs }: Trace, piece: number, t: number): number =>
  course.patches[piece].at[0] - x[Math.min(x.length - 1, Math.round(t / tickMs))];

const answeredWhen = (trace: Trace, { response, fired }: GateNote) =>
  trace.answers.find((answer) => answer.response === response && answer.t === fired);

/** For which piece a gate was moved, where that is another one. */
function movedFor(trace: Trace, note: GateNote, piece: number, name: NameOf): string | undefined {
  const meant = answeredWhen(trace, note)?.patch;
  if (meant === undefined) return undefined;
  return meant === piece ? "that was meant for this piece" : `that was meant for ${thingWords(trace, meant, name)}`;
}

/** When and for which piece the gate opened that a piece fell through, and where the piece then was. */
function openedFor(trace: Trace, note: GateNote, piece: number, name: NameOf): string {
  const answer = answeredWhen(trace, note);
  const gate = trace.belt?.gates.find((g) => g.id === note.gate);
  const before = (gate?.atMm ?? 0) - whereAt(trace, piece, note.t);
  const where = `when this piece was ${Math.abs(before).toFixed(0)} mm ${before < 0 ? "behind" : "before"} its middle`;
  const opened = `${gateCalled(trace, note.gate)} had been opened at ${at(note.t)}`;
  if (answer?.patch === piece) return `${opened} for it: it was taken for ${name(answer.target)}`;
  return answer?.patch === undefined
    ? `${opened}, ${where}`
    : `${opened} for ${thingWords(trace, answer.patch, name)}, ${where}`;
}

/** Why no gate took a piece that belongs behind one. */
function whyNotTaken(trace: Trace, { piece, target, wanted, t = trace.endMs }: PieceReport, name: NameOf): string {
  const answers = trace.answers.filter((answer) => answer.patch === piece);
  const wrong = answers.find((answer) => answer.target !== target);
  if (answers.length === 0) {
    const [passage] = passagesOver(trace, piece, new Set(trace.eyes.keys()));
    return passage === undefined ? "no sensor saw it" : `it was not answered: ${whyMissed(trace, passage, name)}`;
  }
  if (wrong !== undefined && answers.every((answer) => answer.target !== target))
    return `it was taken for ${name(wrong.target)} at ${at(wrong.t)}`;
  const gate = trace.belt?.gates.find((g) => g.crate === wanted);
  if (gate === undefined) return "no gate leads where it belongs";
  const passed = trace.x.findIndex((_, i) => whereAt(trace, piece, i * trace.tickMs) >= gate.atMm) * trace.tickMs;
  const [answer] = answers;
  const next = movesOf(trace).find((note) => note.gate === gate.id && note.open && note.t > answer.t && note.t <= t);
  if (next === undefined) return `it was seen at ${at(answer.t)}, and ${gateName(gate)} did not open for it`;
  const beyond = whereAt(trace, piece, next.t) - gate.atMm;
  return beyond > 0
    ? `it was seen at ${at(answer.t)}, and passed ${gateName(gate)} at ${at(passed)}, which opened at ${at(next.t)}, when it was ${beyond.toFixed(0)} mm past it`
    : `it was seen at ${at(answer.t)}; ${gateName(gate)} opened at ${at(next.t)} and was closed again before it was wholly within reach`;
}
