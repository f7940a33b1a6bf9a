import { lazy, Suspense, useEffect } from "react";
import styled from "styled-components";
import { askAdvice, askJudgement, findings, judged } from "../state/judged";
import { usePublished } from "../state/Published";
import { useProject } from "../state/project";
import { useReadingsVersion } from "../state/readings";
import { useAppDispatch, useAppSelector } from "../state/store";
import { runPutBelow } from "../state/view";
import { TapePanel } from "../tape/TapePanel";
import { TargetList } from "../targets/TargetList";
import { ConflictSheet } from "./ConflictSheet";
import { Header } from "./Header";
import { ShortcutSheet } from "./ShortcutSheet";
import type { StageId } from "./stages";
import { useShortcuts } from "./useShortcuts";

const SCREENS = {
  sense: lazy(() => import("../sense/SenseStage")),
  decide: lazy(() => import("../decide/DecideStage")),
  act: lazy(() => import("../act/ActStage")),
  prove: lazy(() => import("../prove/ProveStage")),
  ship: lazy(() => import("../ship/ShipStage")),
};

const Frame = styled.div`
  height: 100%;
  /* Below this the page scrolls rather than cutting anything off. */
  min-width: 1000px;
  min-height: 600px;
  display: grid;
  grid-template: 44px minmax(0, 1fr) 150px / 208px minmax(0, 1fr);
  gap: 1px;
  background: ${({ theme }) => theme.rule};
`;
const Main = styled.main`
  min-height: 0;
  min-width: 0;
  background: ${({ theme }) => theme.panel};
`;

/** Findings wait until nothing was changed for this long. */
const ADVICE_AFTER_MS = 120;

/** The screen of an open project: stage above, targets beside, tape below. */
export function Workbench({ stage }: { stage: StageId }) {
  const project = useProject();
  const version = useReadingsVersion();
  const tape = useAppSelector((state) => state.view.tape);
  // Whether judgement and advice are of the project as it now is: for those who wait for them.
  const judgedFor = usePublished(judged).project;
  const advised = usePublished(findings).project;
  const dispatch = useAppDispatch();
  const Screen = SCREENS[stage];
  const shortcuts = useShortcuts();

  useEffect(() => {
    void version;
    askJudgement(project);
    const timer = setTimeout(() => askAdvice(project, tape), ADVICE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [project, tape, version]);
  useEffect(() => {
    dispatch(runPutBelow(stage === "prove"));
  }, [stage, dispatch]);
  useEffect(() => {
    document.title = `${project.name} · Perceptum`;
  }, [project.name]);

  return (
    <Frame data-judged={judgedFor === project} data-advised={advised === project}>
      <Header stage={stage} onShortcuts={shortcuts.open} />
      <TargetList />
      <Main>
        <Suspense fallback={null}>
          <Screen />
        </Suspense>
      </Main>
      <TapePanel />
      <ConflictSheet />
      <ShortcutSheet isOpen={shortcuts.isOpen} onClose={shortcuts.close} />
    </Frame>
  );
}
