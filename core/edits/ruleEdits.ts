import * as z from "zod";
import { ClauseIdSchema, RuleIdSchema, type RuleSetId, RuleSetIdSchema, type TargetId } from "../names";
import type { ProjectDocument } from "../project";
import { FEATURE_FACTS } from "../readings";
import {
  BoundEnd,
  bandOf,
  Clause,
  placeOfTestShape,
  Reference,
  Rule,
  RuleSet,
  Steady,
  setBound,
  Test,
  testAt,
  withoutTest,
} from "../rules";
import { changed, changeOf, moved, placed, without, withThing } from "./change";
import { editKind } from "./editKind";
import { nameIn } from "./words";

const OfRule = { ruleSet: RuleSetIdSchema, rule: RuleIdSchema };
const OfClause = { ...OfRule, clause: ClauseIdSchema };
const OfTest = { ruleSet: RuleSetIdSchema, ...placeOfTestShape };

const withRules = (project: ProjectDocument, ruleSet: RuleSetId, change: (set: RuleSet) => RuleSet) => {
  const ruleSets = withThing(project.ruleSets, ruleSet, change);
  return ruleSets === project.ruleSets ? project : { ...project, ruleSets };
};
const withRule = (project: ProjectDocument, { ruleSet, rule }: OfRule, change: (rule: Rule) => Rule) =>
  withRules(project, ruleSet, (set) => {
    const rules = withThing(set.rules, rule, change);
    return rules === set.rules ? set : { ...set, rules };
  });

interface OfRule {
  ruleSet: RuleSetId;
  rule: string;
}

/** Whose rule it is. */
function ruleOf({ ruleSets, targets }: ProjectDocument, { ruleSet, rule }: OfRule): string {
  const found = ruleSets.find(({ id }) => id === ruleSet)?.rules.find(({ id }) => id === rule);
  return found === undefined ? rule : nameIn(targets, found.target);
}
const targetName = ({ targets }: ProjectDocument, target: TargetId) => nameIn(targets, target);

export const setMethod = editKind(
  { ruleSet: RuleSetIdSchema, method: RuleSet.shape.method },
  {
    words: ({ method }) => (method === "nearest" ? "judged by the nearest reference" : "judged by bands"),
    apply: (project, { ruleSet, method }) => withRules(project, ruleSet, (set) => ({ ...set, method })),
  },
);

export const addRule = editKind(
  { ruleSet: RuleSetIdSchema, rule: Rule, before: RuleIdSchema.nullable() },
  {
    words: ({ rule }, project) => `rule for ${targetName(project, rule.target)} added`,
    apply: (project, { ruleSet, rule, before }) =>
      withRules(project, ruleSet, (set) => ({ ...set, rules: placed(set.rules, rule, before) })),
  },
);

/** All rules of a set, in the place of those that it had: a suggestion that was taken. */
export const takeRules = editKind(
  { ruleSet: RuleSetIdSchema, rules: RuleSet.shape.rules },
  {
    words: () => "suggestion taken",
    apply: (project, { ruleSet, rules }) =>
      withRules(project, ruleSet, (set) => ({ ...set, rules, method: "bands" as const })),
  },
);

/** A rule with other tests, as they were typed. */
export const setTests = editKind(
  { ...OfRule, any: z.array(Clause).max(12) },
  {
    words: (args, project) => `rule of ${ruleOf(project, args)} typed`,
    apply: (project, { any, ...of }) => withRule(project, of, (rule) => ({ ...rule, any })),
  },
);

/** The rules of a set that are on; all others are off. */
export const switchRules = editKind(
  { ruleSet: RuleSetIdSchema, on: z.array(RuleIdSchema), alone: RuleIdSchema.optional() },
  {
    words: ({ ruleSet, alone }, project) =>
      alone === undefined ? "rules switched" : `rule of ${ruleOf(project, { ruleSet, rule: alone })} left alone`,
    apply: (project, { ruleSet, on }) =>
      withRules(project, ruleSet, (set) => ({
        ...set,
        rules: set.rules.map((rule) => ({ ...rule, on: on.includes(rule.id) })),
      })),
  },
);

export const switchRule = editKind(
  { ...OfRule, on: z.boolean() },
  {
    words: (args, project) => `rule of ${ruleOf(project, args)} switched ${args.on ? "on" : "off"}`,
    apply: (project, { on, ...of }) => withRule(project, of, (rule) => ({ ...rule, on })),
  },
);

export const moveRule = editKind(
  { ...OfRule, before: RuleIdSchema.nullable() },
  {
    words: (args, project) => `rule of ${ruleOf(project, args)} moved`,
    gathers: ({ ruleSet }) => ruleSet,
    apply: (project, { ruleSet, rule, before }) =>
      withRules(project, ruleSet, (set) => {
        const rules = moved(set.rules, rule, before);
        return rules === set.rules ? set : { ...set, rules };
      }),
  },
);

export const deleteRule = editKind(OfRule, {
  words: (args, project) => `rule of ${ruleOf(project, args)} deleted`,
  apply: (project, { ruleSet, rule }) =>
    withRules(project, ruleSet, (set) => ({ ...set, rules: without(set.rules, rule) })),
});

export const addClause = editKind(
  { ...OfRule, clause: Clause },
  {
    words: (args, project) => `clause of ${ruleOf(project, args)} added`,
    apply: (project, { clause, ...of }) => withRule(project, of, (rule) => ({ ...rule, any: [...rule.any, clause] })),
  },
);

export const deleteClause = editKind(OfClause, {
  words: (args, project) => `clause of ${ruleOf(project, args)} deleted`,
  apply: (project, { clause, ...of }) => withRule(project, of, (rule) => ({ ...rule, any: without(rule.any, clause) })),
});

/** Nothing but a hue’s band may begin above its end: a bound that is pushed past the other stops there. */
function within(test: Test | undefined, feature: Test["feature"], end: "from" | "to", value: number): number {
  const other = test?.[end === "from" ? "to" : "from"];
  if (feature === "hue" || other === undefined) return value;
  return end === "from" ? Math.min(value, other) : Math.max(value, other);
}

/**
 * A bound of the band that a clause has for a feature, or of its turned one; null opens that end. `goes`: a test that is
 * left without any end is dropped.
 */
export const moveBound = editKind(
  { ...OfTest, end: BoundEnd, value: z.number().nullable(), goes: z.boolean().optional() },
  {
    words: (args, project) => `${FEATURE_FACTS[args.feature].word} bound of ${ruleOf(project, args)} moved`,
    gathers: ({ rule, clause, feature, nth = 0, end }) => `${rule} ${clause} ${feature} ${nth} ${end}`,
    apply: (project, { ruleSet, value, goes, ...place }) =>
      withRules(project, ruleSet, (set) => {
        const bound = value === null ? undefined : within(testAt(set, place), place.feature, place.end, value);
        return setBound(set, place, bound, goes);
      }),
  },
);

/** Bands of a clause somewhere else, both ends of each together, as its box is dragged. */
export const moveBox = editKind(
  { ...OfClause, bands: z.array(Test).max(2) },
  {
    words: (args, project) => `box of ${ruleOf(project, args)} moved`,
    gathers: ({ rule, clause }) => `${rule} ${clause}`,
    apply: (project, { clause, bands, ...of }) =>
      withRule(project, of, (rule) => ({
        ...rule,
        any: withThing(rule.any, clause, (one) => ({
          ...one,
          all: bands.reduce((all, band) => {
            const at = bandOf(all, band.feature);
            return at < 0 ? all : all.with(at, band);
          }, one.all),
        })),
      })),
  },
);

export const deleteTest = editKind(OfTest, {
  words: (args, project) => `${FEATURE_FACTS[args.feature].word} test of ${ruleOf(project, args)} deleted`,
  apply: (project, { ruleSet, ...place }) => withRules(project, ruleSet, (set) => withoutTest(set, place)),
});

/** Other numbers of readings for the steadying. */
export const setSteady = editKind(
  { ruleSet: RuleSetIdSchema, change: changeOf(Steady) },
  {
    words: () => "steadying changed",
    apply: (project, { ruleSet, change }) =>
      withRules(project, ruleSet, (set) => ({ ...set, steady: changed(set.steady, change) })),
  },
);

const withReferences = (
  project: ProjectDocument,
  ruleSet: RuleSetId,
  change: (references: Reference[]) => Reference[],
) =>
  withRules(project, ruleSet, (set) => ({
    ...set,
    nearest: { ...set.nearest, references: change(set.nearest.references) },
  }));

export const addReference = editKind(
  { ruleSet: RuleSetIdSchema, reference: Reference },
  {
    words: ({ reference }, project) => `reference of ${targetName(project, reference.target)} added`,
    apply: (project, { ruleSet, reference }) => withReferences(project, ruleSet, (all) => [...all, reference]),
  },
);

const OfReference = { ruleSet: RuleSetIdSchema, reference: Reference.shape.id };
const referenceOf = (project: ProjectDocument, ruleSet: RuleSetId, reference: string): string => {
  const set = project.ruleSets.find(({ id }) => id === ruleSet);
  const found = set?.nearest.references.find(({ id }) => id === reference);
  return found === undefined ? reference : targetName(project, found.target);
};

export const changeReference = editKind(
  { ...OfReference, change: changeOf(Reference) },
  {
    words: ({ ruleSet, reference }, project) => `reference of ${referenceOf(project, ruleSet, reference)} changed`,
    apply: (project, { ruleSet, reference, change }) =>
      withReferences(project, ruleSet, (all) => withThing(all, reference, (one) => changed(one, change))),
  },
);

export const deleteReference = editKind(OfReference, {
  words: ({ ruleSet, reference }, project) => `reference of ${referenceOf(project, ruleSet, reference)} deleted`,
  apply: (project, { ruleSet, reference }) => withReferences(project, ruleSet, (all) => without(all, reference)),
});

/** References and the reject distance in the place of those that there were: by them it is judged from then on. */
export const takeReferences = editKind(
  { ruleSet: RuleSetIdSchema, nearest: RuleSet.shape.nearest.unwrap() },
  {
    words: () => "references taken",
    apply: (project, { ruleSet, nearest }) =>
      withRules(project, ruleSet, (set) => ({ ...set, nearest, method: "nearest" as const })),
  },
);

export const setReject = editKind(
  { ruleSet: RuleSetIdSchema, reject: z.number().positive().max(2) },
  {
    words: () => "reject distance changed",
    gathers: ({ ruleSet }) => ruleSet,
    apply: (project, { ruleSet, reject }) =>
      withRules(project, ruleSet, (set) => ({ ...set, nearest: { ...set.nearest, reject } })),
  },
);
