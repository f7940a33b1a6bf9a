import { type PhraseWords, phraseWords } from "@perceptum/core/behaviour";
import type { ProjectDocument } from "@perceptum/core/project";
import { createSelector } from "@reduxjs/toolkit";
import type { AppState } from "../model/store/store";
import { useAppSelector } from "./store";

const present = ({ document }: AppState) => document.present as ProjectDocument;

/** Made once for a project as it is: every field of every phrase asks for them. */
const wordsOf = createSelector(
  [
    (state: AppState) => present(state).targets,
    (state: AppState) => present(state).sensors,
    (state: AppState) => present(state).behaviour,
    (state: AppState) => present(state).robot,
  ],
  (targets, sensors, behaviour, robot) => phraseWords({ targets, sensors, behaviour, robot }),
);

/**
 * The words of phrases as people see them. A file of its own: it brings every kind of step with its schema, which the
 * first screen does without.
 */
export const usePhraseWords = (): PhraseWords => useAppSelector(wordsOf);
