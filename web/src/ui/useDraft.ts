import { useRef, useState } from "react";

/**
 * What is typed into a field until it is entered. `enter` hands it to `take`, which gives a sentence where it cannot be
 * taken: what is typed stays then, and `wrong` is the sentence. Another `text` takes the place of what is typed.
 */
export function useDraft(text: string, take: (text: string) => string | undefined, clearAfter: boolean) {
  const [of, setOf] = useState(text);
  const [draft, setDraft] = useState(text);
  const [wrong, setWrong] = useState<string>();
  /** Whether anything was typed since it was last entered: only then leaving the field enters it. */
  const typed = useRef(false);
  const takeBack = () => {
    setDraft(text);
    setWrong(undefined);
  };
  // Before anything is drawn.
  if (of !== text) {
    setOf(text);
    takeBack();
  }
  const enter = () => {
    typed.current = false;
    if (draft === text) return setWrong(undefined);
    const problem = take(draft);
    setWrong(problem);
    if (problem === undefined) setDraft(clearAfter ? "" : text);
  };
  return {
    draft,
    wrong,
    enter,
    type(changed: string) {
      typed.current = true;
      setDraft(changed);
    },
    leave() {
      if (typed.current && (!clearAfter || draft !== "")) enter();
    },
    /** As it was before anything was typed. */
    takeBack() {
      typed.current = false;
      takeBack();
    },
  };
}
