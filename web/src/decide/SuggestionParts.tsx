import type { DoubtfulStretch } from "@perceptum/core/teaching";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useEdit, useProject } from "../hooks/project";
import type { Suggested } from "../model/judging/Teacher";
import { Button } from "../ui/Button";
import { Dim, Title } from "../ui/layout";
import { seconds } from "../ui/seconds";

const Doubt = styled.p`
  display: flex;
  gap: 8px;
  align-items: baseline;
  font-size: 12.5px;
`;
const Trials = styled.table`
  font-size: 12.5px;
  & th { font-weight: 400; text-align: left; color: ${({ theme }) => theme.ink2}; padding: 2px 14px 2px 0; }
  & td { font-family: ${({ theme }) => theme.mono}; text-align: right; padding: 2px 14px 2px 0; }
`;

/** So many doubtful stretches, and pairs that no band separates, are told: the gravest. */
const MOST_DOUBTFUL = 6;
const MOST_TOLD = 6;
const PARTS = { start: "The first", end: "The last", middle: "Some", all: "All" } as const;

/** The name of a target of the open project. */
function useTargetName(): (id: string) => string {
  const { targets } = useProject();
  return (id) => targets.find((target) => target.id === id)?.name ?? id;
}

/** Stretches of marks that read like something else, each with what mends it. */
export function DoubtfulMarks({ doubtful }: Pick<Suggested, "doubtful">) {
  const project = useProject();
  const session = useSession();
  const edit = useEdit();
  const name = useTargetName();
  const trim = ({ tape, mark, from, to, where }: DoubtfulStretch) => {
    const block = session.readings.get(tape);
    const head = project.tapes.find((t) => t.id === tape);
    if (head === undefined || block === undefined) return;
    // What is doubtful on a camera's tape is a box, whose pixels stand for a mark.
    const box = head.boxes?.[mark];
    if (head.frames !== undefined) {
      if (box !== undefined) edit("deleteBox", { tape, box: box.id });
      return;
    }
    const i = block.t.findIndex((at) => at >= (where === "end" ? from : to));
    const change = where === "end" ? { to: block.t[i - 1] } : { from: block.t[i + 1] };
    edit("changeMark", { tape, mark: head.marks[mark].id, change });
  };
  const framed = (id: string) => project.tapes.find((t) => t.id === id)?.frames !== undefined;
  const tapeName = (id: string) => project.tapes.find((t) => t.id === id)?.name;
  return (
    <section aria-label="Marks that look wrong">
      <Title>Marks that look wrong</Title>
      {doubtful.slice(0, MOST_DOUBTFUL).map((stretch) => {
        const { tape, target, like, where, from, to } = stretch;
        return (
          <Doubt key={`${tape} ${from}`}>
            <span>
              {framed(tape)
                ? `Of a box of ${name(target)} on ${tapeName(tape)} ${to - from + 1} pixels`
                : `${PARTS[where]} ${seconds(to - from, 2)} of a mark of ${name(target)} on ${tapeName(tape)}`}{" "}
              look like {name(like)}; they move no bound.
            </span>
            {framed(tape) && (
              <Button $small aria-label={`Delete the box of ${name(target)}`} onPress={() => trim(stretch)}>
                Delete
              </Button>
            )}
            {!framed(tape) && (where === "end" || where === "start") && (
              <Button
                $small
                aria-label={`Trim the mark of ${name(target)} at ${seconds(from, 1)}`}
                onPress={() => trim(stretch)}
              >
                Trim
              </Button>
            )}
          </Doubt>
        );
      })}
      {doubtful.length > MOST_DOUBTFUL && <Dim>{doubtful.length - MOST_DOUBTFUL} more.</Dim>}
    </section>
  );
}

/** Pairs that overlap in every feature, and what helps. */
export function Inseparable({ made }: { made: Suggested }) {
  const name = useTargetName();
  const worst = [...made.suggestion.inseparable].sort((a, b) => b.taken - a.taken).slice(0, MOST_TOLD);
  return (
    <section aria-label="What no band can separate">
      <Title>What no band can separate</Title>
      {worst.map(({ target, other, taken: n, of }) => (
        <p key={`${target} ${other}`}>
          {name(other)} from {name(target)}: {n} of {of} readings lie where those of {name(target)} do.{" "}
          {made.suggestion.refused.includes(target) && `So no rule is suggested for ${name(target)}. `}
          {made.methods.better === "nearest"
            ? "Nearest references tell more of them apart."
            : "Nearest references do not tell them apart better either. Try another height, white and dark, another light, or another paint."}
        </p>
      ))}
    </section>
  );
}

/** How the rules did in each light when they were made without it. */
export function TriedByLight({ trials }: Pick<Suggested, "trials">) {
  const { lights } = useProject();
  return (
    <section aria-label="Tried light by light">
      <Title>Made without one light, and tried in it</Title>
      {trials.length === 0 ? (
        <Dim>Everything is marked in one light, so nothing can be said about another.</Dim>
      ) : (
        <Trials>
          <thead>
            <tr>
              <th />
              <td>right</td>
              <td>missed</td>
              <td>confused</td>
              <td>backgrounds mistaken for a target</td>
            </tr>
          </thead>
          <tbody>
            {trials.map((trial) => (
              <tr key={trial.light ?? ""}>
                <th scope="row">{lights.find((l) => l.id === trial.light)?.name ?? "not noted"}</th>
                <td>
                  {trial.right} of {trial.readings}
                </td>
                <td>{trial.missed}</td>
                <td>{trial.confused}</td>
                <td>{trial.grounds}</td>
              </tr>
            ))}
          </tbody>
        </Trials>
      )}
    </section>
  );
}
