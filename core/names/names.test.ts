import fc from "fast-check";
import { describe, expect, it } from "vitest";
import * as z from "zod";
import { cutName, freeId, Name, pathText, RESERVED_WORDS, Table, unusedName, zodProblem } from ".";
import { Id } from "./idSchemas";

it("a name is cut so that it can be kept, and its ending stays", () => {
  expect(cutName("Coral", ", copy")).toBe("Coral, copy");
  const long = cutName("c".repeat(200), ", copy");
  expect(long).toBe(`${"c".repeat(74)}, copy`);
  expect(Name.safeParse(long).success).toBe(true);
  expect(Name.safeParse(`${long}!`).success).toBe(false);
});

describe("a free id", () => {
  it.each([
    ["In the bay", [], "in-the-bay"],
    ["In the bay", ["in-the-bay"], "in-the-bay-2"],
    ["In the bay", ["in-the-bay", "in-the-bay-2"], "in-the-bay-3"],
    ["Crème brûlée", [], "creme-brulee"],
    ["2nd tag", [], "nd-tag"],
    ["Until", [], "until-1"],
    ["!!!", [], "new-1"],
    ["", ["new-1"], "new-1-2"],
  ])("from “%s” beside %j is %s", (name, taken, id) => {
    expect(freeId(name, taken)).toBe(id);
  });

  it("can always be kept, is no word of the phrases and not taken", () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.constantFrom(...RESERVED_WORDS)), fc.array(fc.string()), (name, others) => {
        const taken = [...others, freeId(name, [])];
        const id = freeId<string>(name, taken);
        expect(Id.safeParse(id).success, id).toBe(true);
        expect(RESERVED_WORDS.has(id)).toBe(false);
        expect(taken).not.toContain(id);
      }),
    );
  });
});

describe("a table", () => {
  const kind = (key: string) => ({ key, schema: z.strictObject({ [key]: z.number() }) });

  it("gives its entries in order and by key", () => {
    const table = new Table([kind("a"), kind("b")]);
    expect(table.entries.map((e) => e.key)).toEqual(["a", "b"]);
    expect(table.get("b").key).toBe("b");
    expect(table.find("c")).toBeUndefined();
    expect(() => table.get("c")).toThrow("there is no kind “c” here");
  });

  it("takes one more, which a union made before then knows, and lets it go again", () => {
    const table = new Table([kind("a"), kind("b")]);
    const union = z.union(table.schemas as [z.ZodType, z.ZodType]);
    expect(union.safeParse({ c: 1 }).success).toBe(false);
    const takeAway = table.add(kind("c"));
    expect(union.safeParse({ c: 1 }).success).toBe(true);
    takeAway();
    expect(union.safeParse({ c: 1 }).success).toBe(false);
    expect(table.find("c")).toBeUndefined();
    expect(table.schemas).toHaveLength(2);
  });
});

describe("what is wrong with a file", () => {
  const problem = (schema: z.ZodType, value: unknown) => {
    const parsed = schema.safeParse(value);
    if (parsed.success) throw new Error("nothing is wrong");
    return zodProblem(parsed.error);
  };
  const Step = z.union([
    z.strictObject({ step: z.literal("wait"), ms: z.number().positive() }),
    z.strictObject({ step: z.literal("drive"), speed: z.number().min(-1).max(1) }),
  ]);
  const File = z.strictObject({
    name: z.string().min(1).max(5),
    sizes: z.tuple([z.number(), z.number()]),
    count: z.number().int().min(0).max(3),
    kind: z.enum(["tag", "background"]),
    steps: z.array(Step).max(2),
    on: z.boolean(),
    facts: z.record(z.string(), z.number()),
  });
  const whole = {
    name: "Round",
    sizes: [1, 2],
    count: 1,
    kind: "tag",
    steps: [{ step: "wait", ms: 5 }],
    on: true,
    facts: { a: 1 },
  };

  it("is nothing with this one", () => {
    expect(File.safeParse(whole).success).toBe(true);
  });

  it.each([
    [{ ...whole, name: "" }, "name", "must have at least 1 character"],
    [{ ...whole, name: "Roundabout" }, "name", "must have at most 5 characters"],
    [{ ...whole, name: 5 }, "name", "must be a text"],
    [{ ...whole, name: undefined }, "name", "is missing; it must be a text"],
    [{ ...whole, sizes: [1, "b"] }, "sizes[1]", "must be a number"],
    [{ ...whole, count: 4 }, "count", "must be at most 3"],
    [{ ...whole, count: -1 }, "count", "must be at least 0"],
    [{ ...whole, count: 0.5 }, "count", "must be a whole number"],
    [{ ...whole, kind: "thing" }, "kind", "is none of tag, background"],
    [{ ...whole, on: "yes" }, "on", "must be true or false"],
    [{ ...whole, facts: { a: 1, b: "c" } }, "facts.b", "must be a number"],
    [{ ...whole, steps: {} }, "steps", "must be a list"],
    [{ ...whole, steps: [1, 2, 3].map(() => whole.steps[0]) }, "steps", "must have at most 2 entries"],
    [{ ...whole, more: 1 }, "the whole file", "has “more”, which is not known here"],
    [[], "the whole file", "must be an object"],
    // In a union, what is wrong is said of the kind that was meant.
    [{ ...whole, steps: [{ step: "wait", ms: 0 }] }, "steps[0].ms", "must be above 0"],
    [{ ...whole, steps: [{ step: "drive", speed: 2 }] }, "steps[0].speed", "must be at most 1"],
    [{ ...whole, steps: [{ step: "drive" }] }, "steps[0].speed", "is missing; it must be a number"],
    [{ ...whole, steps: [{ step: "fly", ms: 1 }] }, "steps[0].step", "is none of wait, drive"],
  ])("%#: %j", (value, place, message) => {
    expect(problem(File, value)).toEqual({ place, message });
  });

  it("keeps the words that a schema has of its own", () => {
    expect(problem(z.string().regex(/^#/, "a colour begins with #"), "red").message).toBe("a colour begins with #");
  });

  it("writes a path as it would be written in a program", () => {
    expect(pathText(["ruleSets", 0, "rules", 2, "target"])).toBe("ruleSets[0].rules[2].target");
    expect(pathText([])).toBe("");
    expect(pathText([3, "x"])).toBe("[3].x");
  });
});

it("gives a name that nothing has", () => {
  const things = (...names: string[]) => names.map((name) => ({ name }));
  expect(unusedName("Belly sensor, live", [])).toBe("Belly sensor, live");
  expect(unusedName("Belly sensor, live", things("Belly sensor, live"))).toBe("Belly sensor, live 2");
  expect(unusedName("Zone 1", things("Zone 1", "Zone 2"))).toBe("Zone 3");
  expect(unusedName("c".repeat(120), things("c".repeat(120))).endsWith("c 2")).toBe(true);
});
