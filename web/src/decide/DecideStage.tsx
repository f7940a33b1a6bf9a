import styled from "styled-components";
import { useSettledProject } from "../state/project";
import { FindingList } from "../ui/FindingList";
import { Dim, Empty, Head, Pane, Spacer, StageGrid, Title } from "../ui/layout";
import { Field } from "./field/Field";
import { AddRule, RuleList } from "./RuleList";
import { ScorePanel, ScoreShare } from "./ScorePanel";
import { SteadyRow } from "./SteadyRow";

const Plots = styled.div`
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-rows: minmax(0, 1.3fr) minmax(0, 1fr);
  margin: 0 -8px;
`;

/** What is a reading taken for? The rules as boxes, as numbers and as sentences; how good they are; what will go wrong. */
export default function DecideStage() {
  const { tapes } = useSettledProject();
  const anything = tapes.some((tape) => tape.marks.length > 0);
  return (
    <StageGrid $columns="minmax(0, 1fr) 344px">
      <Pane $sheet aria-label="Colour field">
        <Head style={{ marginBottom: 2 }}>
          <Title>Field</Title>
          <Dim>every marked reading, and the box of each rule; drag a side, or move it with the arrow keys</Dim>
        </Head>
        {!anything && (
          <Empty>Nothing is marked yet, so the field is empty. Keep a run in Prove as a tape, or open the demo.</Empty>
        )}
        <Plots>
          <Field x="hue" y="sat" />
          <Field x="hue" y="val" />
        </Plots>
      </Pane>
      <Pane aria-label="Rules">
        <Head>
          <Title>Rules, first match wins</Title>
          <Spacer />
          <ScoreShare />
        </Head>
        <RuleList />
        <FindingList stage="decide" />
        <AddRule />
        <SteadyRow />
        <ScorePanel />
      </Pane>
    </StageGrid>
  );
}
