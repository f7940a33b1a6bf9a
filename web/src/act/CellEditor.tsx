import { namesOf, parseTrigger } from "@perceptum/core/behaviour";
import { tellUses } from "@perceptum/core/project";
import { usePhraseWords } from "../hooks/phraseWords";
import { useEdit, useProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { type Cell, cellChosen } from "../model/store/act";
import { Button } from "../ui/Button";
import { Dim, Empty, Head, Title } from "../ui/layout";
import { newResponse } from "./newResponse";
import { ResponseEditor } from "./ResponseEditor";
import { RoutineInputs } from "./RoutineInputs";
import { StepList } from "./StepList";

/** The chosen cell: its steps, and for a response when and how it fires. */
export function CellEditor() {
  const cell = useAppSelector((state) => state.act.cell);
  const project = useProject();
  if (cell !== null && "routine" in cell) return <RoutineEditor cell={cell} />;
  const mode = project.behaviour.modes.find((m) => m.id === cell?.mode);
  if (cell === null || mode === undefined) {
    return (
      <>
        <Title>Steps</Title>
        <Empty>Choose a cell of the grid to see and change its steps.</Empty>
      </>
    );
  }
  if ("ignored" in cell) return <IgnoredEditor cell={cell} modeName={mode.name} />;
  if ("entering" in cell) {
    return (
      <>
        <Head>
          <Title>On entering {mode.name}</Title>
        </Head>
        <StepList key={mode.id} at={cell} />
      </>
    );
  }
  const response = mode.responses.find((r) => r.id === cell.response);
  return response ? (
    <ResponseEditor cell={cell} response={response} modeName={mode.name} />
  ) : (
    <Empty>This response is gone. Choose another cell.</Empty>
  );
}

function RoutineEditor({ cell }: { cell: Extract<Cell, { routine: string }> }) {
  const project = useProject();
  const uses = tellUses(project, "routine", cell.routine);
  if (!project.behaviour.routines.some((r) => r.id === cell.routine))
    return <Empty>This routine is gone. Choose a cell or another routine.</Empty>;
  return (
    <>
      <Head>
        <Title>The routine {cell.routine}</Title>
      </Head>
      <RoutineInputs key={`inputs of ${cell.routine}`} routine={cell.routine} />
      <Title style={{ margin: "0 0 4px" }}>Steps</Title>
      <StepList key={cell.routine} at={cell} />
      <Dim style={{ fontSize: 12, marginTop: 6 }}>
        {uses.length === 0 ? "Nothing uses it yet." : `Used in ${uses.join(", ")}.`}
      </Dim>
    </>
  );
}

function IgnoredEditor({ cell, modeName }: { cell: Extract<Cell, { ignored: string }>; modeName: string }) {
  const project = useProject();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const words = usePhraseWords();
  const parsed = parseTrigger(cell.ignored, namesOf(project));
  const answer = () => {
    if ("problem" in parsed) return;
    const response = newResponse(project, parsed.value);
    edit("addResponse", { mode: cell.mode, response, before: null });
    dispatch(cellChosen({ mode: cell.mode, response: response.id }));
  };
  return (
    <>
      <Title>
        {"value" in parsed ? words.trigger(parsed.value) : cell.ignored}, in {modeName}
      </Title>
      <Empty>This is ignored here.</Empty>
      <div>
        <Button onPress={answer}>Answer it here</Button>
      </div>
    </>
  );
}
