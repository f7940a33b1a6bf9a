import { namesOf, parseStep, printStep, STEP_KINDS, type Step } from "@perceptum/core/behaviour";
import styled from "styled-components";
import { useEdit, useProject } from "../state/project";
import type { Cell } from "../state/view";
import { QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Num } from "../ui/layout";
import { stepsOf, withSteps } from "./behaviourEdit";

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Card = styled.li`
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto;
  gap: 6px;
  align-items: center;
  padding: 3px 4px 3px 8px;
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.rule};
  border-radius: ${({ theme }) => theme.radius};
  margin-bottom: 4px;
  & input { border-color: transparent; }
  & input:hover, & input:focus { border-color: ${({ theme }) => theme.rule}; }
`;
const Help = styled.details`
  margin-top: 8px;
  font-size: 12px;
  color: ${({ theme }) => theme.ink2};
  & summary { cursor: default; }
  & code { display: block; font: 12px ${({ theme }) => theme.mono}; padding: 2px 0 0 14px; }
`;

/** The steps of a cell, each its phrase: typed to change, moved by its arrows (or Alt with the arrow keys), removed. */
export function StepList({ cell }: { cell: Cell }) {
  const project = useProject();
  const edit = useEdit();
  const steps = stepsOf(project, cell);
  const names = namesOf(project);

  const set = (what: string, next: readonly Step[]) => edit(what, (p) => withSteps(p, cell, [...next]));
  const taking = (place: (step: Step) => readonly Step[], what: string) => (text: string) => {
    const parsed = parseStep(text.trim(), names);
    if ("problem" in parsed) return `Column ${parsed.problem.column}: ${parsed.problem.message}.`;
    set(what, place(parsed.value));
    return undefined;
  };
  const move = (from: number, to: number) => {
    if (to < 0 || to >= steps.length) return;
    const next = [...steps];
    const [moved] = next.splice(from, 1);
    next.splice(to, 0, moved);
    set("moving a step", next);
  };
  return (
    <>
      <List aria-label="Steps">
        {steps.map((step, i) => (
          <Card
            key={`${i} ${printStep(step)}`}
            onKeyDown={(event) => {
              if (!event.altKey || (event.key !== "ArrowUp" && event.key !== "ArrowDown")) return;
              event.preventDefault();
              move(i, event.key === "ArrowUp" ? i - 1 : i + 1);
            }}
          >
            <Num>{i + 1}</Num>
            <div>
              <EntryField
                wide
                label={`Step ${i + 1}`}
                text={printStep(step)}
                take={taking((changed) => steps.with(i, changed), "changing a step")}
              />
            </div>
            <span style={{ whiteSpace: "nowrap" }}>
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
                onPress={() => set("removing a step", steps.toSpliced(i, 1))}
              >
                ×
              </QuietButton>
            </span>
          </Card>
        ))}
      </List>
      <EntryField
        wide
        clearAfter
        label="Add a step"
        text=""
        placeholder="Type a step: drive 30 % for 20 cm"
        take={taking((added) => [...steps, added], "adding a step")}
      />
      <Help>
        <summary>What can be typed</summary>
        {STEP_KINDS.map((kind) => (
          <code key={kind.step}>{kind.example}</code>
        ))}
      </Help>
    </>
  );
}
