import {
  alikeSteps,
  inputsAt,
  type ListedStep,
  type PhraseWords,
  parseListedStep,
  parseStepFrom,
  printStep,
  type Step,
  type StepsAt,
  stepsAt,
} from "@perceptum/core/behaviour";
import { Id, nextId, type StepId } from "@perceptum/core/names";
import { completions, type Input, tellProblem } from "@perceptum/core/phrases";
import { machineOf } from "@perceptum/core/world";
import { useMemo, useState } from "react";
import styled from "styled-components";
import { usePhraseWords } from "../hooks/phraseWords";
import { useEdit, useProject } from "../hooks/project";
import { amount } from "../ui/amount";
import { QuietButton } from "../ui/Button";
import { Check } from "../ui/Check";
import { useThingDrag, useThingDrop } from "../ui/dragging";
import { EntryField } from "../ui/EntryField";
import { Dim, Num } from "../ui/layout";
import { PhraseField } from "../ui/PhraseField";
import { useFocusNext } from "../ui/useFocusNext";
import { offeredWords } from "./offeredSteps";
import { StepMenu } from "./StepMenu";
import { TryStep } from "./TryStep";

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Card = styled.li<{ $picked: boolean; $over: boolean }>`
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) auto auto;
  gap: 4px;
  align-items: center;
  padding: 2px 2px 2px 0;
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme, $picked }) => ($picked ? theme.ink : theme.rule)};
  ${({ theme, $over }) => $over && `box-shadow: 0 -2px 0 ${theme.ink};`}
  border-radius: ${({ theme }) => theme.radius};
  margin-bottom: 3px;
  & textarea { border-color: transparent; }
  & textarea:hover, & textarea:focus { border-color: ${({ theme }) => theme.rule}; }
`;
const NumberButton = styled(QuietButton)`
  padding: 4px 0;
  width: 20px;
  cursor: grab;
`;
const Tools = styled.span`
  white-space: nowrap;
  & button { padding: 2px 3px; }
`;

/**
 * The steps of a cell or a routine, each its phrase: typed to change, dragged or moved by its arrows (or Alt with the
 * arrow keys), tried alone, removed. Pressing its number picks it; picked steps can become a routine.
 */
export function StepList({ at }: { at: StepsAt }) {
  const project = useProject();
  const edit = useEdit();
  const steps = stepsAt(project.behaviour, at);
  const words = usePhraseWords();
  const inputs = inputsAt(project.behaviour, at);
  const names = { ...words.names, inputs };
  const [picked, setPicked] = useState<readonly StepId[]>([]);
  const [tried, setTried] = useState<{ step: Step; at: number } | null>(null);
  const focusNext = useFocusNext();

  const { can } = machineOf(project.robot);
  const complete = (text: string) => offeredWords(completions(text, names, parseStepFrom), can);
  const taking = (take: (step: Omit<ListedStep, "id"> & Step) => string | undefined) => (text: string) => {
    const parsed = parseListedStep(text.trim(), names, inputs);
    if ("problem" in parsed) return tellProblem(parsed.problem);
    setPicked([]);
    return take(parsed.value);
  };
  const add = taking((added) => edit("addStep", { at, step: { ...added, id: nextId("step", steps) }, before: null }));
  const move = (from: number, to: number) => {
    if (from < 0 || to < 0 || to >= steps.length || from === to) return;
    const others = steps.filter((_, i) => i !== from);
    edit("moveStep", { at, step: steps[from].id, before: others[to]?.id ?? null });
    setPicked([]);
    // The focus goes with the step: in its field, or on the arrow that moved it.
    const way = to < from ? "up" : "down";
    if (document.activeElement instanceof HTMLTextAreaElement) focusNext(`Step ${to + 1}`);
    else focusNext(`Move step ${to + 1} ${way}`, `Move step ${to + 1} ${way === "up" ? "down" : "up"}`);
  };
  return (
    <>
      <List aria-label="Steps">
        {steps.map((step, i) => (
          <StepCard
            key={step.id}
            step={step}
            at={i}
            count={steps.length}
            isPicked={picked.includes(step.id)}
            onPick={() => setPicked((p) => (p.includes(step.id) ? p.filter((id) => id !== step.id) : [...p, step.id]))}
            onMove={move}
            onDrop={(id) =>
              move(
                steps.findIndex((one) => one.id === id),
                i,
              )
            }
          >
            <PhraseField
              label={`Step ${i + 1}`}
              text={words.step(step)}
              complete={complete}
              take={taking((changed) => edit("replaceStep", { at, step: { ...changed, id: step.id } }))}
            />
            <Tools>
              <QuietButton aria-label={`Try step ${i + 1} alone`} onPress={() => setTried({ step, at: i })}>
                try
              </QuietButton>
              <QuietButton aria-label={`Move step ${i + 1} up`} isDisabled={i === 0} onPress={() => move(i, i - 1)}>
                ↑
              </QuietButton>
              <QuietButton
                aria-label={`Move step ${i + 1} down`}
                isDisabled={i === steps.length - 1}
                onPress={() => move(i, i + 1)}
              >
                ↓
              </QuietButton>
              <QuietButton
                aria-label={`Remove step ${i + 1}`}
                onPress={() => {
                  edit("deleteStep", { at, step: step.id });
                  setPicked([]);
                  focusNext(`Remove step ${Math.min(i + 1, steps.length - 1)}`, "Add a step");
                }}
              >
                ×
              </QuietButton>
            </Tools>
          </StepCard>
        ))}
      </List>
      {picked.length > 0 && <FromPicked at={at} picked={picked} onDone={() => setPicked([])} />}
      {tried !== null && <TryStep key={`${tried.at} ${printStep(tried.step)}`} step={tried.step} />}
      <PhraseField
        clearAfter
        label="Add a step"
        text=""
        placeholder={`Type a step: ${can.includes("drive") ? "drive 30 % for 20 cm" : "wait 1 s"}`}
        complete={complete}
        take={add}
      />
      <StepMenu onInsert={add} />
    </>
  );
}

/** A step's number, by which it is picked and dragged, and beside it what is made of it. */
function StepCard(props: {
  step: ListedStep;
  at: number;
  count: number;
  isPicked: boolean;
  onPick: () => void;
  onMove: (from: number, to: number) => void;
  /** Another step of some list was put down here. */
  onDrop: (id: string) => void;
  children: React.ReactNode;
}) {
  const { step, at, count, isPicked, onPick, onMove, onDrop, children } = props;
  const words = usePhraseWords();
  const { dragProps, dragButtonProps } = useThingDrag(STEP, step.id, words.step(step));
  const { place, dropProps, isOver } = useThingDrop<HTMLLIElement>(STEP, onDrop);
  return (
    <Card
      {...dropProps}
      ref={place}
      tabIndex={-1}
      aria-label={`Place ${at + 1} of ${count}`}
      $picked={isPicked}
      $over={isOver}
      onKeyDown={(event) => {
        if (!event.altKey || (event.key !== "ArrowUp" && event.key !== "ArrowDown")) return;
        event.preventDefault();
        onMove(at, event.key === "ArrowUp" ? at - 1 : at + 1);
      }}
    >
      <span {...dragProps}>
        <NumberButton aria-label={`Pick step ${at + 1}`} aria-pressed={isPicked} onPress={onPick}>
          <Num>{at + 1}</Num>
        </NumberButton>
      </span>
      {children}
      <QuietButton {...dragButtonProps} aria-label={`Drag step ${at + 1}`}>
        ⠿
      </QuietButton>
    </Card>
  );
}

/** Only where steps go a step is put down. */
const STEP = "perceptum-step";

/** Tells what a routine would take: where values differ, those. */
function takenWords(inputs: readonly Input[], { show }: PhraseWords): string {
  const told = inputs.map(({ name, kind, value }) => `${name} (${kind === "target" ? show(kind, value) : value} here)`);
  return told.length === 0 ? "" : `; it takes ${told.join(", ")}`;
}

/** What can be done with the steps that are picked. */
function FromPicked({ at, picked, onDone }: { at: StepsAt; picked: readonly StepId[]; onDone: () => void }) {
  const project = useProject();
  const edit = useEdit();
  const words = usePhraseWords();
  const steps = stepsAt(project.behaviour, at);
  const places = steps.flatMap(({ id }, i) => (picked.includes(id) ? [i] : []));
  const from = Math.min(...places);
  const to = Math.max(...places);
  const together = to - from + 1 === picked.length;
  const { inputs, others } = useMemo(
    () => (together ? alikeSteps(project.behaviour, at, picked) : { inputs: [], others: [] }),
    [project.behaviour, at, picked, together],
  );
  const [isEverywhere, setEverywhere] = useState(false);
  const make = (text: string) => {
    const id = text.trim();
    const checked = Id.safeParse(id);
    if (!checked.success) return `“${id}” cannot name a routine: ${checked.error.issues[0].message}.`;
    if (project.behaviour.routines.some((r) => r.id === id)) return `There is a routine “${id}” already.`;
    const taken = steps.slice(from, to + 1).map((step) => step.id);
    onDone();
    return edit("makeRoutine", {
      ...{ at, steps: taken, routine: id, doing: nextId("step", steps) },
      ...(isEverywhere && others.length > 0 && { alike: true as const }),
    });
  };
  return together ? (
    <div style={{ margin: "4px 0 8px" }}>
      <EntryField
        wide
        clearAfter
        label="Make a routine of the picked steps"
        text=""
        placeholder={`Name of a routine of step ${from + 1}${to > from ? ` to ${to + 1}` : ""}`}
        take={make}
      />
      {others.length > 0 && (
        <Check checked={isEverywhere} onChange={setEverywhere}>
          Also in {amount(others.length, "other place that does", "other places that do")} the same
          {takenWords(inputs, words)}
        </Check>
      )}
    </div>
  ) : (
    <Dim style={{ fontSize: 12, display: "block", margin: "4px 0 8px" }}>
      Pick steps that follow one another to make a routine of them.
    </Dim>
  );
}
