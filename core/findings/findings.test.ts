import { describe, expect, it } from "vitest";
import { glasshouseRound } from "../demo";
import { numbered } from "../names";
import { emptyProject, type ProjectDocument, splitProject } from "../project";
import type { Change, Test } from "../rules";
import { markedTapes, nearestFromMarks, sampleOf } from "../teaching";
import { applyFix, type FindingCode, findAll } from ".";

const { document, readings } = splitProject(glasshouseRound());
const of = (project: ProjectDocument, code: FindingCode) =>
  findAll({ project, tapes: markedTapes(project, readings) }).filter((f) => f.code === code);

function changed(change: (project: ProjectDocument) => void): ProjectDocument {
  const project = structuredClone(document);
  change(project);
  return project;
}
const coralTests = (project: ProjectDocument) => project.ruleSets[0].rules[0].any[0].all;

describe("background-taken", () => {
  it("names the terracotta, the light and the bound that mends it without loss", () => {
    const [finding, ...others] = of(document, "background-taken");
    expect(others).toEqual([]);
    expect(finding.title).toBe("Terracotta rim is taken for Coral tag");
    expect(finding.sentence).toMatch(
      /^\d+ of 314 readings, all in Noon sun\. Raising the minimum value to \d+ % turns them all away and loses no reading of Coral tag\.$/,
    );
    expect(finding.level).toBe("error");
  });

  it("is gone once its fix is applied", () => {
    const [{ fix }] = of(document, "background-taken");
    expect(fix && of(applyFix(document, fix.change), "background-taken")).toEqual([]);
  });

  it("is silent about a background that has a rule of its own before", () => {
    const guarded = changed((p) => {
      const [rule] = p.ruleSets[0].rules;
      p.ruleSets[0].rules.unshift({
        ...rule,
        id: "terracotta" as typeof rule.id,
        target: p.targets[7].id,
        any: [
          {
            id: "clause-1" as never,
            all: [
              { feature: "hue", from: 350, to: 16 },
              { feature: "val", to: 0.55 },
            ],
          },
        ],
      });
    });
    expect(of(guarded, "background-taken")).toEqual([]);
  });

  it("offers no fix where no single bound separates the two", () => {
    const merged = changed((p) => {
      // The marks of coral called terracotta as well: the same readings on either side.
      for (const mark of p.tapes[1].marks) if (mark.target === "coral") mark.target = p.targets[7].id;
      p.tapes[0].marks = p.tapes[0].marks.filter((m) => m.target !== "terracotta");
      coralTests(p)[2].from = 0.3;
    });
    const [finding] = of(merged, "background-taken");
    expect(finding.fix === undefined || /loses [1-9]/.test(finding.sentence)).toBe(true);
  });
});

describe("background-taken by how much it matters", () => {
  /** The document with so many readings of terracotta, each so many after the last, read as coral's. */
  const speckled = (count: number, apart: number) => {
    const mended = of(document, "background-taken")[0].fix;
    const project = mended ? applyFix(document, mended.change) : document;
    const own = (target: string) =>
      markedTapes(project, readings).flatMap((tape) => {
        const truth = project.targets.findIndex((t) => t.id === target) + 1;
        return Array.from(tape.truth.keys())
          .filter((i) => tape.truth[i] === truth)
          .map((index) => ({ tape, index }));
      });
    const [terracotta, [coral]] = [own("terracotta"), own("coral")];
    const first = terracotta[0].tape.head.id;
    const raw = structuredClone(readings.get(first));
    if (raw === undefined) throw new Error("no readings");
    for (let k = 0; k < count; k++)
      for (const [channel, column] of Object.entries(raw.channels))
        column[terracotta[0].index + k * apart] = coral.tape.raw.channels[channel as "r"]?.[coral.index] ?? 0;
    return findAll({ project, tapes: markedTapes(project, new Map([...readings, [first, raw]])) }).filter(
      (f) => f.code === "background-taken",
    );
  };

  it("is a hint where the steadying passes over one speckle, without advice that loses as much", () => {
    const [finding] = speckled(1, 1);
    expect(finding.level).toBe("hint");
    expect(finding.sentence).toMatch(
      /^1 of 314 readings, all in [A-Z][a-z ]+\. So few and so far apart are not seen\./,
    );
    expect(finding.fix === undefined || finding.sentence.includes("loses no reading")).toBe(true);
  });

  it("is an error where readings follow each other closely enough to be seen", () => {
    const { hits, of: among } = document.ruleSets[0].steady;
    expect(hits).toBeGreaterThan(1);
    expect(speckled(hits, 1)[0].level).toBe("error");
    expect(speckled(hits, among + 1)[0].level).toBe("hint");
  });
});

describe("hue-on-grey", () => {
  const hueOnly = changed((p) => {
    p.ruleSets[0].rules[0].any = numbered("clause", [{ all: [{ feature: "hue", from: 350, to: 16 }] }]);
  });

  it("warns where a rule tests hue and lets grey slate through, and mends it", () => {
    const findings = of(hueOnly, "hue-on-grey");
    // Slate is as grey, and only chance has kept its hue out of the band.
    expect(findings.map((f) => [f.level, f.title])).toEqual([
      ["warning", "Chalk line has no stable hue"],
      ["hint", "Slate paving has no stable hue"],
    ]);
    const [chalk] = findings;
    const mended = chalk.fix && applyFix(hueOnly, chalk.fix.change);
    expect(mended && of(mended, "hue-on-grey").filter((f) => f.place.target === "chalk")).toEqual([]);
  });

  it("is silent where the hue of the grey does not reach into the band", () => {
    const teal = changed((p) => {
      p.ruleSets[0].rules = p.ruleSets[0].rules.filter((r) => r.target === "teal");
      p.ruleSets[0].rules[0].any = numbered("clause", [{ all: [{ feature: "hue", from: 170, to: 190 }] }]);
    });
    const left = (channel: string) =>
      found(
        teal,
        "hue-on-grey",
        reread("slate", (raw, own) => (own === channel ? raw * 0.7 : raw)),
      ).filter((f) => f.place.target === "slate");
    // With less blue it is warm; as it is, its hues are those of teal too.
    expect(left("b")).toEqual([]);
    expect(left("")).toHaveLength(1);
  });

  it("is silent where saturation is asked for", () => {
    expect(of(document, "hue-on-grey")).toEqual([]);
  });
});

describe("band-is-point", () => {
  it("finds a test for one exact value and gives it width", () => {
    const point = changed((p) => {
      coralTests(p)[0] = { feature: "hue", from: 4, to: 4 };
    });
    const [finding] = of(point, "band-is-point");
    expect(finding.title).toBe("Coral tag must have hue exactly 4°");
    expect(finding.fix && of(applyFix(point, finding.fix.change), "band-is-point")).toEqual([]);
  });

  it("lets a narrow band and an exact exclusion be", () => {
    const narrow = changed((p) => {
      coralTests(p)[0] = { feature: "hue", from: 4, to: 5 };
      coralTests(p).push({ feature: "light", from: 50, to: 50, not: true });
    });
    expect(of(narrow, "band-is-point")).toEqual([]);
  });
});

describe("target-without-response", () => {
  const deafToChalk = changed((p) => {
    p.behaviour.modes = p.behaviour.modes.slice(0, 2);
    p.behaviour.modes[0].responses = p.behaviour.modes[0].responses.filter((r) => r.id !== "find-the-line");
  });

  it("hints at the chalk line, which has a rule and no answer", () => {
    expect(of(deafToChalk, "target-without-response").map((f) => f.place.target)).toEqual(["chalk"]);
    expect(of(document, "target-without-response")).toEqual([]);
  });

  it("is silent when a condition names it, or its rule is off", () => {
    const waited = structuredClone(deafToChalk);
    waited.behaviour.modes[0].entering.push({
      id: "step-9" as never,
      step: "wait",
      until: { not: { seen: [waited.targets[4].id] } },
    });
    expect(of(waited, "target-without-response")).toEqual([]);
    const off = structuredClone(deafToChalk);
    off.ruleSets[0].rules[4].on = false;
    expect(of(off, "target-without-response")).toEqual([]);
  });

  it("is silent where a step says whatever is seen", () => {
    const telling = changed((p) => {
      p.behaviour.modes = structuredClone(deafToChalk.behaviour.modes);
      p.behaviour.modes[0].entering.push({ id: "step-9" as never, step: "show", what: { seen: true } });
    });
    expect(of(telling, "target-without-response")).toEqual([]);
  });

  it("speaks of the code where a code stands for the target", () => {
    const coded = changed((p) => {
      p.behaviour.modes = structuredClone(deafToChalk.behaviour.modes);
      p.ruleSets[0].rules = p.ruleSets[0].rules.filter((r) => r.target !== "chalk");
      p.sensors[0].codes = { 7: p.targets.find((t) => t.id === "chalk")?.id ?? p.targets[0].id };
    });
    expect(of(coded, "target-without-response")[0].sentence).toMatch(/^It has a code, /);
  });
});

describe("no-background", () => {
  it("warns when only targets are marked", () => {
    const bare = changed((p) => {
      const grounds = new Set(p.targets.filter((t) => t.kind === "background").map((t) => t.id));
      for (const tape of p.tapes) tape.marks = tape.marks.filter((m) => !grounds.has(m.target));
    });
    expect(of(bare, "no-background")).toHaveLength(1);
  });

  it("is silent while nothing at all is marked, and where a background is", () => {
    expect(of(document, "no-background")).toEqual([]);
    const empty = changed((p) => {
      for (const tape of p.tapes) tape.marks = [];
    });
    expect(of(empty, "no-background")).toEqual([]);
  });
});

/** The demo with the raw values of one target's marked readings changed. */
function reread(target: string, change: (raw: number, channel: string) => number): typeof readings {
  return new Map(
    [...readings].map(([id, raw]) => {
      const marks = document.tapes.find((t) => t.id === id)?.marks.filter((m) => m.target === target) ?? [];
      const within = (t: number) => marks.some((m) => m.from <= t && t <= m.to);
      const channels = Object.entries(raw.channels).map(([name, column]) => [
        name,
        column.map((value, i) => (within(raw.t[i]) ? change(value, name) : value)),
      ]);
      return [id, { t: raw.t, channels: Object.fromEntries(channels) }];
    }),
  );
}
const found = (project: ProjectDocument, code: FindingCode, from = readings) =>
  findAll({ project, tapes: markedTapes(project, from) }).filter((f) => f.code === code);
/** The findings of a kind that are left once the first one's fix is applied. */
const afterFix = (project: ProjectDocument, code: FindingCode, from = readings) => {
  const [{ fix }] = found(project, code, from);
  if (fix === undefined) throw new Error("there is no fix");
  return found(applyFix(project, fix.change), code, from);
};
const coralBand = (...tests: Test[]) =>
  changed((p) => {
    p.ruleSets[0].rules[0].any = numbered("clause", [{ all: tests }]);
  });
const sat: Test = { feature: "sat", from: 0.6 };
const val: Test = { feature: "val", from: 0.55 };

describe("red-not-wrapped", () => {
  // A coral whose hues lie on both sides of 0°.
  const turned = reread("coral", (raw, channel) => (channel === "b" ? raw * 1.55 : raw));
  const oneSided = coralBand({ feature: "hue", from: 0, to: 16 }, sat, val);

  it("finds the band that has one side of 0° only, and lets it run through", () => {
    const [finding] = found(oneSided, "red-not-wrapped", turned);
    expect(finding.sentence).toMatch(
      /the band leaves out most of those below 360°. Let it run from 3\d\d° through 0° to \d+°/,
    );
    expect(afterFix(oneSided, "red-not-wrapped", turned)).toEqual([]);
  });

  it("is silent where the band runs through 0°, where a second clause has the other side, or nothing lies there", () => {
    expect(found(document, "red-not-wrapped", turned)).toEqual([]);
    const two = changed((p) => {
      p.ruleSets[0].rules[0].any = [
        { id: "clause-1" as never, all: [{ feature: "hue", from: 0, to: 16 }, sat] },
        { id: "clause-2" as never, all: [{ feature: "hue", from: 340 }, sat] },
      ];
    });
    expect(found(two, "red-not-wrapped", turned)).toEqual([]);
    // A few readings beyond the ends of a band that runs through 0° are not a side that is left out.
    const close = coralBand({ feature: "hue", from: 350, to: 2 }, sat, val);
    expect(found(close, "red-not-wrapped", turned).map((f) => f.sentence)).toEqual([]);
    expect(found(oneSided, "red-not-wrapped")).toEqual([]);
  });
});

describe("band-tight", () => {
  it("counts the marked readings that are lost, names the test, and widens it so far as to have them", () => {
    const tight = coralBand({ feature: "hue", from: 3, to: 5 }, sat, val);
    const [finding] = found(tight, "band-tight");
    expect(finding.title).toMatch(/^\d+ of 404 readings of Coral tag are not recognised$/);
    expect(finding.sentence).toContain("fail the test of hue");
    expect(afterFix(tight, "band-tight")).toEqual([]);
  });

  it("offers no fix where the wider band would take other things", () => {
    const apart = coralBand({ feature: "val", from: 0.8 });
    const [finding] = found(apart, "band-tight");
    expect(finding.fix).toBeUndefined();
    expect(finding.sentence).toContain("would take other things too");
  });

  it("is silent where a narrow band has all readings", () => {
    expect(found(document, "band-tight")).toEqual([]);
  });
});

describe("band-loose", () => {
  it("finds the end that lies far beyond the readings, and draws it in", () => {
    const loose = coralBand({ feature: "hue", from: 290, to: 16 }, sat, val);
    const [finding] = found(loose, "band-loose");
    expect(finding.title).toBe("Coral tag’s hue band reaches far beyond its readings");
    expect(afterFix(loose, "band-loose")).toEqual([]);
  });

  it("lets open ends and wide spreads be", () => {
    expect(found(document, "band-loose")).toEqual([]);
    expect(found(coralBand({ feature: "sat" }, val), "band-loose")).toEqual([]);
  });
});

describe("rule-shadowed", () => {
  const shadowed = changed((p) => {
    p.ruleSets[0].rules[0].any = numbered("clause", [{ all: [{ feature: "sat", from: 0.3 }] }]);
  });

  it("finds the rule that an earlier one leaves nothing, and puts it before that", () => {
    const all = found(shadowed, "rule-shadowed");
    expect(all.map((f) => f.place.rule)).toEqual(["teal", "amber", "violet"]);
    expect(all[0].sentence).toContain("that for Coral tag");
    expect(afterFix(shadowed, "rule-shadowed").map((f) => f.place.rule)).toEqual(["amber", "violet"]);
  });

  it("is silent about a rule that matches nothing at all, and about one that is off", () => {
    const never = changed((p) => {
      p.ruleSets[0].rules[1].any = [
        {
          id: "clause-1" as never,
          all: [
            { feature: "val", from: 0.99 },
            { feature: "sat", from: 0.99 },
          ],
        },
      ];
    });
    expect(found(never, "rule-shadowed")).toEqual([]);
    const off = structuredClone(shadowed);
    for (const rule of off.ruleSets[0].rules.slice(1)) rule.on = false;
    expect(found(off, "rule-shadowed")).toEqual([]);
  });
});

describe("targets-overlap", () => {
  it("names two that read alike in every feature", () => {
    const alike = changed((p) => {
      for (const tape of p.tapes)
        for (const mark of tape.marks.filter((m) => m.target === "violet").slice(0, 1)) mark.target = p.targets[1].id;
      for (const tape of p.tapes) tape.marks = tape.marks.filter((m) => m.target !== "teal" || m.to - m.from > 1900);
    });
    const twins = changed((p) => {
      const [coral] = p.targets;
      p.targets.push({ ...coral, id: "rose" as typeof coral.id, code: "RO", name: "Rose tag" });
      for (const { marks } of p.tapes) {
        const last = marks.findLast((m) => m.target === "coral");
        if (last) last.target = "rose" as typeof coral.id;
      }
    });
    expect(found(twins, "targets-overlap").map((f) => f.title)).toEqual(["Coral tag and Rose tag read alike"]);
    expect(found(alike, "targets-overlap").every((f) => f.level === "warning")).toBe(true);
  });

  it("is silent about coral and terracotta, which differ in value", () => {
    expect(found(document, "targets-overlap")).toEqual([]);
  });
});

describe("one-light-only", () => {
  it("warns where all is marked in one light, and where one target is", () => {
    const single = changed((p) => {
      for (const tape of p.tapes) for (const mark of tape.marks) mark.light = p.lights[0].id;
    });
    expect(found(single, "one-light-only").map((f) => [f.level, f.title])).toEqual([
      ["warning", "Everything is marked in Overcast"],
    ]);
    const partly = changed((p) => {
      p.tapes[1].marks = p.tapes[1].marks.filter((m) => m.target !== "teal");
    });
    expect(found(partly, "one-light-only").map((f) => f.title)).toEqual(["Teal tag is marked in Overcast only"]);
  });

  it("is silent where all is marked in both, and where nothing is marked", () => {
    expect(found(document, "one-light-only")).toEqual([]);
    const bare = changed((p) => {
      for (const tape of p.tapes) tape.marks = [];
    });
    expect(found(bare, "one-light-only")).toEqual([]);
  });
});

describe("few-readings", () => {
  it("counts a target's readings where they are few", () => {
    const few = changed((p) => {
      for (const tape of p.tapes) tape.marks = tape.marks.filter((m) => m.target !== "teal");
      p.tapes[0].marks.push({ id: "mark-99" as never, from: 1000, to: 1200, target: p.targets[1].id });
    });
    expect(found(few, "few-readings").map((f) => f.title)).toEqual(["Teal tag has 11 marked readings"]);
  });

  it("is silent about many, and about none", () => {
    expect(found(document, "few-readings")).toEqual([]);
  });
});

describe("clips", () => {
  it("counts readings at the scale's end", () => {
    const [finding] = found(
      document,
      "clips",
      reread("chalk", () => 1023),
    );
    expect(finding.title).toBe("Chalk line is too bright for the sensor");
  });

  it("is silent about bright readings below it", () => {
    expect(
      found(
        document,
        "clips",
        reread("chalk", () => 1022),
      ),
    ).toEqual([]);
  });
});

describe("too-dark", () => {
  it("warns about a target that hardly reads", () => {
    expect(
      found(
        document,
        "too-dark",
        reread("violet", (raw) => raw * 0.05),
      ).map((f) => f.place.target),
    ).toEqual(["violet"]);
  });

  it("lets dark grounds be", () => {
    expect(
      found(
        document,
        "too-dark",
        reread("moss", (raw) => raw * 0.05),
      ),
    ).toEqual([]);
  });
});

describe("target-without-rule", () => {
  const without = changed((p) => {
    p.ruleSets[0].rules = p.ruleSets[0].rules.filter((r) => r.target !== "teal");
  });

  it("names a marked target that no rule takes, and adds one around its readings", () => {
    const [finding, ...others] = found(without, "target-without-rule");
    expect([finding.title, others]).toEqual(["Teal tag has no rule", []]);
    // The demo's behaviour waits for it.
    expect(finding.level).toBe("error");
    const unused = structuredClone(without);
    unused.behaviour.modes = [{ ...unused.behaviour.modes[0], entering: [], responses: [] }];
    expect(found(unused, "target-without-rule").map((f) => f.level)).toEqual(["hint"]);
    expect(afterFix(without, "target-without-rule")).toEqual([]);
  });

  it("is silent while there are no rules at all, and about what is not marked", () => {
    const none = changed((p) => {
      p.ruleSets[0].rules = [];
    });
    expect(found(none, "target-without-rule")).toEqual([]);
    const unmarked = structuredClone(without);
    for (const tape of unmarked.tapes) tape.marks = tape.marks.filter((m) => m.target !== "teal");
    expect(found(unmarked, "target-without-rule")).toEqual([]);
  });
});

describe("feature-not-reported", () => {
  const tests = changed((p) => {
    coralTests(p).push({ feature: "reflected", from: 0.2 });
  });

  it("finds a test of what the sensor does not give, and leaves it out", () => {
    expect(found(tests, "feature-not-reported").map((f) => f.title)).toEqual([
      "Belly sensor does not report reflected light",
    ]);
    expect(applyFix(tests, found(tests, "feature-not-reported")[0].fix?.change as Change).ruleSets).toEqual(
      document.ruleSets,
    );
  });

  it("is silent about a rule that is off", () => {
    const off = structuredClone(tests);
    off.ruleSets[0].rules[0].on = false;
    expect(found(off, "feature-not-reported")).toEqual([]);
  });
});

describe("rule-names-missing-target", () => {
  it("finds a rule whose target is gone, and deletes it", () => {
    const gone = changed((p) => {
      p.targets = p.targets.filter((t) => t.id !== "violet");
      for (const tape of p.tapes) tape.marks = tape.marks.filter((m) => m.target !== "violet");
    });
    expect(found(gone, "rule-names-missing-target").map((f) => f.place.rule)).toEqual(["violet"]);
    expect(afterFix(gone, "rule-names-missing-target")).toEqual([]);
    expect(found(document, "rule-names-missing-target")).toEqual([]);
  });
});

describe("settings-of-another-sensor", () => {
  const withReference = (reference: { dark: number[]; white: number[] }) =>
    changed((p) => {
      p.sensors[0].reference = reference;
    });

  it("finds white and dark that lie outside the scale, or far below what is read", () => {
    const outside = withReference({ dark: [6, 6, 6], white: [40_000, 41_000, 39_000] });
    expect(found(outside, "settings-of-another-sensor")[0].sentence).toContain("scale runs from 0 to 1023");
    const dim = withReference({ dark: [6, 6, 6], white: [60, 60, 60] });
    expect(found(dim, "settings-of-another-sensor")[0].sentence).toMatch(/\d+ of its \d+ readings are brighter/);
    expect(afterFix(dim, "settings-of-another-sensor")).toEqual([]);
  });

  it("finds the very same figures on two sensors", () => {
    const copied = changed((p) => {
      p.sensors.push({ ...p.sensors[0], id: "eye" as (typeof p.sensors)[0]["id"], name: "Left eye" });
    });
    expect(found(copied, "settings-of-another-sensor")).toHaveLength(2);
  });

  it("finds references that the sensor's readings cannot be compared with", () => {
    const other = changed((p) => {
      p.ruleSets[0].method = "nearest";
      p.ruleSets[0].nearest.references = [
        { id: "reference-1" as never, target: p.targets[0].id, hue: 5, sat: 0.8, val: 0.7 },
        { id: "reference-2" as never, target: p.targets[1].id, reflected: 0.4 },
      ];
    });
    expect(found(other, "settings-of-another-sensor")[0].title).toContain("1 references cannot be compared");
    expect(afterFix(other, "settings-of-another-sensor")).toEqual([]);
  });

  it("is silent about the sensor's own", () => {
    expect(found(document, "settings-of-another-sensor")).toEqual([]);
  });
});

describe("code-not-mapped", () => {
  const coded = changed((p) => {
    const { reference: _, order: __, ...sensor } = p.sensors[0];
    p.sensors[0] = { ...sensor, reports: "code", scale: {}, codes: { 5: p.targets[0].id } };
  });
  const codes = new Map(
    [...readings].map(([id, { t }]) => {
      const marks = document.tapes.find((tape) => tape.id === id)?.marks ?? [];
      const codeAt = (time: number) => {
        const target = marks.find((m) => m.from <= time && time <= m.to)?.target;
        return target === "coral" ? 5 : target === "teal" ? 3 : 0;
      };
      return [id, { t, channels: { code: t.map(codeAt) } }];
    }),
  );

  it("names the code that stands for nothing, and maps it to what it came over", () => {
    const all = found(coded, "code-not-mapped", codes);
    expect(all.map((f) => f.title)).toEqual(["Belly sensor says code 3, which stands for nothing"]);
    expect(all[0].fix?.label).toBe("Map to Teal tag");
    expect(afterFix(coded, "code-not-mapped", codes)).toEqual([]);
  });
});

describe("background-taken by nearest references", () => {
  it("gives a background without a reference its own", () => {
    const set = nearestFromMarks(
      document.ruleSets[0],
      sampleOf(document, markedTapes(document, readings), document.ruleSets[0].id),
    );
    const project = {
      ...document,
      ruleSets: [
        {
          ...set,
          nearest: { references: set.nearest.references.filter((r) => r.target !== "terracotta"), reject: 0.5 },
        },
        ...document.ruleSets.slice(1),
      ],
    };
    expect(found(project, "background-taken").map((f) => f.place.target)).toContain("terracotta");
    expect(afterFix(project, "background-taken").filter((f) => f.place.target === "terracotta")).toEqual([]);
  });
});

describe("references-miss", () => {
  const byNearest = (turn: (value: number) => number) => {
    const sample = sampleOf(document, markedTapes(document, readings), document.ruleSets[0].id);
    const set = nearestFromMarks(document.ruleSets[0], sample);
    const references = set.nearest.references.map((r) =>
      "hue" in r && r.hue !== undefined ? { ...r, hue: turn(r.hue) } : r,
    );
    return changed((p) => {
      p.ruleSets[0] = { ...set, nearest: { ...set.nearest, references } };
    });
  };

  it("says that targets are nearest to the references of others, and makes new ones", () => {
    const elsewhere = byNearest((hue) => (hue + 180) % 360);
    const [finding, ...others] = found(elsewhere, "references-miss");
    expect(others).toEqual([]);
    expect(finding.level).toBe("error");
    expect(finding.title).toMatch(/^\d+ of \d+ readings of .*Coral tag.* are not nearest to their references$/);
    expect(afterFix(elsewhere, "references-miss")).toEqual([]);
  });

  it("is silent where each target is nearest to its own, and where one goes by bands", () => {
    expect(
      found(
        byNearest((hue) => hue),
        "references-miss",
      ),
    ).toEqual([]);
    expect(found(document, "references-miss")).toEqual([]);
  });
});

it("finds nothing in a project that has nothing yet", () => {
  expect(findAll({ project: emptyProject("New"), tapes: [] })).toEqual([]);
});
