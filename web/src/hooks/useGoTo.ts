import { useCallback } from "react";
import { playheadMoved, playingSet, type Source } from "../model/store/view";
import { useAppDispatch } from "./store";

/** Pauses and puts the playhead of a source at a moment. */
export function useGoTo(source: Source | undefined): (t: number) => void {
  const dispatch = useAppDispatch();
  return useCallback(
    (t) => {
      if (source === undefined) return;
      dispatch(playingSet(false));
      dispatch(playheadMoved({ source, t }));
    },
    [source, dispatch],
  );
}
