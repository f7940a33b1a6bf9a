import * as z from "zod";
import { LightIdSchema, MarkIdSchema, Name, TapeIdSchema } from "../names";
import type { ProjectDocument } from "../project";
import { Box, inLight, Mark, TapeHead } from "../readings";
import { changed, changeOf, without, withThing } from "./change";
import { editKind } from "./editKind";
import { nameIn } from "./words";

const OfTape = { tape: TapeIdSchema };
const Stretch = z.strictObject({ from: z.number(), to: z.number() });

const withTape = (project: ProjectDocument, tape: string, change: (tape: TapeHead) => TapeHead): ProjectDocument => {
  const tapes = withThing(project.tapes, tape, change);
  return tapes === project.tapes ? project : { ...project, tapes };
};
const tapeName = ({ tapes }: ProjectDocument, tape: string) => nameIn(tapes, tape);
const targetName = ({ targets }: ProjectDocument, target: string) => nameIn(targets, target);

/**
 * New tapes, in the place of those that go. Readings are never overwritten: what is cut or joined is a new tape, so that
 * undo brings the old one back.
 */
export const addTapes = editKind(
  { did: z.string().max(200), tapes: z.array(TapeHead).max(200), gone: z.array(TapeIdSchema).max(200) },
  {
    words: ({ did }) => did,
    apply(project, { tapes, gone }) {
      const at = project.tapes.findIndex((tape) => gone.includes(tape.id));
      const left = project.tapes.filter((tape) => !gone.includes(tape.id));
      return { ...project, tapes: left.toSpliced(at < 0 ? left.length : at, 0, ...tapes) };
    },
  },
);

export const renameTape = editKind(
  { ...OfTape, name: Name },
  {
    words: ({ name }) => `tape named ${name}`,
    apply: (project, { tape, name }) => withTape(project, tape, (one) => ({ ...one, name })),
  },
);

export const deleteTape = editKind(OfTape, {
  words: ({ tape }, project) => `${tapeName(project, tape)} deleted`,
  apply: (project, { tape }) => ({ ...project, tapes: without(project.tapes, tape) }),
});

/** The light that marks and boxes of a tape, or of a stretch of it, were taken in; null: none is noted. */
export const setTapeLight = editKind(
  { ...OfTape, light: LightIdSchema.nullable(), within: Stretch.optional() },
  {
    words: ({ tape }, project) => `light of ${tapeName(project, tape)} noted`,
    apply: (project, { tape, light, within }) =>
      withTape(project, tape, (one) => inLight(one, light ?? undefined, within)),
  },
);

const withMarks = (project: ProjectDocument, tape: string, change: (marks: Mark[]) => Mark[]) =>
  withTape(project, tape, (one) => {
    const marks = change(one.marks);
    return marks === one.marks ? one : { ...one, marks };
  });
const OfMark = { ...OfTape, mark: MarkIdSchema };

export const addMark = editKind(
  { ...OfTape, mark: Mark },
  {
    words: ({ mark }, project) => `mark of ${targetName(project, mark.target)} added`,
    apply: (project, { tape, mark }) =>
      withMarks(project, tape, (marks) => [...marks, mark].sort((a, b) => a.from - b.from)),
  },
);

/** A mark never ends before it begins: an end that is dragged past the other stops there. */
export const changeMark = editKind(
  { ...OfMark, change: changeOf(Mark) },
  {
    words: () => "mark changed",
    gathers: ({ tape, mark }) => `${tape} ${mark}`,
    apply: (project, { tape, mark, change }) =>
      withMarks(project, tape, (marks) =>
        withThing(marks, mark, (one) => {
          const made = changed(one, change);
          if (made.from <= made.to) return made;
          return change.from === undefined ? { ...made, to: made.from } : { ...made, from: made.to };
        }),
      ),
  },
);

/** A mark in two: up to `left`, and from `right` on, which gets an id of its own. */
export const splitMark = editKind(
  { ...OfMark, left: z.number(), right: z.number(), second: MarkIdSchema },
  {
    words: () => "mark split",
    apply: (project, { tape, mark, left, right, second }) =>
      withMarks(project, tape, (marks) =>
        marks.flatMap((one) =>
          one.id === mark
            ? [
                { ...one, to: left },
                { ...one, from: right, id: second },
              ]
            : [one],
        ),
      ),
  },
);

export const deleteMark = editKind(OfMark, {
  words: () => "mark deleted",
  apply: (project, { tape, mark }) => withMarks(project, tape, (marks) => without(marks, mark)),
});

const withBoxes = (project: ProjectDocument, tape: string, change: (boxes: Box[]) => Box[]) =>
  withTape(project, tape, (one) => ({ ...one, boxes: change(one.boxes ?? []) }));
const OfBox = { ...OfTape, box: Box.shape.id };

export const addBox = editKind(
  { ...OfTape, box: Box },
  {
    words: ({ box }, project) => `box of ${targetName(project, box.target)} added`,
    apply: (project, { tape, box }) => withBoxes(project, tape, (boxes) => [...boxes, box]),
  },
);

export const changeBox = editKind(
  { ...OfBox, change: changeOf(Box) },
  {
    words: () => "box changed",
    apply: (project, { tape, box, change }) =>
      withBoxes(project, tape, (boxes) => withThing(boxes, box, (one) => changed(one, change))),
  },
);

export const deleteBox = editKind(OfBox, {
  words: () => "box deleted",
  apply: (project, { tape, box }) => withBoxes(project, tape, (boxes) => without(boxes, box)),
});
