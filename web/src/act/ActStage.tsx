import { namesOf, parseTrigger } from "@perceptum/core/behaviour";
import { Id } from "@perceptum/core/project";
import styled from "styled-components";
import { useEdit, useProject } from "../state/project";
import { useAppDispatch, useAppSelector } from "../state/store";
import { cellChosen } from "../state/view";
import { Button, QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { FindingList } from "../ui/FindingList";
import { Dim, Head, Num, Pane, Spacer, StageGrid, Title } from "../ui/layout";
import { addMode, addResponse, withBehaviour } from "./behaviourEdit";
import { CellEditor } from "./CellEditor";
import { ResponseGrid } from "./ResponseGrid";

const Below = styled.div`
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  gap: 6px 10px;
  align-items: baseline;
  margin-top: 12px;
`;

/** What does the robot do? A grid of responses, and the steps of the chosen one. */
export default function ActStage() {
  const project = useProject();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const cell = useAppSelector((state) => state.view.cell);

  const addRow = (text: string) => {
    const parsed = parseTrigger(text.trim(), namesOf(project));
    if ("problem" in parsed) return `Column ${parsed.problem.column}: ${parsed.problem.message}.`;
    const mode = cell?.mode ?? project.behaviour.start;
    const { project: next, id } = addResponse(project, mode, parsed.value);
    edit("a new response", () => next);
    dispatch(cellChosen({ mode, response: id }));
    return undefined;
  };
  const addCounter = (text: string) => {
    const name = text.trim();
    const checked = Id.safeParse(name);
    if (!checked.success) return `“${name}” cannot name a counter: ${checked.error.issues[0].message}.`;
    const { counters } = project.behaviour;
    const taken = [...counters, ...project.targets.map((t) => t.id)] as string[];
    if (taken.includes(name)) return `“${name}” is already there.`;
    edit(`the counter ${name}`, (p) => withBehaviour(p, { ...p.behaviour, counters: [...counters, name] }));
    return undefined;
  };
  return (
    <StageGrid $columns="minmax(0, 1fr) 336px">
      <Pane aria-label="Responses">
        <Head>
          <Title>Responses</Title>
          <Dim>rows are what can happen, columns are modes; the first that may start, starts</Dim>
          <Spacer />
          <Button onPress={() => edit("a new mode", addMode)}>Add mode</Button>
        </Head>
        <ResponseGrid />
        <Below>
          <Title>Add a row</Title>
          <div>
            <EntryField
              wide
              clearAfter
              label="Add a row"
              text=""
              placeholder="Type what can happen: coral arrives; teal is present; nothing known for 4 s; after 10 s; becomes tally >= 2"
              take={addRow}
            />
          </div>
          <Title>Counters</Title>
          <div style={{ display: "flex", gap: 10, alignItems: "baseline", flexWrap: "wrap" }}>
            {project.behaviour.counters.map((name) => (
              <Counter key={name} name={name} />
            ))}
            <EntryField
              clearAfter
              width={130}
              label="Add a counter"
              text=""
              placeholder="Add a counter"
              take={addCounter}
            />
          </div>
        </Below>
      </Pane>
      <Pane aria-label="Steps">
        <CellEditor />
        <FindingList stage="act" />
      </Pane>
    </StageGrid>
  );
}

function Counter({ name }: { name: string }) {
  const project = useProject();
  const edit = useEdit();
  const { counters, ...rest } = project.behaviour;
  const used = JSON.stringify([rest, project.courses]).includes(`"${name}"`);
  return (
    <Num>
      {name}
      <QuietButton
        isDisabled={used}
        aria-label={used ? `The counter ${name} is in use` : `Delete the counter ${name}`}
        onPress={() =>
          edit(`deleting the counter ${name}`, (p) =>
            withBehaviour(p, { ...p.behaviour, counters: counters.filter((c) => c !== name) }),
          )
        }
      >
        ×
      </QuietButton>
    </Num>
  );
}
