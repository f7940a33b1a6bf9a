import { at } from "@perceptum/contract/paths";
import type { TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import { decodeReadings, encodeReadings, type RawReadings, type TapeHead } from "@perceptum/core/readings";
import { type BoxPixels, taughtReadings, taughtTapes } from "@perceptum/core/vision";
import { problemIn, problemOf } from "../../server/api";
import { ask } from "../../server/ask";
import { Published } from "../Published";

/** The ids of a project's tapes. */
export const tapesOf = ({ tapes }: Pick<ProjectDocument, "tapes">): TapeId[] => tapes.map(({ id }) => id);

/** The server did not take readings. */
export class NotTaken extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** The title of the server's problem where the database is damaged at one place. */
const DAMAGED = "Damaged";
/** Readings that are not sent for longer than this are tried again later, in ms. */
const SEND_LIMIT_MS = 60_000;

/**
 * The raw readings of one project, by tape. They are large and stay out of Redux. New ones are here at once and go to
 * the server before the first document that names them.
 */
export class Readings {
  private readonly tapes = new Map<TapeId, RawReadings>();
  private readonly onlyHere = new Set<TapeId>();
  /** Of cameras' tapes the pixels of their boxes, as far as they are known. */
  private readonly boxed = new Map<TapeId, BoxPixels>();
  private taught: {
    tapes: readonly TapeHead[];
    version: number;
    heads: TapeHead[];
    readings: ReadonlyMap<TapeId, RawReadings>;
  } | null = null;
  private readonly lost = new Map<TapeId, string>();
  /** Counts up whenever a tape comes. */
  readonly version = new Published(0);

  constructor(
    private readonly project: string,
    private readonly signal: AbortSignal,
  ) {}

  get all(): ReadonlyMap<TapeId, RawReadings> {
    return this.tapes;
  }

  get(tape: TapeId): RawReadings | undefined {
    return this.tapes.get(tape);
  }

  /** What is known of a camera tape's boxes: the rules are taught and judged by it. */
  know(tape: TapeId, known: BoxPixels): void {
    this.boxed.set(tape, known);
    this.changed();
  }

  known(tape: TapeId): BoxPixels | undefined {
    return this.boxed.get(tape);
  }

  /**
   * Tapes with their readings as rules are taught and judged by them: a camera's tape holds the pixels of its boxes, each
   * a mark. The same objects as long as neither tapes nor readings change.
   */
  taughtBy(tapes: readonly TapeHead[]): { heads: TapeHead[]; readings: ReadonlyMap<TapeId, RawReadings> } {
    if (tapes.every((tape) => tape.frames === undefined)) return { heads: tapes as TapeHead[], readings: this.tapes };
    const version = this.version.get();
    if (this.taught?.tapes !== tapes || this.taught.version !== version)
      this.taught = {
        tapes,
        version,
        heads: taughtTapes(tapes, this.boxed),
        readings: taughtReadings(tapes, this.tapes, this.boxed),
      };
    return this.taught;
  }

  /** The tapes that the server does not have yet. */
  get unsent(): ReadonlySet<TapeId> {
    return this.onlyHere;
  }

  /** Tapes whose readings the server has no more, since they are damaged there, each with a sentence. */
  get damaged(): ReadonlyMap<TapeId, string> {
    return this.lost;
  }

  /** Fetches the readings of tapes that are not here yet; what is damaged is noted. @throws Error with a sentence */
  async load(tapes: readonly TapeId[]): Promise<void> {
    await Promise.all(tapes.filter((tape) => !this.tapes.has(tape)).map((tape) => this.fetch(tape)));
    this.changed();
  }

  private async fetch(tape: TapeId): Promise<void> {
    const response = await ask(this.address(tape), { signal: this.signal });
    if (response.ok) {
      this.tapes.set(tape, decodeReadings(new Uint8Array(await response.arrayBuffer())));
      this.lost.delete(tape);
      return;
    }
    const { title, detail } = await problemIn(response);
    if (title !== DAMAGED) throw new Error(detail);
    this.lost.set(tape, detail);
  }

  /** Adds readings that the server does not have. */
  add(tape: TapeId, readings: RawReadings): void {
    this.tapes.set(tape, readings);
    this.onlyHere.add(tape);
    this.changed();
  }

  /** Has the readings sent once more: the server says that it does not have them. False where they are not here. */
  resend(tapes: readonly TapeId[]): boolean {
    const here = tapes.filter((tape) => this.tapes.has(tape));
    for (const tape of here) this.onlyHere.add(tape);
    return here.length === tapes.length;
  }

  /** Sends what the server does not have of these tapes. @throws NotTaken, or what fetch throws */
  async send(tapes: readonly TapeId[]): Promise<void> {
    for (const tape of tapes) {
      const readings = this.tapes.get(tape);
      if (!this.onlyHere.has(tape) || readings === undefined) continue;
      const response = await fetch(this.address(tape), {
        method: "PUT",
        headers: { "Content-Type": "application/octet-stream" },
        body: encodeReadings(readings),
        signal: AbortSignal.timeout(SEND_LIMIT_MS),
      });
      if (!response.ok) throw new NotTaken(response.status, await problemOf(response));
      this.onlyHere.delete(tape);
    }
  }

  private address(tape: TapeId): string {
    return at("readings", { id: this.project, tape });
  }

  private changed(): void {
    this.version.set(this.version.get() + 1);
  }
}
