import { type Mode, printTrigger, type Trigger } from "@perceptum/core/behaviour";
import type { ModeId } from "@perceptum/core/names";
import { whyModeStays } from "@perceptum/core/project";
import { useRef } from "react";
import styled from "styled-components";
import { useEdit, useProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { cellChosen } from "../model/store/act";
import { QuietButton } from "../ui/Button";
import { type Dropped, useThingDrag, useThingDrop } from "../ui/dragging";
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
  & input { border-color: transparent; background: none; font-weight: 700; padding: 1px 3px; margin-left: -4px; width: auto; min-width: 96px; max-width: 180px; field-sizing: content; }
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
  /** A response, named with its mode, is put down in another one; a copy goes into its own, too. */
  const drop = (dragged: string, to: ModeId, how: Dropped) => {
    const [mode, id] = dragged.split(" ");
    const from = modes.find((m) => m.id === mode);
    const one = from?.responses.find((r) => r.id === id);
    if (from === undefined || one === undefined || (from.id === to && how === "move")) return;
    const response = how === "copy" ? copyOf(project, one) : one;
    if (how === "copy") edit("addResponse", { mode: to, response, before: null });
    else edit("moveResponseTo", { mode: from.id, response: one.id, to });
    dispatch(cellChosen({ mode: to, response: response.id }));
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
                  <DropPlace key={mode.id} onDrop={(dragged, how) => drop(dragged, mode.id, how)}>
                    {responses.length === 0 ? (
                      <GridCell cell={{ mode: mode.id, ignored: phrase }} name={name} />
                    ) : (
                      responses.map((response) => (
                        <Draggable
                          key={response.id}
                          dragged={`${mode.id} ${response.id}`}
                          name={name}
                          share={1 / responses.length}
                        >
                          <GridCell
                            cell={{ mode: mode.id, response: response.id }}
                            name={name}
                            steps={response.steps}
                            response={response}
                          />
                        </Draggable>
                      ))
                    )}
                  </DropPlace>
                );
              })}
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

/** A mode's cell of a row: responses are put down in it. */
function DropPlace({
  onDrop,
  children,
}: {
  onDrop: (dragged: string, how: Dropped) => void;
  children: React.ReactNode;
}) {
  const { place, dropProps, isOver } = useThingDrop<HTMLTableCellElement>(RESPONSE, onDrop);
  return (
    <td
      {...dropProps}
      ref={place}
      tabIndex={-1}
      style={isOver ? { outline: "2px dashed", outlineOffset: -2 } : undefined}
    >
      {children}
    </td>
  );
}

/** A response in its cell; by keyboard it is dragged from its editor. */
function Draggable(props: { dragged: string; name: string; share: number; children: React.ReactNode }) {
  const { dragged, name, share, children } = props;
  const { dragProps } = useThingDrag(RESPONSE, dragged, name, ["move", "copy"]);
  return (
    <div {...dragProps} style={{ height: `${100 * share}%` }}>
      {children}
    </div>
  );
}

/** Only where responses go a response is put down. */
export const RESPONSE = "perceptum-response";

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
