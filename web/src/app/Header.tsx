import { memo, useEffect } from "react";
import { Link, NavLink, useParams } from "react-router";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useEdit, useSettledProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublished, usePublishedPart } from "../hooks/usePublished";
import { type Progress, STAGES, type StageId, stageProgress } from "../model/stages";
import { redone, type Saving, type Step, undone } from "../model/store/document";
import { Button, QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { NARROW } from "../ui/narrow";
import { Select } from "../ui/Select";
import { Told } from "../ui/Status";
import { chooseTheme, useThemeName } from "../ui/themeChoice";
import { takingName } from "../ui/typed";
import { Mark } from "./Mark";
import { Pip, PROGRESS } from "./Pip";
import { keepPlace } from "./places";

const Bar = styled.header`
  grid-column: 1 / 3;
  background: ${({ theme }) => theme.sheet};
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr);
  align-items: center;
  padding: 0 12px;
  gap: 12px;
  ${NARROW} { grid-column: 1; grid-template-columns: minmax(0, 1fr); padding: 6px 12px; gap: 2px; }
`;
const Side = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
  &:last-child { justify-content: flex-end; }
  ${NARROW} { &, &:last-child { justify-content: flex-start; flex-wrap: wrap; } }
`;
const Brand = styled(Link)`
  display: flex;
  gap: 8px;
  align-items: center;
  font-weight: 700;
  color: inherit;
  text-decoration: none;
`;
const Name = styled.span`
  & input { border-color: transparent; background: none; color: ${({ theme }) => theme.ink2}; text-overflow: ellipsis; width: 170px; }
  & input:hover, & input:focus { border-color: ${({ theme }) => theme.rule}; }
`;
const Stages = styled.nav`
  display: flex;
  height: 44px;
  ${NARROW} { height: auto; min-height: 34px; flex-wrap: wrap; margin-left: -14px; & a { min-height: 32px; } }
  & a {
    display: flex;
    align-items: center;
    gap: 7px;
    padding: 0 14px;
    color: ${({ theme }) => theme.ink2};
    text-decoration: none;
    position: relative;
    font-weight: 500;
  }
  & a + a::before { content: ""; position: absolute; left: -6px; width: 12px; height: 1px; background: ${({ theme }) => theme.rule}; top: 50%; }
  & a.active { color: ${({ theme }) => theme.ink}; font-weight: 700; }
  & a.active::after { content: ""; position: absolute; left: 10px; right: 10px; bottom: 0; height: 3px; background: ${({ theme }) => theme.ink}; }
  & a:focus-visible { outline-offset: -3px; box-shadow: none; }
`;
const State = styled.span`
  font: 12px ${({ theme }) => theme.mono};
  color: ${({ theme }) => theme.ink2};
  white-space: nowrap;
`;

const SAVING: Record<Saving, string> = {
  saved: "saved",
  unsaved: "changed",
  saving: "saving",
  failed: "not saved",
  conflict: "conflict",
  gone: "deleted",
  refused: "cannot be saved",
};
/** While all goes well nothing is told: every change would be heard three times. */
const isWell = (saving: Saving) => saving === "saved" || saving === "unsaved" || saving === "saving";

/** The five stages with how far each is. */
function StageLinks({ stage }: { stage: StageId }) {
  const { id = "" } = useParams();
  const project = useSettledProject();
  const run = usePublished(useSession().mentor.lastRun);
  const progress = stageProgress(
    project,
    usePublished(useSession().mentor.findings).list,
    usePublishedPart(
      useSession().judging.judged,
      ({ score }) => score.marked > 0 && score.right / score.marked >= 0.99,
    ),
    run?.project === project ? run.verdicts : [],
  );
  const marks = STAGES.map(({ id: name }) => progress[name]).join(" ");
  useEffect(() => {
    const shown = marks.split(" ") as Progress[];
    keepPlace(id, {
      progress: Object.fromEntries(STAGES.map(({ id: name }, i) => [name, shown[i]])) as Record<StageId, Progress>,
    });
  }, [id, marks]);
  useEffect(() => {
    if (run === null || run.base !== project) return;
    const holding = run.verdicts.filter(({ outcome }) => outcome === "holds").length;
    keepPlace(id, { checks: { holding, of: run.verdicts.length, at: Date.now() } });
  }, [id, run, project]);
  return (
    <Stages aria-label="Stages">
      {STAGES.map(({ id: name, name: text }) => (
        <NavLink
          key={name}
          to={`/p/${id}/${name}`}
          aria-label={`${text}, ${PROGRESS[progress[name]]}`}
          aria-current={name === stage ? "page" : undefined}
        >
          <Pip progress={progress[name]} />
          {text}
        </NavLink>
      ))}
    </Stages>
  );
}

/** The most changes that are listed; those before are undone one by one. */
const MOST_LISTED = 40;

/** What was done, the last first: a press undoes it and all that came after it. */
function UndoList({ past, onUndo }: { past: readonly Step[]; onUndo: (count: number) => void }) {
  const listed = past.slice(-MOST_LISTED).reverse();
  return (
    <Select
      label="Undo back to"
      hideLabel
      value={null}
      placeholder=""
      options={listed.map(({ did }, i) => ({ id: String(i + 1), text: `Undo: ${did}` }))}
      onChange={(count) => onUndo(Number(count))}
    />
  );
}

/** Brand, project, the five stages with how far each is, saving, undo. */
export const Header = memo(function Header({ stage, onShortcuts }: { stage: StageId; onShortcuts: () => void }) {
  const project = useSettledProject();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const past = useAppSelector((state) => state.document.past);
  const last = past.at(-1)?.did;
  const future = useAppSelector((state) => state.document.future.at(-1)?.did);
  const saving = useAppSelector((state) => state.document.saving);
  const trouble = useAppSelector((state) => state.document.trouble);
  const themeName = useThemeName();

  const rename = takingName((name) => edit("renameProject", { name }));
  return (
    <Bar>
      <Side>
        <Brand to="/?list" aria-label="Perceptum, all projects">
          <Mark />
          Perceptum
        </Brand>
        <Name title={project.name}>
          <EntryField label="Project name" text={project.name} take={rename} />
        </Name>
      </Side>
      <StageLinks stage={stage} />
      <Side>
        <State role="status" aria-live="off" title={trouble || undefined} aria-label={`Project ${SAVING[saving]}`}>
          {SAVING[saving]}
        </State>
        <Told label="Project" text={isWell(saving) ? "" : `${SAVING[saving]}. ${trouble}`} />
        <QuietButton
          aria-label={themeName === "dark" ? "Light theme" : "Dark theme"}
          onPress={() => chooseTheme(themeName === "dark" ? "light" : "dark")}
        >
          {themeName === "dark" ? "Light" : "Dark"}
        </QuietButton>
        <QuietButton aria-label="Keyboard shortcuts" onPress={onShortcuts}>
          ?
        </QuietButton>
        <Button
          why={last === undefined && "Nothing was changed since the project was opened."}
          onPress={() => dispatch(undone(1))}
          aria-label={last === undefined ? "Undo" : `Undo: ${last}`}
        >
          Undo
        </Button>
        {past.length > 0 && <UndoList past={past} onUndo={(count) => dispatch(undone(count))} />}
        <Button
          why={future === undefined && "Nothing was undone."}
          onPress={() => dispatch(redone())}
          aria-label={future === undefined ? "Redo" : `Redo: ${future}`}
        >
          Redo
        </Button>
      </Side>
    </Bar>
  );
});
