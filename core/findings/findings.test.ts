import { describe, expect, it } from "vitest";
import { type ProjectDocument, splitProject } from "../project";
import { glasshouseRound } from "../project/demo";
import { applyChange } from "../rules";
import { markedTapes } from "../teaching";
import { type FindingCode, findAll } from ".";

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
      /^\d+ of 314 readings, all in Noon sun\. Raising the lower val bound to \d+ % turns them all away and loses no reading of Coral tag\.$/,
    );
    expect(finding.level).toBe("error");
  });

  it("is gone once its fix is applied", () => {
    const [{ fix }] = of(document, "background-taken");
    expect(fix && of(applyChange(document, fix.change), "background-taken")).toEqual([]);
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

describe("hue-on-grey", () => {
  const hueOnly = changed((p) => {
    p.ruleSets[0].rules[0].any = [{ all: [{ feature: "hue", from: 350, to: 16 }] }];
  });

  it("warns where a rule tests hue and lets grey slate through, and mends it", () => {
    const findings = of(hueOnly, "hue-on-grey");
    expect(findings.map((f) => f.title)).toContain("Slate paving has no stable hue");
    const slate = findings.find((f) => f.place.target === "slate");
    const mended = slate?.fix && applyChange(hueOnly, slate.fix.change);
    expect(mended && of(mended, "hue-on-grey").filter((f) => f.place.target === "slate")).toEqual([]);
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
    expect(finding.fix && of(applyChange(point, finding.fix.change), "band-is-point")).toEqual([]);
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
  it("hints at the chalk line, which has a rule and no answer", () => {
    expect(of(document, "target-without-response").map((f) => f.place.target)).toEqual(["chalk"]);
  });

  it("is silent when a condition names it, or its rule is off", () => {
    const waited = changed((p) => {
      p.behaviour.modes[0].entering.push({ step: "wait", until: { not: { seen: [p.targets[4].id] } } });
    });
    expect(of(waited, "target-without-response")).toEqual([]);
    const off = changed((p) => {
      p.ruleSets[0].rules[4].on = false;
    });
    expect(of(off, "target-without-response")).toEqual([]);
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
