import type { Edit } from "@perceptum/core/edits";
import type { ProjectDocument } from "@perceptum/core/project";
import { createSlice, original, type PayloadAction, SHOULD_AUTOBATCH } from "@reduxjs/toolkit";

/** The most changes that can be undone. */
const MOST_UNDO = 300;

/** A movement of the hand whose edits are one change: a drag of the pointer, or one key after the other. */
export type Gesture = "drag" | "keys";

/** A change that can be undone, or done again. */
export interface Step {
  project: ProjectDocument;
  /** What was done, behind “Undo:”: `bound of Coral tag moved`. */
  did: string;
}

/** Why a change was not saved: it is tried again, was made elsewhere too, its project is gone, or it is refused. */
export interface Failure {
  kind: "failed" | "conflict" | "gone" | "refused";
  /** What happened and what was kept, in sentences. */
  message: string;
}

/** Where the document stands with the server. */
export type Saving = "saved" | "unsaved" | "saving" | Failure["kind"];

/** An edit that was made, and what it made of the project. */
export interface Edited {
  edit: Edit;
  did: string;
  project: ProjectDocument;
  /** The movement of a hand that it belongs to, and what the edits of one have in common. */
  gesture?: { by: Gesture; of: string };
}

export interface DocumentState {
  id: string | null;
  present: ProjectDocument | null;
  /** The present as it was before a drag that is still going on; else the present itself. */
  settled: ProjectDocument | null;
  past: Step[];
  future: Step[];
  /** The movement of a hand that the last change belongs to: a drag is one change. */
  gesture: Edited["gesture"] | null;
  /** The document as the server has it, at `revision`. */
  base: ProjectDocument | null;
  /** The revision at the server that the present was made on. */
  revision: number;
  saving: Saving;
  trouble: string;
}

const initialState: DocumentState = {
  id: null,
  present: null,
  settled: null,
  past: [],
  future: [],
  gesture: null,
  base: null,
  revision: 0,
  saving: "saved",
  trouble: "",
};

const isSame = (a: NonNullable<Edited["gesture"]>, b: Edited["gesture"] | null): boolean =>
  a.by === b?.by && a.of === b.of;

/** A change is to be sent, unless somebody has to choose first. */
function changed(state: Pick<DocumentState, "saving">): void {
  if (state.saving !== "conflict" && state.saving !== "gone") state.saving = "unsaved";
}

const slice = createSlice({
  name: "document",
  initialState,
  reducers: {
    opened: (_, { payload }: PayloadAction<{ id: string; project: ProjectDocument; revision: number }>) => ({
      ...initialState,
      id: payload.id,
      present: payload.project,
      settled: payload.project,
      base: payload.project,
      revision: payload.revision,
    }),
    /** Work that this browser kept takes the place of what the server has; it is sent on the revision it was made on. */
    restored(state, { payload }: PayloadAction<{ project: ProjectDocument; revision: number }>) {
      if (state.present === null) return;
      state.past.push({ project: state.present, did: "unsent changes restored" });
      state.future = [];
      state.present = payload.project;
      state.settled = payload.project;
      state.gesture = null;
      state.revision = payload.revision;
      state.saving = "unsaved";
    },
    closed: () => initialState,
    /** One change of the user's. Changes of one `gesture` are undone together. */
    edited: {
      // With `held`, listeners hear of it as `HeldDrawing` says.
      prepare: ({ held, ...payload }: Edited & { held?: boolean }) => ({ payload, meta: { [SHOULD_AUTOBATCH]: held } }),
      reducer(state, { payload }: PayloadAction<Edited>) {
        if (state.present === null || payload.project === original(state)?.present) return;
        const { project, did, gesture = null } = payload;
        if (gesture === null || !isSame(gesture, state.gesture)) {
          state.past.push({ project: state.present, did });
          if (state.past.length > MOST_UNDO) state.past.shift();
        }
        state.future = [];
        state.gesture = gesture;
        state.present = project;
        if (gesture?.by !== "drag") state.settled = project;
        changed(state);
      },
    },
    gestureEnded(state) {
      state.gesture = null;
      state.settled = state.present;
    },
    /** The last changes are undone, so many. */
    undone(state, { payload: count }: PayloadAction<number>) {
      for (let i = 0; i < count; i++) {
        const step = state.past.pop();
        if (step === undefined || state.present === null) return;
        state.future.push({ project: state.present, did: step.did });
        state.present = step.project;
        state.settled = step.project;
        state.gesture = null;
        changed(state);
      }
    },
    redone(state) {
      const step = state.future.pop();
      if (step === undefined || state.present === null) return;
      state.past.push({ project: state.present, did: step.did });
      state.present = step.project;
      state.settled = step.project;
      state.gesture = null;
      changed(state);
    },
    saveBegan(state) {
      state.saving = "saving";
    },
    /** The server has `project` as `revision`; later changes are still to be sent. */
    saved(state, { payload }: PayloadAction<{ project: ProjectDocument; revision: number }>) {
      state.revision = payload.revision;
      state.base = payload.project;
      state.saving = original(state)?.present === payload.project ? "saved" : "unsaved";
      state.trouble = "";
    },
    saveFailed(state, { payload }: PayloadAction<Failure>) {
      state.saving = payload.kind;
      state.trouble = payload.message;
    },
    /** Back to what the server has; what is left can be brought back by undo. */
    takenBack(state) {
      if (state.present === null || state.base === null) return;
      state.past.push({ project: state.present, did: "last saved state taken" });
      state.present = state.base;
      state.settled = state.base;
      state.future = [];
      state.gesture = null;
      state.saving = "saved";
      state.trouble = "";
    },
    /** The person chose to save over what is at the server. */
    conflictOverruled(state, { payload }: PayloadAction<number>) {
      state.revision = payload;
      state.saving = "unsaved";
    },
  },
});

export const {
  opened,
  restored,
  closed,
  edited,
  gestureEnded,
  undone,
  redone,
  saveBegan,
  saved,
  saveFailed,
  takenBack,
  conflictOverruled,
} = slice.actions;
export const documentReducer = slice.reducer;
