import { emptyProject, type ProjectDocument } from "@perceptum/core/project";
import { describe, expect, it } from "vitest";
import {
  type DocumentState,
  DRAG,
  documentReducer,
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
const edit = (name: string, gesture?: string) =>
  edited({ project: named(name), what: name, ...(gesture !== undefined && { gesture }) });

describe("the document", () => {
  it("undoes and redoes changes one by one, and says what they were", () => {
    const two = after(edit("1"), edit("2"));
    expect(two.past.map((s) => s.what)).toEqual(["1", "2"]);
    const back = documentReducer(two, undone());
    expect([back.present?.name, back.future[0].what]).toEqual(["1", "2"]);
    expect(documentReducer(back, redone()).present?.name).toBe("2");
    expect(after(undone()).present?.name).toBe("0");
  });

  it("takes a whole gesture for one change", () => {
    const dragged = after(
      edit("1", "drag x"),
      edit("2", "drag x"),
      edit("3", "drag x"),
      gestureEnded(),
      edit("4", "drag x"),
    );
    expect(dragged.past).toHaveLength(2);
    expect(documentReducer(documentReducer(dragged, undone()), undone()).present?.name).toBe("0");
  });

  it("drops what could be redone when something new is done", () => {
    expect(after(edit("1"), undone(), edit("2")).future).toEqual([]);
  });

  it("settles at the end of a drag, and at once without one", () => {
    const dragging = after(edit("1", `${DRAG}x`));
    expect([dragging.present?.name, dragging.settled?.name]).toEqual(["1", "0"]);
    expect(documentReducer(dragging, gestureEnded()).settled?.name).toBe("1");
    expect(after(edit("1", "keys")).settled?.name).toBe("1");
    expect(documentReducer(dragging, undone()).settled?.name).toBe("0");
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
      undone(),
    );
    expect(torn.saving).toBe("conflict");
  });

  it("keeps at most 300 changes", () => {
    const many = after(...Array.from({ length: 310 }, (_, i) => edit(`${i}`)));
    expect(many.past).toHaveLength(300);
  });
});
