import type { Steady } from "./ruleSetSchema";
import type { SeenSpan } from "./spans";
import { type SteadyState, steadyPart } from "./steady";

/** Readings that are steadied together. */
const CHUNK = 256;

/** Steadies a block of so many readings over and over; where labels stayed as they were, what is seen does too. */
export class SteadyAgain {
  readonly seen: Uint8Array<ArrayBuffer>;
  private steady: Steady | null = null;
  /** How each chunk begins, and in the end how the last one ends. */
  private readonly begins: SteadyState[];
  private readonly touched: Uint8Array;
  /** Where within each chunk something else is seen than in the reading before. */
  private readonly turns: number[][];

  constructor(readings: number) {
    this.seen = new Uint8Array(readings);
    const chunks = Math.ceil(readings / CHUNK);
    this.begins = Array.from({ length: chunks + 1 }, () => ({ seen: 0, since: 0 }));
    this.touched = new Uint8Array(chunks);
    this.turns = Array.from({ length: chunks }, () => []);
  }

  /** @param changed the readings whose label is another than the last time; null where any may be */
  take(labels: Uint8Array, steady: Steady, changed: Uint32Array | null): void {
    const { begins, touched, turns, seen } = this;
    if (changed === null || this.steady === null || !sameSteady(this.steady, steady)) touched.fill(1);
    else {
      touched.fill(0);
      for (let k = 0; k < changed.length; k++) {
        // A label counts for the readings that look back on it, too.
        const last = Math.min(labels.length - 1, changed[k] + steady.of - 1);
        for (let chunk = Math.floor(changed[k] / CHUNK); chunk * CHUNK <= last; chunk++) touched[chunk] = 1;
      }
    }
    this.steady = steady;
    const at: SteadyState = { seen: 0, since: 0 };
    for (let chunk = 0; chunk < touched.length; chunk++) {
      const begin = begins[chunk];
      if (touched[chunk] === 0 && begin.seen === at.seen && begin.since === at.since) {
        at.seen = begins[chunk + 1].seen;
        at.since = begins[chunk + 1].since;
        continue;
      }
      begin.seen = at.seen;
      begin.since = at.since;
      const from = chunk * CHUNK;
      const to = Math.min(labels.length, from + CHUNK);
      steadyPart(labels, steady, seen, from, to, at);
      turns[chunk].length = 0;
      for (let i = from + 1; i < to; i++) if (seen[i] !== seen[i - 1]) turns[chunk].push(i);
    }
    const end = begins[touched.length];
    end.seen = at.seen;
    end.since = at.since;
  }

  /** The stretches over which one target is seen. */
  spans(): SeenSpan[] {
    const { seen } = this;
    const spans: SeenSpan[] = [];
    let from = 0;
    const turn = (i: number) => {
      if (seen[from] !== 0) spans.push({ from, to: i - 1, target: seen[from] });
      from = i;
    };
    this.turns.forEach((inner, chunk) => {
      const first = chunk * CHUNK;
      if (first > 0 && seen[first] !== seen[first - 1]) turn(first);
      for (let k = 0; k < inner.length; k++) turn(inner[k]);
    });
    if (seen.length > 0) turn(seen.length);
    return spans;
  }
}

const sameSteady = (a: Steady, b: Steady) => a.hits === b.hits && a.of === b.of && a.release === b.release;
