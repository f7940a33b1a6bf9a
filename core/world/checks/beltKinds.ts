import * as z from "zod";
import type { NameOf } from "../../behaviour";
import { Id, type TargetId, TargetIdSchema } from "../../names";
import { type PieceReport, reportPieces, whySorted } from "../belt/pieceReport";
import type { Trace } from "../trace";
import { at, ended, sentence, thingWords, times, unmet } from "./because";
import type { CheckKind, Verdict } from "./CheckKind";

const ON_BELTS = ["belt"];
const pieces = (n: number) => (n === 1 ? "1 piece" : `${n} pieces`);

/** The verdict of a check of what a crate, or every piece, came to. */
const failed = (trace: Trace, report: PieceReport, figure: string, name: NameOf, otherwise = ""): Verdict => {
  const why = whySorted(trace, report, name) ?? `It ${otherwise}.`;
  const words = thingWords(trace, report.piece, name);
  return {
    outcome: "does not",
    figure,
    ...(report.t !== undefined && { t: report.t }),
    why: sentence(why.startsWith("It ") ? `${words} ${why.slice(3, -1)}` : `${words}: ${why.slice(0, -1)}`),
  };
};

const noBelt = (): Verdict => ({ outcome: "not reached", figure: "–", why: "There is no belt on this course." });

const crateWords = (trace: Trace, crate: string) => trace.belt?.crates.find((c) => c.id === crate)?.name ?? crate;
/** What fell into a crate, the first first. */
const within = (trace: Trace, crate: string) =>
  reportPieces(trace)
    .filter(({ into }) => into === crate)
    .sort((a, b) => (a.t ?? 0) - (b.t ?? 0));

const MOST_HELD = 1000;
const holdsSchema = z.union([
  z.strictObject({ crate: Id, only: TargetIdSchema }),
  z.strictObject({ crate: Id, count: z.number().int().min(1).max(MOST_HELD) }),
]);

/** Nothing but pieces of one target fall into a crate, and some do; or so many pieces, and no more. */
export const crateHolds: CheckKind<z.infer<typeof holdsSchema>> = {
  key: "crate",
  schema: holdsSchema,
  courses: ON_BELTS,
  word: "crate … holds …",
  fresh: ({ crates: [crate], targets: [target] }) =>
    crate === undefined || target === undefined ? undefined : { crate, only: target },
  parse(reader) {
    if (!reader.skip("crate")) return undefined;
    const crate = reader.takeName("crates");
    reader.take("holds");
    if (reader.skip("only")) return { crate, only: reader.takeName("targets") as TargetId };
    return { crate, count: reader.takeCount("“only”, or a number of pieces,", MOST_HELD) };
  },
  print: (check) => `crate ${check.crate} holds ${"only" in check ? `only ${check.only}` : check.count}`,
  sentence: (check, name) =>
    `${name(check.crate)} holds ${"only" in check ? `only ${name(check.only)}` : pieces(check.count)}`,
  named(check, visit) {
    const crate = visit("crate", check.crate, "crate");
    return "only" in check ? { crate, only: visit("target", check.only, "only") } : { ...check, crate };
  },
  judge(check, trace, name) {
    if (trace.belt === undefined) return noBelt();
    const held = within(trace, check.crate);
    const last = held.at(-1)?.t;
    const few = sentence(`${pieces(held.length)} fell into ${crateWords(trace, check.crate)}`, ended(trace));
    if ("only" in check) {
      const wrong = held.find(({ target }) => target !== check.only);
      const figure = `${held.filter(({ target }) => target === check.only).length}/${held.length}`;
      if (wrong !== undefined) return failed(trace, wrong, figure, name);
      return last === undefined ? unmet(trace, figure, few) : { outcome: "holds", figure, t: last };
    }
    const figure = `${held.length}/${check.count}`;
    const over = held[check.count];
    if (over !== undefined) return failed(trace, over, figure, name, "is more than that");
    if (held.length === check.count && last !== undefined) return { outcome: "holds", figure, t: last };
    return unmet(trace, figure, few);
  },
};

/** A check of a fixed sentence, of which there is one. */
function fixed<K extends string>(
  key: K,
  words: string,
  about: string,
  judge: (trace: Trace, name: NameOf) => Verdict,
): CheckKind<Record<K, true>> {
  const all = words.split(" ");
  const is = { [key]: true } as Record<K, true>;
  return {
    key,
    schema: z.strictObject({ [key]: z.literal(true) }) as unknown as z.ZodType<Record<K, true>>,
    courses: ON_BELTS,
    word: words,
    fresh: () => is,
    parse(reader) {
      if (!reader.peekNext(all[0], all[1])) return undefined;
      for (const word of all) reader.take(word);
      return is;
    },
    print: () => words,
    sentence: () => about,
    judge: (_, trace, name) => (trace.belt === undefined ? noBelt() : judge(trace, name)),
  };
}

/** The pieces that are still on the belt when the run ends make it undecided. */
function undecided(trace: Trace, all: readonly PieceReport[], figure: string): Verdict {
  const open = all.filter(({ into }) => into === undefined).length;
  const words = all.length === 0 ? "no pieces come along the belt" : `${pieces(open)} had not left the belt`;
  return { outcome: "not reached", figure, why: sentence(words, ended(trace)) };
}

/** Every piece falls into the crate that has its name, or, where none has, into the end crate. */
export const sortsEvery = fixed(
  "sortsEveryPiece",
  "sorts every piece",
  "Sorts every piece into the crate with its name",
  (trace, name) => {
    const all = reportPieces(trace);
    const right = all.filter(({ into, wanted }) => into === wanted).length;
    const figure = `${right}/${all.length}`;
    const wrong = all
      .filter(({ into, wanted }) => into !== undefined && into !== wanted)
      .sort((a, b) => (a.t ?? 0) - (b.t ?? 0))[0];
    if (wrong !== undefined) return failed(trace, wrong, figure, name);
    return right === all.length && right > 0
      ? { outcome: "holds", figure, t: Math.max(...all.map((p) => p.t ?? 0)) }
      : undecided(trace, all, figure);
  },
);

/** Every piece comes into some crate. */
export const losesNone = fixed("losesNoPiece", "loses no piece", "Loses no piece", (trace, name) => {
  const all = reportPieces(trace);
  const lost = all.filter(({ into }) => into === null);
  const figure = `${lost.length} lost`;
  if (lost.length > 0) return failed(trace, lost[0], figure, name);
  const open = all.some(({ into }) => into === undefined) || all.length === 0;
  return open ? undecided(trace, all, figure) : { outcome: "holds", figure, t: Math.max(...all.map((p) => p.t ?? 0)) };
});

/** No gate moves while a piece lies within its reach. */
export const jamsNever = fixed("jamsNever", "jams never", "No gate ever jams a piece", (trace, name) => {
  const jammed = reportPieces(trace).filter(({ into }) => into === null);
  const figure = times(jammed.length);
  const [first] = jammed;
  return first === undefined ? { outcome: "holds", figure, t: trace.endMs } : failed(trace, first, figure, name);
});

const MOST_RATE = 10_000;
const rateSchema = z.strictObject({ piecesAMinute: z.number().positive().max(MOST_RATE) });

/** Pieces a minute that fell into crates, over the whole time of the run. */
export const piecesAMinute = (trace: Trace): number =>
  trace.endMs === 0
    ? 0
    : (60_000 * trace.notes.filter((note) => note.kind === "piece" && note.into !== null).length) / trace.endMs;

/** The belt lets so many pieces a minute fall into crates. */
export const atLeastRate: CheckKind<z.infer<typeof rateSchema>> = {
  key: "piecesAMinute",
  schema: rateSchema,
  courses: ON_BELTS,
  word: "at least … pieces a minute",
  fresh: () => ({ piecesAMinute: 40 }),
  parse(reader) {
    if (!reader.peekNext("at", "least")) return undefined;
    reader.take("at");
    reader.take("least");
    const rate = reader.takeAmount("how many pieces a minute");
    if (rate > MOST_RATE) reader.failNumber(`at most ${MOST_RATE} pieces a minute`);
    for (const word of ["pieces", "a", "minute"]) reader.take(word);
    return { piecesAMinute: rate };
  },
  print: ({ piecesAMinute: rate }) => `at least ${rate} pieces a minute`,
  sentence: ({ piecesAMinute: rate }) => `At least ${rate} pieces a minute`,
  judge({ piecesAMinute: wanted }, trace) {
    if (trace.belt === undefined) return noBelt();
    const rate = piecesAMinute(trace);
    const figure = `${rate.toFixed(0)} a minute`;
    return rate >= wanted
      ? { outcome: "holds", figure, t: trace.endMs }
      : {
          outcome: "does not",
          figure,
          t: trace.endMs,
          why: sentence(`${rate.toFixed(1)} pieces a minute fell into crates up to ${at(trace.endMs)}`),
        };
  },
};
