import { wrapHue } from "../colour";
import { figure } from "../readings";
import type { Test } from "../rules";
import { unrolled } from "../teaching";
import { bandSets, type Finding, type FindingKind } from "./finding";

/** A smaller share of a target's readings on the other side of 0° may be strays. */
const SHARE = 0.05;
/** What is farther from 0° than this is not red. */
const NEAR = 60;
/** The mended band reaches so far beyond the middle 90 % of the readings, in degrees. */
const REACH = 4;

/** Red lies on both sides of 0°, and a band that does not run through it loses most of what lies on one of them. */
export const redNotWrapped: FindingKind = {
  code: "red-not-wrapped",
  find(scene) {
    const { project } = scene;
    return bandSets(scene).flatMap((set) =>
      set.rules
        .filter((rule) => rule.on)
        .flatMap((rule): Finding[] => {
          const truth = project.targets.findIndex((t) => t.id === rule.target) + 1;
          const spread = truth === 0 ? undefined : scene.spread(set.id, rule.target, "hue");
          // Only where the middle 90 % run through 0° is there anything to count.
          if (spread === undefined || spread.low <= spread.high) return [];
          const sample = scene.sample(set.id);
          const hue = sample.column("hue");
          const offs: number[] = [];
          for (let i = 0; i < sample.count; i++)
            if (sample.truth[i] === truth && !Number.isNaN(hue[i])) offs.push(unrolled(hue[i], 0));
          const below = offs.filter((d) => d < 0 && d > -NEAR).length;
          const above = offs.filter((d) => d >= 0 && d < NEAR).length;
          const all = offs.length;
          if (Math.min(below, above) < SHARE * all || below + above < 0.9 * all) return [];
          // The side of 0° of which the rule loses most; what another clause has is not lost.
          const hues = rule.any.map((c) => c.all.filter((t) => t.feature === "hue" && !t.not));
          const has = (d: number) => hues.some((tests) => tests.every((t) => covers(t, wrapHue(d))));
          const lost = (near: (d: number) => boolean) => {
            const side = offs.filter(near);
            return side.filter((d) => !has(d)).length > side.length / 2;
          };
          const missing = lost((d) => d < 0 && d > -NEAR)
            ? "below"
            : lost((d) => d >= 0 && d < NEAR)
              ? "above"
              : undefined;
          const clause = hues.findIndex((tests) => tests.length === 1);
          if (missing === undefined || clause < 0) return [];
          // The end on the side that is not lost stays where it is.
          const [{ from: first, to: last }] = hues[clause];
          const from =
            missing === "above" && first !== undefined && first > 180 ? first : wrapHue(Math.floor(spread.low) - REACH);
          const to =
            missing === "below" && last !== undefined && last < 180 ? last : wrapHue(Math.ceil(spread.high) + REACH);
          const any = rule.any.map((c, i) =>
            i !== clause
              ? c
              : {
                  ...c,
                  all: c.all.map((t) => (t.feature === "hue" && !t.not ? { feature: "hue" as const, from, to } : t)),
                },
          );
          const name = project.targets[truth - 1].name;
          return [
            {
              code: "red-not-wrapped",
              level: "warning",
              title: `${name} lies on both sides of 0°`,
              sentence: `${below} of ${all} readings have a hue just below 360° and ${above} just above 0°; the band leaves out most of those ${missing === "below" ? "below 360°" : "above 0°"}. Let it run from ${figure("hue", from)} through 0° to ${figure("hue", to)}.`,
              place: { stage: "decide", ruleSet: set.id, rule: rule.id, target: rule.target },
              fix: { label: "Apply", change: { ruleSet: set.id, rule: rule.id, any } },
            },
          ];
        }),
    );
  },
};

function covers({ from, to }: Test, hue: number): boolean {
  if (from !== undefined && to !== undefined && from > to) return hue >= from || hue <= to;
  return (from === undefined || hue >= from) && (to === undefined || hue <= to);
}
