import { useCallback, useEffect, useState } from "react";
import { useStore } from "react-redux";
import { useNavigate, useParams } from "react-router";
import { useSolo } from "../decide/useSolo";
import { currentRuleSet } from "../hooks/project";
import { useAppDispatch } from "../hooks/store";
import { STAGES } from "../model/stages";
import { redone, undone } from "../model/store/document";
import type { AppState } from "../model/store/store";
import { playingSet } from "../model/store/view";
import { useTransport } from "../tape/useTransport";
import { singleKeysWork } from "../ui/singleKeys";
import { takesKeys } from "../ui/takesKeys";
import { goToPane } from "./panes";

/** The keys that work everywhere, and the sheet that lists them. */
export function useShortcuts(): { isOpen: boolean; open: () => void; close: () => void } {
  const [isOpen, setOpen] = useState(false);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { id = "" } = useParams();
  const transport = useTransport();
  const leaveAlone = useSolo();
  // The rules are asked for when they are wanted: the whole screen hangs on this, and a drag changes them at each move.
  const store = useStore<AppState>();

  useEffect(() => {
    const solo = () => {
      const state = store.getState();
      const { rule } = state.view;
      if (rule !== null && currentRuleSet(state)?.rules.some((r) => r.id === rule)) leaveAlone(rule);
    };
    const onKey = (event: KeyboardEvent) => {
      const undoKey = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z";
      // A field with text that was not entered yet undoes its own typing.
      const typing = event.target instanceof HTMLElement && event.target.dataset.typing === "true";
      if (undoKey && !typing) {
        event.preventDefault();
        dispatch(event.shiftKey ? redone() : undone(1));
        return;
      }
      // By the key's place: with Alt held, keyboards write other signs.
      const stage = event.altKey && !event.ctrlKey && !event.metaKey && STAGES[Number(event.code.slice(-1)) - 1];
      if (stage && event.code.startsWith("Digit")) {
        event.preventDefault();
        void navigate(`/p/${id}/${stage.id}`);
        return;
      }
      if (event.key === "F6" && !event.defaultPrevented) {
        event.preventDefault();
        goToPane(event.shiftKey ? -1 : 1);
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || takesKeys(event.target)) return;
      const onControl =
        event.target instanceof HTMLElement && event.target.closest("button, a, [role=slider], [role=radio]") !== null;
      const actions: Record<string, (() => void) | undefined> = {
        " ": onControl ? undefined : () => (transport.playing ? dispatch(playingSet(false)) : transport.play()),
        ArrowLeft: onControl ? undefined : () => transport.step(event.shiftKey ? -10 : -1),
        ArrowRight: onControl ? undefined : () => transport.step(event.shiftKey ? 10 : 1),
      };
      const signs: Record<string, (() => void) | undefined> = {
        "[": () => transport.toEvent(-1),
        "]": () => transport.toEvent(1),
        s: solo,
        S: solo,
        "?": () => setOpen(true),
      };
      const action = actions[event.key] ?? (singleKeysWork() ? signs[event.key] : undefined);
      if (action === undefined) return;
      event.preventDefault();
      action();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [dispatch, transport, leaveAlone, store, navigate, id]);

  const open = useCallback(() => setOpen(true), []);
  const close = useCallback(() => setOpen(false), []);
  return { isOpen, open, close };
}
