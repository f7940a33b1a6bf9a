import type { ModeId, ResponseId } from "@perceptum/core/names";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { opened } from "./document";

/** Which cell of the response grid is chosen. */
export type Cell =
  | { mode: ModeId; response: ResponseId }
  | { mode: ModeId; entering: true }
  | { mode: ModeId; ignored: string }
  | { routine: string };

/** What Act shows: the grid of responses, the modes as a diagram, the behaviour in words, or a tape's rehearsal. */
export type ActView = "grid" | "diagram" | "words" | "rehearsal";

interface ActState {
  shown: ActView;
  cell: Cell | null;
  /** Whether the grid shows the rows of the chosen cell's mode alone. */
  ownRows: boolean;
}

const initialState: ActState = { shown: "grid", cell: null, ownRows: false };

const slice = createSlice({
  name: "act",
  initialState,
  reducers: {
    actViewChosen(state, { payload }: PayloadAction<ActView>) {
      state.shown = payload;
    },
    ownRowsSet(state, { payload }: PayloadAction<boolean>) {
      state.ownRows = payload;
    },
    cellChosen(state, { payload }: PayloadAction<Cell | null>) {
      state.cell = payload;
    },
  },
  extraReducers: (builder) => builder.addCase(opened, () => initialState),
});

export const { actViewChosen, ownRowsSet, cellChosen } = slice.actions;
export const actReducer = slice.reducer;
