import { withSuggested } from "@perceptum/core/teaching";
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
import { Dim, Empty, Spacer } from "../ui/layout";
import { Sheet, SheetButtons } from "../ui/Sheet";
import { unbroken } from "../ui/unbroken";
import { ruleShort } from "./ruleWords";
import { DoubtfulMarks, Inseparable, TriedByLight } from "./SuggestionParts";

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
const percent = (x: number) => unbroken(`${(100 * x).toFixed(1)} %`);

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
      {made && made.doubtful.length > 0 && <DoubtfulMarks doubtful={made.doubtful} />}
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
      {made && made.suggestion.inseparable.length > 0 && <Inseparable made={made} />}
      {made && made.suggestion.unmarked.length > 0 && (
        <Dim>Nothing is marked of {made.suggestion.unmarked.map(name).join(", ")}.</Dim>
      )}
      {made && rules.length > 0 && <TriedByLight trials={made.trials} />}
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
