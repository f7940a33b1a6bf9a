import { type DoubtfulStretch, withSuggested } from "@perceptum/core/teaching";
import { useEffect, useState } from "react";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useEdit, useProject, useRuleSet } from "../hooks/project";
import { useAppDispatch } from "../hooks/store";
import type { Suggested } from "../model/judging/Teacher";
import { ruleChosen } from "../model/store/view";
import { Chip } from "../targets/Chip";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { Wrong } from "../ui/EntryField";
import { Dim, Empty, Spacer, Title } from "../ui/layout";
import { Sheet, SheetButtons } from "../ui/Sheet";
import { seconds } from "../ui/seconds";
import { unbroken } from "../ui/unbroken";
import { ruleShort } from "./ruleWords";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Item = styled.li`
  display: grid;
  grid-template-columns: 16px 24px minmax(0, 1fr);
  gap: 8px;
  padding: 7px 0;
  border-top: 1px solid ${({ theme }) => theme.ruleSoft};
  font-size: 12.5px;
  align-items: start;
  & input { accent-color: ${({ theme }) => theme.ink}; margin-top: 2px; }
  & code { font-family: ${({ theme }) => theme.mono}; font-size: 12px; }
`;
const Doubt = styled.p`
  display: flex;
  gap: 8px;
  align-items: baseline;
  font-size: 12.5px;
`;
/** So many doubtful stretches, and pairs that no band separates, are told. */
const MOST_DOUBTFUL = 6;
const MOST_TOLD = 6;
const PARTS = { start: "The first", end: "The last", middle: "Some", all: "All" } as const;
const percent = (x: number) => unbroken(`${(100 * x).toFixed(1)} %`);

const Trials = styled.table`
  font-size: 12.5px;
  & th { font-weight: 400; text-align: left; color: ${({ theme }) => theme.ink2}; padding: 2px 14px 2px 0; }
  & td { font-family: ${({ theme }) => theme.mono}; text-align: right; padding: 2px 14px 2px 0; }
`;

/** Rules suggested from the marks: each with what it took, its bands with their reasons, and how it did in other light. */
export function SuggestionSheet({ onClose }: { onClose: () => void }) {
  const project = useProject();
  const session = useSession();
  const { teacher } = session;
  const ruleSet = useRuleSet();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const [made, setMade] = useState<Suggested>();
  const [wrong, setWrong] = useState<string>();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => {
    let current = true;
    teacher.suggest(project, ruleSet.id).then(
      (s) => current && setMade(s),
      (error: Error) => current && setWrong(`Nothing could be suggested: ${error.message}. Nothing was changed.`),
    );
    return () => {
      current = false;
    };
  }, [teacher, project, ruleSet.id]);
  // A few are told, the gravest first: the others are of the same kind.
  const worst = [...(made?.suggestion.inseparable ?? [])].sort((a, b) => b.taken - a.taken).slice(0, MOST_TOLD);
  const name = (id: string) => project.targets.find((t) => t.id === id)?.name ?? id;
  const rules = made?.suggestion.rules ?? [];
  const taken = rules.filter((r) => !left.has(r.target.id));

  const take = () => {
    if (made === undefined) return;
    const whole = taken.length === rules.length;
    const only = whole ? undefined : new Set(taken.map((r) => r.target.id));
    const fresh = withSuggested(ruleSet.rules, made.suggestion, only);
    edit("takeRules", { ruleSet: ruleSet.id, rules: fresh });
    const [first] = fresh;
    if (first && taken.length > 0) dispatch(ruleChosen({ rule: first.id, target: first.target }));
    onClose();
  };
  const takeNearest = () => {
    if (made === undefined) return;
    edit("takeReferences", { ruleSet: ruleSet.id, nearest: made.nearest });
    onClose();
  };
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
  const methods = made?.methods;
  // Rules that were left out were weighed by whoever left them.
  const nearestFirst = methods?.better === "nearest" && taken.length === rules.length;
  return (
    <Sheet title="Suggested rules" wide isOpen onClose={onClose}>
      {methods && rules.length > 0 && (
        <p>
          {methods.leftOut
            ? "Made without one light and tried in it, the bands judge "
            : "Of what is marked the bands judge "}
          <b>{percent(methods.bands)}</b> rightly, nearest references <b>{percent(methods.nearest)}</b>.
          {methods.better === "nearest" && (
            <>
              {" "}
              References do better here, so <b>Use all rules</b> takes them.
            </>
          )}
        </p>
      )}
      {made && made.doubtful.length > 0 && (
        <section aria-label="Marks that look wrong">
          <Title>Marks that look wrong</Title>
          {made.doubtful.slice(0, MOST_DOUBTFUL).map((stretch) => {
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
          {made.doubtful.length > MOST_DOUBTFUL && <Dim>{made.doubtful.length - MOST_DOUBTFUL} more.</Dim>}
        </section>
      )}
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      {made === undefined && wrong === undefined && <Empty>Looking at the marked readings …</Empty>}
      {made && rules.length === 0 && made.suggestion.refused.length === 0 && (
        <Empty>
          No target is marked yet, so nothing can be suggested. Mark each target and each ground in Sense first.
        </Empty>
      )}
      {rules.length > 0 && (
        <List aria-label="Suggested rules">
          {rules.map(({ rule, target, sentence, bands, found, of }) => (
            <Item key={rule.id}>
              <Check
                label={`Take the rule for ${target.name}`}
                checked={!left.has(target.id)}
                onChange={(checked) => {
                  const next = new Set(left);
                  if (checked) next.delete(target.id);
                  else next.add(target.id);
                  setLeft(next);
                }}
              />
              <Chip target={target} />
              <div>
                <b>{target.name}</b> <code>{ruleShort(rule)}</code>
                <br />
                {unbroken(sentence)} It takes {found} of {of}.
                <br />
                <Dim style={{ whiteSpace: "normal" }}>{unbroken(bands.map((b) => b.sentence).join(" "))}</Dim>
              </div>
            </Item>
          ))}
        </List>
      )}
      {made && made.suggestion.inseparable.length > 0 && (
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
      )}
      {made && made.suggestion.unmarked.length > 0 && (
        <Dim>Nothing is marked of {made.suggestion.unmarked.map(name).join(", ")}.</Dim>
      )}
      {made && rules.length > 0 && (
        <section aria-label="Tried light by light">
          <Title>Made without one light, and tried in it</Title>
          {made.trials.length === 0 ? (
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
                {made.trials.map((trial) => (
                  <tr key={trial.light ?? ""}>
                    <th scope="row">{project.lights.find((l) => l.id === trial.light)?.name ?? "not noted"}</th>
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
      )}
      <SheetButtons>
        <Spacer />
        <Button onPress={onClose}>Cancel</Button>
        {made && rules.length > 0 && (
          <Button onPress={nearestFirst ? take : takeNearest}>
            {nearestFirst ? "Take bands all the same" : "Take nearest references"}
          </Button>
        )}
        <Button $main why={taken.length === 0 && "No rule is ticked."} onPress={nearestFirst ? takeNearest : take}>
          {taken.length === rules.length ? "Use all rules" : `Take ${taken.length} of ${rules.length}`}
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
