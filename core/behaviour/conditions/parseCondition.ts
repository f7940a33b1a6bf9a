import type * as z from "zod";
import { type SensorId, type TargetId, zodProblem } from "../../names";
import type { PhraseReader } from "../../phrases";
import type { Condition } from "./condition";
import { CONDITIONS } from "./conditionTable";

/**
 * Reads a condition: `coral or teal`, `hue 350..20 and sat >= 50 %`, `not (tally >= 2)`. Brackets within a chain of the
 * same word change nothing and are not kept.
 */
export function parseCondition(reader: PhraseReader): Condition {
  const terms = [parseAnd(reader)];
  while (reader.skip("or")) terms.push(parseAnd(reader));
  const merged: Condition[] = [];
  for (const term of terms.flatMap((t) => ("any" in t ? t.any : [t]))) {
    const last = merged.at(-1);
    if (last && "seen" in last && "seen" in term && last.sensor === term.sensor)
      merged[merged.length - 1] = { ...last, seen: [...last.seen, ...term.seen] };
    else merged.push(term);
  }
  return merged.length === 1 ? merged[0] : { any: merged };
}

function parseAnd(reader: PhraseReader): Condition {
  const terms = [parseTerm(reader)];
  while (reader.skip("and")) terms.push(parseTerm(reader));
  return terms.length === 1 ? terms[0] : { all: terms.flatMap((t) => ("all" in t ? t.all : [t])) };
}

function parseTerm(reader: PhraseReader): Condition {
  if (reader.skip("not")) return { not: reader.deeper(() => parseTerm(reader)) };
  if (reader.skip("(")) {
    const inner = reader.deeper(() => parseCondition(reader));
    reader.take(")");
    return inner;
  }
  const sensor = reader.skipSensor() as SensorId | undefined;
  const of = sensor === undefined ? {} : { sensor };
  for (const kind of CONDITIONS.entries) {
    const condition = kind.parse?.(reader, of);
    if (condition !== undefined) return kept(reader, kind.schema, condition as Condition);
  }
  const target = reader.takeName("targets") as TargetId;
  for (const kind of CONDITIONS.entries) {
    const condition = kind.parseAfterTarget?.(reader, target, of);
    if (condition !== undefined) return kept(reader, kind.schema, condition as Condition);
  }
  return reader.fail("a condition on it");
}

/** Gives a condition that a file can keep; the reader fails at any other. */
function kept(reader: PhraseReader, schema: z.ZodType, condition: Condition): Condition {
  const checked = schema.safeParse(condition);
  return checked.success ? condition : reader.refuse(zodProblem(checked.error));
}
