import { parseTrigger, parseTriggerFrom } from "@perceptum/core/behaviour";
import { freeId, type ModeId } from "@perceptum/core/names";
import { completions, tellProblem } from "@perceptum/core/phrases";
import { takenIds } from "@perceptum/core/project";
import styled from "styled-components";
import { FindingList } from "../findings/FindingList";
import { usePhraseWords } from "../hooks/phraseWords";
import { useEdit, useProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { type ActView, actViewChosen, cellChosen, ownRowsSet } from "../model/store/act";
import { Button, Choice } from "../ui/Button";
import { Check } from "../ui/Check";
import { Info } from "../ui/Info";
import { Head, Pane, Spacer, StageGrid, Title } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { PhraseField } from "../ui/PhraseField";
import { CellEditor } from "./CellEditor";
import { newResponse } from "./newResponse";
import { OwnNames } from "./OwnNames";
import { ResponseGrid } from "./ResponseGrid";
import { TriggerMenu } from "./StepMenu";
import { useChosenMode } from "./useChosenMode";

const Below = styled.div`
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  gap: 6px 10px;
  align-items: center;
  margin-top: 12px;
`;
const VIEWS: readonly { id: ActView; text: string }[] = [
  { id: "grid", text: "Grid" },
  { id: "diagram", text: "Diagram" },
  { id: "words", text: "In words" },
  { id: "rehearsal", text: "Rehearsal" },
];
const ModeDiagram = lazily(() => import("./ModeDiagram").then((m) => m.ModeDiagram));
const BehaviourWords = lazily(() => import("./BehaviourWords").then((m) => m.BehaviourWords));
const Rehearsal = lazily(() => import("./Rehearsal").then((m) => m.Rehearsal));

/** What does the robot do? A grid of responses, and the steps of the chosen one. */
export function ActStage() {
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const { shown, ownRows } = useAppSelector((state) => state.act);
  const project = useProject();
  const { modes } = project.behaviour;
  const mode = useChosenMode();
  return (
    <StageGrid $columns="minmax(0, 1fr) 350px">
      <Pane aria-label="Responses">
        <Head style={{ flexWrap: "wrap" }}>
          <Choice label="Show" value={shown} options={VIEWS} onChange={(view) => dispatch(actViewChosen(view))} />
          <Spacer />
          {shown === "grid" && modes.length > 1 && (
            <Check checked={ownRows} onChange={(on) => dispatch(ownRowsSet(on))}>
              <span style={{ whiteSpace: "nowrap" }}>only rows of {modes.find((m) => m.id === mode)?.name}</span>
            </Check>
          )}
          {(shown === "grid" || shown === "diagram") && (
            <Button
              onPress={() => {
                const name = `Mode ${modes.length + 1}`;
                edit("addMode", { mode: freeId<ModeId>(name, takenIds(project)), name });
              }}
            >
              Add mode
            </Button>
          )}
        </Head>
        {shown === "grid" && <Grid />}
        {shown === "diagram" && <ModeDiagram />}
        {shown === "words" && <BehaviourWords />}
        {shown === "rehearsal" && <Rehearsal />}
      </Pane>
      <Pane aria-label="Steps">
        <CellEditor />
        <FindingList stage="act" />
      </Pane>
    </StageGrid>
  );
}

/** The grid, and below it what adds to it. */
function Grid() {
  const project = useProject();
  const { names } = usePhraseWords();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const mode = useChosenMode();
  const addRow = (text: string) => {
    const parsed = parseTrigger(text.trim(), names);
    if ("problem" in parsed) return tellProblem(parsed.problem);
    const response = newResponse(project, parsed.value);
    const refused = edit("addResponse", { mode, response, before: null });
    if (refused === undefined) dispatch(cellChosen({ mode, response: response.id }));
    return refused;
  };
  return (
    <>
      <ResponseGrid />
      <Below>
        <Title style={{ alignSelf: "start", marginTop: 4 }}>Add a row</Title>
        <div>
          <PhraseField
            clearAfter
            label="Add a row"
            text=""
            placeholder={`Type what can happen: ${project.targets.find((t) => t.kind !== "background")?.name ?? "a target"} arrives; nothing known for 4 s; after 10 s`}
            complete={(text) => completions(text, names, parseTriggerFrom)}
            take={addRow}
          />
          <TriggerMenu onInsert={addRow} />
        </div>
        <Title>Counters</Title>
        <OwnNames kind="counters" />
        <Title>
          Lists <Info word="jot" />
        </Title>
        <OwnNames kind="lists" />
        <Title>Routines</Title>
        <OwnNames kind="routines" />
      </Below>
    </>
  );
}
