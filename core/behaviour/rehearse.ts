import type { TargetId } from "../names";
import { type RawReadings, REPORT_KINDS } from "../readings";
import type { Blob } from "../vision";
import { advance } from "./engine";
import { type Note, startState } from "./engineState";
import { wheelSpeeds } from "./outputs";
import type { Program } from "./program";

/** More than this nobody reads, and the page could not show. */
const MOST_NOTES = 50_000;

/**
 * What the behaviour does on a tape: its readings are put through rules and engine, and the wheels go exactly as
 * they are told, at `topSpeed` mm/s. No time passes but the tape's own. For a camera `blobsAt` gives what its frames hold.
 */
export function rehearse(
  program: Program,
  eye: number,
  readings: RawReadings,
  topSpeed: number,
  blobsAt?: (i: number) => ReadonlyMap<TargetId, Blob>,
): Note[] {
  const { t, channels } = readings;
  const columns = REPORT_KINDS.get(program.eyes[eye].sensor.reports).channels.map((name) => channels[name]);
  const notes: Note[] = [];
  const travel = { left: 0, right: 0 };
  const speed = { left: 0, right: 0 };
  const state = startState(program);
  for (let i = 0; i < t.length && !state.finished; i++) {
    const dt = i === 0 ? 0 : t[i] - t[i - 1];
    travel.left += speed.left * topSpeed * (dt / 1000);
    travel.right += speed.right * topSpeed * (dt / 1000);
    const raw = columns.map((column) => column?.[i] ?? Number.NaN);
    const came = blobsAt ? { readings: [], blobs: [{ eye, blobs: blobsAt(i) }] } : { readings: [{ eye, raw }] };
    const moment = advance(state, { ...came, travel: { ...travel } }, i === 0 ? t[0] : dt);
    for (const command of moment.commands) Object.assign(speed, wheelSpeeds(command));
    for (const note of moment.notes) notes.push(note);
    if (notes.length > MOST_NOTES) {
      notes.push({ t: t[i], kind: "trouble", text: `more than ${MOST_NOTES} things happen; the rest is left out` });
      break;
    }
  }
  return notes;
}
