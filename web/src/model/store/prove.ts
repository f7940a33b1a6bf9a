import type { LightId, ThingId } from "@perceptum/core/names";
import type { CoursePart, SweepGrid } from "@perceptum/core/world";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { opened } from "./document";

/** What Prove works on: a run, the course itself, the robot, or many runs. */
export type ProveView = "run" | "course" | "robot" | "sweep";
export type ProveTab = "checks" | "why" | "things" | "log";
/** A thing of a course. */
export interface CourseThing {
  part: CoursePart;
  id: ThingId;
}

export interface ProveState {
  shown: ProveView;
  /** What beside the course is shown of a run. */
  tab: ProveTab;
  /** What the next run is made of; the first of each kind where none is chosen. */
  course: string | null;
  start: string | null;
  light: LightId | null;
  seed: number;
  /** The part of the course that is worked on. */
  thing: CourseThing | null;
  /** The grid that was last swept on each course. */
  grids: Record<string, SweepGrid>;
}

const initialState: ProveState = {
  shown: "run",
  tab: "checks",
  course: null,
  start: null,
  light: null,
  seed: 1,
  thing: null,
  grids: {},
};

const slice = createSlice({
  name: "prove",
  initialState,
  reducers: {
    proveViewChosen(state, { payload }: PayloadAction<ProveView>) {
      state.shown = payload;
    },
    proveTabChosen(state, { payload }: PayloadAction<ProveTab>) {
      state.tab = payload;
    },
    thingChosen(state, { payload }: PayloadAction<CourseThing | null>) {
      state.thing = payload;
    },
    gridChosen(state, { payload }: PayloadAction<SweepGrid>) {
      state.grids[payload.course] = payload;
    },
    runChosen(state, { payload }: PayloadAction<Partial<Pick<ProveState, "course" | "start" | "light" | "seed">>>) {
      Object.assign(state, payload);
    },
  },
  extraReducers: (builder) => builder.addCase(opened, () => initialState),
});

export const { gridChosen, proveViewChosen, proveTabChosen, thingChosen, runChosen } = slice.actions;
export const proveReducer = slice.reducer;
