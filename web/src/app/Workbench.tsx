import { memo, useEffect } from "react";
import styled from "styled-components";
import { useReadingsVersion, useSession } from "../hooks/context";
import { useProject, useSettledProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublished, usePublishedPart } from "../hooks/usePublished";
import type { StageId } from "../model/stages";
import { runPutBelow } from "../model/store/view";
import { TapePanel } from "../tape/TapePanel";
import { TargetList } from "../targets/TargetList";
import { lazily } from "../ui/lazily";
import { NARROW } from "../ui/narrow";
import { Unseen } from "../ui/Status";
import { Header } from "./Header";
import { NextLine } from "./NextLine";
import { Notice } from "./Notice";
import { stageName } from "./nextStep";
import { PartTrouble } from "./PartTrouble";
import { keepPlace } from "./places";
import { useKeptFocus } from "./useKeptFocus";
import { useShortcuts } from "./useShortcuts";

const ShortcutSheet = lazily(() => import("./ShortcutSheet").then((m) => m.ShortcutSheet));

const CameraWatch = lazily(() => import("../camera/CameraWatch").then((m) => m.CameraWatch));

const RefusedSheet = lazily(() => import("./RefusedSheet").then((m) => m.RefusedSheet));
const GoneSheet = lazily(() => import("./GoneSheet").then((m) => m.GoneSheet));
const ConflictSheet = lazily(() => import("./ConflictSheet").then((m) => m.ConflictSheet));

/** The screens. They take no props: memoised, they render anew only for what they listen to themselves. */
export const SCREENS = {
  sense: lazily(() => import("../sense/SenseStage").then((m) => memo(m.SenseStage))),
  decide: lazily(() => import("../decide/DecideStage").then((m) => memo(m.DecideStage))),
  act: lazily(() => import("../act/ActStage").then((m) => memo(m.ActStage))),
  prove: lazily(() => import("../prove/ProveStage").then((m) => memo(m.ProveStage))),
  ship: lazily(() => import("../ship/ShipStage").then((m) => memo(m.ShipStage))),
};

const Frame = styled.div`
  height: 100%;
  /* Below this the page scrolls rather than cutting anything off. */
  min-height: 600px;
  display: grid;
  grid-template: 44px minmax(0, 1fr) 150px / 208px minmax(0, 1fr);
  gap: 1px;
  background: ${({ theme }) => theme.rule};
  ${NARROW} { height: auto; min-width: 300px; grid-template: auto / minmax(0, 1fr); }
`;
const Main = styled.main`
  min-height: 0;
  min-width: 0;
  background: ${({ theme }) => theme.panel};
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  ${NARROW} { grid-template-rows: auto; }
`;

/** Findings wait for the judgement, until nothing was changed for this long, and for the end of a drag. */
const ADVICE_AFTER_MS = 120;

/** The screen of an open project: stage above, targets beside, tape below. */
export function Workbench({ stage }: { stage: StageId }) {
  const project = useSettledProject();
  const version = useReadingsVersion();
  const tape = useAppSelector((state) => state.view.tape);
  const course = useAppSelector((state) => state.prove.course);
  const dispatch = useAppDispatch();
  const Screen = SCREENS[stage];
  const shortcuts = useShortcuts();
  useKeptFocus();
  const session = useSession();
  const saving = useAppSelector((state) => state.document.saving);
  const notice = usePublished(session.notice);

  const facts = usePublished(session.frameFacts);
  const isJudged = usePublishedPart(session.judging.judged, (j) => j.project === project);
  useEffect(() => {
    void version;
    if (!isJudged) return;
    const timer = setTimeout(() => session.mentor.advise(project, tape, [...facts.values()]), ADVICE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [session, project, tape, version, isJudged, facts]);
  useEffect(() => {
    // The table of edits comes when the first screen stands.
    const wait = requestIdleCallback(
      () => {
        performance.mark("first screen");
        void session.prepare().then(() => performance.mark("can be edited"));
      },
      { timeout: 300 },
    );
    return () => cancelIdleCallback(wait);
  }, [session]);
  useEffect(() => {
    dispatch(runPutBelow(stage === "prove"));
  }, [stage, dispatch]);
  useEffect(() => {
    keepPlace(session.id, { stage, tape, course });
  }, [session, stage, tape, course]);
  useEffect(() => {
    document.title = `${project.name} · Perceptum`;
  }, [project.name]);

  return (
    <Frame>
      <UpToDate />
      {project.tapes.some((t) => t.frames !== undefined) && <CameraWatch />}
      <Header stage={stage} onShortcuts={shortcuts.open} />
      <PartTrouble of="The list of targets">
        <TargetList />
      </PartTrouble>
      <Main>
        <Unseen as="h1">
          {stageName(stage)}, {project.name}
        </Unseen>
        <PartTrouble key={stage} of={stageName(stage)}>
          <NextLine stage={stage} />
          <Screen />
        </PartTrouble>
      </Main>
      <PartTrouble of="The tape">
        <TapePanel marking={stage === "sense"} />
      </PartTrouble>
      {saving === "conflict" && <ConflictSheet />}
      {saving === "refused" && <RefusedSheet />}
      {saving === "gone" && <GoneSheet />}
      {notice !== null && <Notice text={notice} onClose={() => session.notice.set(null)} />}
      {shortcuts.isOpen && <ShortcutSheet isOpen onClose={shortcuts.close} />}
    </Frame>
  );
}

/** Says whether judgement and advice are of the project as it now is, for those who wait for them. */
function UpToDate() {
  const project = useProject();
  const isJudged = usePublished(useSession().judging.judged).project === project;
  const isAdvised = usePublished(useSession().mentor.findings).project === project;
  return <div hidden data-judged={isJudged} data-advised={isAdvised} />;
}
