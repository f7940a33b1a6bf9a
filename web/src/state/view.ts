import type { LightId, ModeId, RuleId, TapeId, TargetId } from "@perceptum/core/project";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { opened } from "./document";

/** What lies under the playhead: a tape, or the run that was made last. */
export type Source = TapeId | "run";

/** Which cell of the response grid is chosen. */
export type Cell =
  | { mode: ModeId; response: string }
  | { mode: ModeId; entering: true }
  | { mode: ModeId; ignored: string };

export interface ViewState {
  tape: TapeId | null;
  /** Whether the run's own tape lies below, as it does in Prove. */
  runBelow: boolean;
  /** The playhead on each source, in ms. */
  playheads: Record<string, number>;
  playing: boolean;
  speed: number;
  /** The instant that the pointer is over, wherever it is. */
  hover: { source: Source; t: number } | null;
  rule: RuleId | null;
  target: TargetId | null;
  cell: Cell | null;
  course: string | null;
  start: string | null;
  light: LightId | null;
  seed: number;
}

const initialState: ViewState = {
  tape: null,
  runBelow: false,
  playheads: {},
  playing: false,
  speed: 4,
  hover: null,
  rule: null,
  target: null,
  cell: null,
  course: null,
  start: null,
  light: null,
  seed: 1,
};

const slice = createSlice({
  name: "view",
  initialState,
  reducers: {
    tapeChosen(state, { payload }: PayloadAction<TapeId>) {
      state.tape = payload;
      state.playing = false;
    },
    runPutBelow(state, { payload }: PayloadAction<boolean>) {
      if (state.runBelow !== payload) state.playing = false;
      state.runBelow = payload;
    },
    playheadMoved(state, { payload }: PayloadAction<{ source: Source; t: number }>) {
      state.playheads[payload.source] = payload.t;
    },
    playingSet(state, { payload }: PayloadAction<boolean>) {
      state.playing = payload;
    },
    speedChosen(state, { payload }: PayloadAction<number>) {
      state.speed = payload;
    },
    hovered(state, { payload }: PayloadAction<ViewState["hover"]>) {
      state.hover = payload;
    },
    ruleChosen(state, { payload }: PayloadAction<{ rule: RuleId; target: TargetId } | null>) {
      state.rule = payload?.rule ?? null;
      if (payload) state.target = payload.target;
    },
    targetChosen(state, { payload }: PayloadAction<TargetId | null>) {
      state.target = payload;
    },
    cellChosen(state, { payload }: PayloadAction<Cell | null>) {
      state.cell = payload;
    },
    runChosen(state, { payload }: PayloadAction<Partial<Pick<ViewState, "course" | "start" | "light" | "seed">>>) {
      Object.assign(state, payload);
    },
  },
  extraReducers: (builder) =>
    builder.addCase(opened, (_, { payload: { project } }) => ({
      ...initialState,
      tape: project.tapes.at(-1)?.id ?? null,
      // The playhead begins where there is something to see: in the middle of each tape's first target.
      playheads: Object.fromEntries(
        project.tapes.flatMap(({ id, marks }) => {
          const first = marks.find((m) => project.targets.find((t) => t.id === m.target)?.kind !== "background");
          return first ? [[id, (first.from + first.to) / 2]] : [];
        }),
      ),
      rule: project.ruleSets[0]?.rules[0]?.id ?? null,
      target: project.ruleSets[0]?.rules[0]?.target ?? null,
    })),
});

export const {
  tapeChosen,
  runPutBelow,
  playheadMoved,
  playingSet,
  speedChosen,
  hovered,
  ruleChosen,
  targetChosen,
  cellChosen,
  runChosen,
} = slice.actions;
export const viewReducer = slice.reducer;
