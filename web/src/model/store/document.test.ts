import { emptyProject, type ProjectDocument } from "@perceptum/core/project";
import { describe, expect, it } from "vitest";
import {
  type DocumentState,
  documentReducer,
  type Edited,
  edited,
  gestureEnded,
  opened,
  redone,
  saveBegan,
  saved,
  saveFailed,
  undone,
} from "./document";

const named = (name: string): ProjectDocument => emptyProject(name);
const start = documentReducer(undefined, opened({ id: "a", project: named("0"), revision: 3 }));
const after = (...actions: Parameters<typeof documentReducer>[1][]): DocumentState =>
  actions.reduce(documentReducer, start);
const edit = (name: string, gesture?: Edited["gesture"]) =>
  edited({
    edit: { edit: "renameProject", args: { name } },
    project: named(name),
    did: name,
    ...(gesture !== undefined && { gesture }),
  });
const DRAG = { by: "drag", of: "x" } as const;

describe("the document", () => {
  it("undoes and redoes changes one by one, and says what they were", () => {
    const two = after(edit("1"), edit("2"));
    expect(two.past.map((s) => s.did)).toEqual(["1", "2"]);
    const back = documentReducer(two, undone(1));
    expect([back.present?.name, back.future[0].did]).toEqual(["1", "2"]);
    expect(documentReducer(back, redone()).present?.name).toBe("2");
    expect(after(undone(1)).present?.name).toBe("0");
  });

  it("takes a whole gesture for one change", () => {
    const dragged = after(edit("1", DRAG), edit("2", DRAG), edit("3", DRAG), gestureEnded(), edit("4", DRAG));
    expect(dragged.past).toHaveLength(2);
    expect(documentReducer(documentReducer(dragged, undone(1)), undone(1)).present?.name).toBe("0");
  });

  it("undoes several at once, and as many as there are", () => {
    const three = after(edit("1"), edit("2"), edit("3"), undone(2));
    expect([three.present?.name, three.future.map((s) => s.did)]).toEqual(["1", ["3", "2"]]);
    expect(after(edit("1"), undone(9)).present?.name).toBe("0");
  });

  it("takes a drag of something else, and keys after it, for changes of their own", () => {
    const other = { by: "drag", of: "y" } as const;
    expect(after(edit("1", DRAG), edit("2", other), edit("3", { by: "keys", of: "y" })).past).toHaveLength(3);
  });

  it("drops what could be redone when something new is done", () => {
    expect(after(edit("1"), undone(1), edit("2")).future).toEqual([]);
  });

  it("settles at the end of a drag, and at once without one", () => {
    const dragging = after(edit("1", DRAG));
    expect([dragging.present?.name, dragging.settled?.name]).toEqual(["1", "0"]);
    expect(documentReducer(dragging, gestureEnded()).settled?.name).toBe("1");
    expect(after(edit("1", { by: "keys", of: "x" })).settled?.name).toBe("1");
    expect(documentReducer(dragging, undone(1)).settled?.name).toBe("0");
  });

  it("is saved only when nothing was changed since it was sent", () => {
    const changed = after(edit("1"), saveBegan());
    const { present } = changed;
    if (present === null) throw new Error("no document");
    expect(documentReducer(changed, saved({ project: present, revision: 4 }))).toMatchObject({
      saving: "saved",
      revision: 4,
    });
    const meanwhile = documentReducer(changed, edit("2"));
    expect(documentReducer(meanwhile, saved({ project: present, revision: 4 })).saving).toBe("unsaved");
  });

  it("stays in conflict until the person has chosen, whatever is changed meanwhile", () => {
    const torn = after(
      edit("1"),
      saveBegan(),
      saveFailed({ kind: "conflict", message: "elsewhere" }),
      edit("2"),
      undone(1),
    );
    expect(torn.saving).toBe("conflict");
  });

  it("keeps at most 300 changes", () => {
    const many = after(...Array.from({ length: 310 }, (_, i) => edit(`${i}`)));
    expect(many.past).toHaveLength(300);
  });
});
