import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demos } from "../../trials/demos";
import { ProjectDocument } from "../project";
import { applyEdit, EDITS, type EditName, kindOfEdit } from ".";
import { DRAWN, Draw } from "./arbitrary";

const NAMES = Object.keys(EDITS) as EditName[];
const NO_END = /[.…]$/;

describe("the edits", () => {
  it("are all drawn here", () => {
    expect(Object.keys(DRAWN).sort()).toEqual([...NAMES].sort());
  });

  it.each(demos.map((demo) => [demo.name, demo] as const))(
    "leave a project that its schema accepts, and the one before as it was: %s",
    (_, demo) => {
      const one = fc.record({ kind: fc.constantFrom(...NAMES), seed: fc.nat(), inGesture: fc.boolean() });
      fc.assert(
        fc.property(fc.array(one, { minLength: 5, maxLength: 30 }), (moves) => {
          let project = demo;
          const states: [ProjectDocument, string][] = [];
          for (const { kind, seed, inGesture } of moves) {
            const edit = DRAWN[kind](project, new Draw(seed));
            if (edit === undefined) continue;
            expect(kindOfEdit(edit.edit).words(edit.args, project)).not.toMatch(NO_END);
            const done = applyEdit(project, edit, inGesture);
            if ("problem" in done) {
              expect(done.problem).toMatch(/^[A-Z“].*\.$/);
              continue;
            }
            states.push([project, JSON.stringify(project)]);
            project = done.project;
            const read = ProjectDocument.safeParse(project);
            expect(read.success ? [] : [edit, read.error.issues]).toEqual([]);
          }
          // Undone one by one, each state comes back to the last byte.
          for (const [state, text] of states) expect(JSON.stringify(state)).toBe(text);
        }),
        { numRuns: 30 },
      );
    },
  );

  it.each(NAMES)("can be made: %s", (name) => {
    const isMade = (seed: number): boolean => {
      const draw = new Draw(seed);
      let project = demos[seed % demos.length];
      // Some need what others add.
      const before = Array.from({ length: seed % 4 }, () => draw.of(Object.values(DRAWN)));
      for (const drawn of [...before, DRAWN[name]]) {
        const edit = drawn(project, draw);
        const done = edit && applyEdit(project, edit);
        if (done === undefined || "problem" in done) continue;
        if (edit?.edit === name && done.project !== project) return true;
        project = done.project;
      }
      return false;
    };
    expect(Array.from({ length: 2000 }, (_, seed) => seed).some(isMade)).toBe(true);
  });
});
