import type { Finding } from "@perceptum/core/findings";
import type { TapeId } from "@perceptum/core/names";
import { useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { useEdit, useSettledProject } from "../hooks/project";
import { useAppDispatch } from "../hooks/store";
import { actViewChosen, cellChosen } from "../model/store/act";
import { proveViewChosen, runChosen } from "../model/store/prove";
import { playheadMoved, ruleChosen, ruleSetChosen, sensorChosen, tapeChosen, targetChosen } from "../model/store/view";
import { Button, QuietButton } from "../ui/Button";
import { Dim } from "../ui/layout";
import { SIGN_OF_LEVEL, Sign } from "../ui/Sign";
import { unbroken } from "../ui/unbroken";

const Item = styled.li`
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto;
  gap: 8px;
  padding: 7px 0;
  border-top: 1px solid ${({ theme }) => theme.ruleSoft};
  font-size: 12px;
  align-items: start;
  & b { font-weight: 650; }
`;
const Buttons = styled.div`
  display: flex;
  flex-direction: column;
  gap: 4px;
`;

/** Buttons that mend what a finding says, where it has a fix, and that go where it lies. */
export function FindingButtons({ finding }: { finding: Finding }) {
  const { title, place, fix } = finding;
  const { id = "" } = useParams();
  const project = useSettledProject();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const show = () => {
    const set = project.ruleSets.find((s) => s.id === place.ruleSet);
    const rule = (set?.rules ?? project.ruleSets.flatMap((s) => s.rules)).find((r) => r.id === place.rule);
    if (set) {
      const sensor = project.sensors.find((s) => s.ruleSet === set.id);
      dispatch(sensor ? sensorChosen({ sensor: sensor.id, ruleSet: set.id }) : ruleSetChosen(set.id));
    }
    if (rule) dispatch(ruleChosen({ rule: rule.id, target: rule.target }));
    if (place.target) dispatch(targetChosen(place.target));
    if (place.mode) {
      const { mode, response } = place;
      dispatch(actViewChosen("grid"));
      dispatch(cellChosen(response ? { mode, response } : { mode, entering: true }));
    }
    if (place.routine) {
      dispatch(actViewChosen("grid"));
      dispatch(cellChosen({ routine: place.routine }));
    }
    if (place.stage === "prove") dispatch(proveViewChosen(place.course ? "course" : "robot"));
    if (place.course) dispatch(runChosen({ course: place.course, start: null }));
    if (place.reading) {
      const tape = place.reading.tape as TapeId;
      dispatch(tapeChosen(tape));
      dispatch(playheadMoved({ source: tape, t: place.reading.t }));
    }
    void navigate(`/p/${id}/${place.stage}`);
  };
  return (
    <>
      {fix && (
        <Button
          $small
          aria-label={`${fix.label}: ${title}`}
          onPress={() => edit("mend", { title, change: fix.change })}
        >
          {fix.label}
        </Button>
      )}
      <Button $small aria-label={`Show: ${title}`} onPress={show}>
        Show
      </Button>
    </>
  );
}

/** One finding: what it is, what it says, and what can be done. */
export function FindingEntry({ finding, above = false }: { finding: Finding; above?: boolean }) {
  const { level, title, sentence } = finding;
  const edit = useEdit();
  const setAside = (aside: boolean) => {
    const { code, sentence, place } = finding;
    edit(aside ? "putFindingAside" : "takeFindingBack", { finding: { code, title, sentence, place: { ...place } } });
  };
  return (
    <Item aria-label={`${level}: ${title}`}>
      <Sign kind={SIGN_OF_LEVEL[level]} />
      <span>
        <b>{title}</b>
        <br />
        {above ? <Dim>The line above the stage tells of it.</Dim> : unbroken(sentence)}
      </span>
      <Buttons>
        {!above && <FindingButtons finding={finding} />}
        <QuietButton
          aria-label={`${finding.aside ? "Take back" : "Put aside"}: ${title}`}
          onPress={() => setAside(!finding.aside)}
        >
          {finding.aside ? "take back" : "put aside"}
        </QuietButton>
      </Buttons>
    </Item>
  );
}
