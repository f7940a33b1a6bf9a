import { type Mode, printTrigger, type Trigger } from "@perceptum/core/behaviour";
import type { ModeId, ResponseId } from "@perceptum/core/names";
import { whyModeStays } from "@perceptum/core/project";
import { useRef, useState } from "react";
import styled from "styled-components";
import { useEdit, useProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { cellChosen } from "../model/store/act";
import { QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { takingName } from "../ui/typed";
import { GridCell } from "./GridCell";
import { goByArrow } from "./goByArrow";
import { copyOf } from "./newResponse";
import { TriggerTitle, triggerWords } from "./triggerWords";
import { useChosenMode } from "./useChosenMode";

const Scroll = styled.div`
  overflow-x: auto;
  flex: none;
  /* A bar that is always there says that there are more modes. */
  &::-webkit-scrollbar { height: 9px; }
  &::-webkit-scrollbar-thumb { background: ${({ theme }) => theme.edge}; border-radius: 4px; }
`;

const Table = styled.table`
  width: 100%;
  & th, & > tbody > tr > td { border: 1px solid ${({ theme }) => theme.rule}; vertical-align: top; text-align: left; }
  & th { font-weight: 600; padding: 7px 8px; font-size: 12px; }
  & thead th { min-width: 112px; }
  & tbody th { width: 128px; line-height: 1.5; }
  & td { background: ${({ theme }) => theme.sheet}; padding: 0; height: 1px; }
`;

const ModeHead = styled.div`
  display: flex;
  align-items: center;
  gap: 0 4px;
  flex-wrap: wrap;
  & button { padding: 0 4px 0 0; font-weight: 400; }
  & input { border-color: transparent; background: none; font-weight: 700; width: 96px; padding: 1px 3px; margin-left: -4px; }
  & input:hover, & input:focus { border-color: ${({ theme }) => theme.rule}; background: ${({ theme }) => theme.sheet}; }
  & small { font-weight: 400; color: ${({ theme }) => theme.ink2}; white-space: nowrap; }
`;

/** What the cells of a row have in common: the same trigger, written the same way. */
function rowsOf(modes: readonly Mode[]): { phrase: string; trigger: Trigger }[] {
  const rows = new Map<string, Trigger>();
  for (const mode of modes)
    for (const { when } of mode.responses) if (!rows.has(printTrigger(when))) rows.set(printTrigger(when), when);
  return [...rows].map(([phrase, trigger]) => ({ phrase, trigger }));
}

/** Rows by trigger, columns by mode; a cell reads as a sentence, hatched where the event is ignored. */
export function ResponseGrid() {
  const project = useProject();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const { modes } = project.behaviour;
  const ownRows = useAppSelector((state) => state.act.ownRows);
  const chosenMode = useChosenMode();
  const table = useRef<HTMLTableElement>(null);
  const [dragged, setDragged] = useState<{ mode: ModeId; response: ResponseId } | null>(null);
  const [over, setOver] = useState<ModeId | null>(null);
  const drop = (to: ModeId, copy: boolean) => {
    if (dragged !== null && (dragged.mode !== to || copy)) {
      const one = modes.find((m) => m.id === dragged.mode)?.responses.find((r) => r.id === dragged.response);
      if (one !== undefined) {
        const response = copy ? copyOf(project, one) : one;
        if (copy) edit("addResponse", { mode: to, response, before: null });
        else edit("moveResponseTo", { mode: dragged.mode, response: one.id, to });
        dispatch(cellChosen({ mode: to, response: response.id }));
      }
    }
    setDragged(null);
    setOver(null);
  };
  return (
    <Scroll>
      <Table
        ref={table}
        aria-label="Responses by what happens and by mode"
        aria-description="The arrow keys go from cell to cell"
        onKeyDown={(event) => table.current !== null && goByArrow(event, table.current)}
      >
        <thead>
          <tr>
            <th>when</th>
            {modes.map((mode) => (
              <th key={mode.id} scope="col">
                <ModeTitle mode={mode} />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">on entering the mode</th>
            {modes.map((mode) => (
              <td key={mode.id}>
                <GridCell
                  cell={{ mode: mode.id, entering: true }}
                  name={`on entering ${mode.name}`}
                  steps={mode.entering}
                  tabStop={mode.id === chosenMode}
                />
              </td>
            ))}
          </tr>
          {rowsOf(ownRows ? modes.filter((m) => m.id === chosenMode) : modes).map(({ phrase, trigger }) => (
            <tr key={phrase}>
              <th scope="row">
                <TriggerTitle trigger={trigger} project={project} />
              </th>
              {modes.map((mode) => {
                const responses = mode.responses.filter((r) => printTrigger(r.when) === phrase);
                const name = `${triggerWords(trigger, project)}, in ${mode.name}`;
                return (
                  <td
                    key={mode.id}
                    style={
                      dragged !== null && over === mode.id ? { outline: "2px dashed", outlineOffset: -2 } : undefined
                    }
                    onDragOver={(event) => {
                      if (dragged === null) return;
                      event.preventDefault();
                      setOver(mode.id);
                    }}
                    onDrop={(event) => {
                      event.preventDefault();
                      drop(mode.id, event.ctrlKey || event.altKey);
                    }}
                  >
                    {responses.length === 0 ? (
                      <GridCell cell={{ mode: mode.id, ignored: phrase }} name={name} />
                    ) : (
                      responses.map((response) => (
                        // biome-ignore lint/a11y/noStaticElementInteractions: the cell's editor moves it by keyboard
                        <div
                          key={response.id}
                          draggable
                          style={{ height: `${100 / responses.length}%` }}
                          onDragStart={(event) => {
                            event.dataTransfer.setData("text/plain", name);
                            event.dataTransfer.effectAllowed = "copyMove";
                            setDragged({ mode: mode.id, response: response.id });
                          }}
                          onDragEnd={() => setDragged(null)}
                        >
                          <GridCell
                            cell={{ mode: mode.id, response: response.id }}
                            name={name}
                            steps={response.steps}
                            response={response}
                          />
                        </div>
                      ))
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

function ModeTitle({ mode }: { mode: Mode }) {
  const project = useProject();
  const edit = useEdit();
  const starts = project.behaviour.start === mode.id;
  const rename = takingName(
    (name) => edit("renameMode", { mode: mode.id, name }),
    project.behaviour.modes.filter((m) => m.id !== mode.id).map((m) => m.name),
  );
  return (
    <ModeHead>
      <EntryField label={`Name of the mode ${mode.name}`} text={mode.name} take={rename} />
      {starts ? (
        <small>starts here</small>
      ) : (
        <QuietButton onPress={() => edit("startInMode", { mode: mode.id })}>start here</QuietButton>
      )}
      {whyModeStays(project, mode.id) === undefined && (
        <QuietButton aria-label={`Delete the mode ${mode.name}`} onPress={() => edit("deleteMode", { mode: mode.id })}>
          ×
        </QuietButton>
      )}
    </ModeHead>
  );
}
