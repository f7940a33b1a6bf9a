import * as z from "zod";
import type { ProjectDocument } from "../project";

/** One kind of change that can be made to a project, whole. A new one is one more entry of `EDITS`. */
export interface EditKind<A> {
  readonly schema: z.ZodType<A>;
  /** What was done, behind “Undo:”: `bound of Coral tag moved`. */
  words(args: A, project: ProjectDocument): string;
  /** The text that edits of one movement of a hand have in common; without it each edit is a change of its own. */
  gathers?(args: A): string;
  /** Why it cannot be done, as a sentence; what is left undone keeps the project as it is. */
  refused?(args: A, project: ProjectDocument): string | undefined;
  /** The project with the change, the same object where nothing changes; or what is wrong. Things are found by their ids. */
  apply(project: ProjectDocument, args: A): ProjectDocument | { problem: string };
}

/** A kind of edit by the fields of its arguments, and what it does. */
export const editKind = <S extends z.ZodRawShape>(
  shape: S,
  told: Omit<EditKind<z.infer<z.ZodObject<S, z.core.$strict>>>, "schema">,
): EditKind<z.infer<z.ZodObject<S, z.core.$strict>>> => ({ schema: z.strictObject(shape), ...told }) as never;
