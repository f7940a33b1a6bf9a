import { isCamera, REPORT_KINDS, type Sensor, type TapeHead } from "@perceptum/core/readings";
import { useState } from "react";
import styled from "styled-components";
import { FindingList } from "../findings/FindingList";
import { useSession } from "../hooks/context";
import { useEdit, useRuleSetFacts, useSensor, useSettledProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublishedPart } from "../hooks/usePublished";
import { beforeKept, openSet, ruleSetChosen, sensorChosen } from "../model/store/view";
import { Button, Choice } from "../ui/Button";
import { Info } from "../ui/Info";
import { Dim, Empty, Head, Pane, Spacer, StageGrid, Title } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { Select } from "../ui/Select";
import { Status } from "../ui/Status";
import { AddRule } from "./AddRule";
import { Fields } from "./field/Fields";
import { NearestPanel } from "./NearestPanel";
import { RuleList } from "./RuleList";
import { ScorePanel, ScoreShare } from "./ScorePanel";
import { SteadyPanel } from "./SteadyPanel";
import { TeachButton } from "./TeachButton";
import { WhyPanel } from "./WhyPanel";

const FrameBeside = lazily(() => import("../camera/FrameBeside").then((m) => m.FrameBeside));

const SuggestionSheet = lazily(() => import("./SuggestionSheet").then((m) => m.SuggestionSheet));

const Row = styled.div`
  display: flex;
  gap: 6px;
  align-items: center;
  flex-wrap: wrap;
  margin-bottom: 8px;
`;

const TABS = [
  { id: "rules", text: "Rules" },
  { id: "score", text: "Score" },
  { id: "why", text: "Why" },
] as const;
const METHODS = [
  { id: "bands", text: "Bands" },
  { id: "nearest", text: "Nearest" },
] as const;

/** What is a reading taken for? The rules as boxes, as numbers and as sentences; how good they are; what will go wrong. */
export function DecideStage() {
  const { tapes, sensors } = useSettledProject();
  const { id: ruleSet } = useRuleSetFacts();
  const chosen = useAppSelector((state) => state.view.tape);
  const [tab, setTab] = useState<(typeof TABS)[number]["id"]>("rules");
  const anything = tapes.some((tape) => tape.marks.length > 0 || (tape.boxes?.length ?? 0) > 0);
  const framed = framedTape(tapes, sensors, ruleSet, chosen);
  return (
    <StageGrid $columns="minmax(0, 1fr) 344px">
      <Pane $sheet aria-label="Colour field">
        {!anything && (
          <Empty>Nothing is marked yet, so the field is empty. Record and mark in Sense, or open the demo.</Empty>
        )}
        <Fields below={framed && <FrameBeside tape={framed.tape} sensor={framed.sensor} />} />
      </Pane>
      <Pane aria-label="Rules">
        <Head style={{ marginBottom: 6 }}>
          <Choice label="Rules, score or reasons" value={tab} options={TABS} onChange={setTab} />
          <Spacer />
          <Change />
          <ScoreShare />
        </Head>
        {tab === "rules" && <RulesTab />}
        {tab === "score" && (
          <>
            <Compare />
            <ScorePanel />
          </>
        )}
        {tab === "why" && <WhyPanel />}
      </Pane>
    </StageGrid>
  );
}

/** The tape of a camera that the rules are for: the chosen one, else the last. */
function framedTape(tapes: readonly TapeHead[], sensors: readonly Sensor[], ruleSet: string, chosen: string | null) {
  const own = tapes.flatMap((tape) => {
    const sensor = sensors.find((s) => s.id === tape.sensor);
    return sensor?.ruleSet === ruleSet && isCamera(sensor) ? [{ tape, sensor }] : [];
  });
  return own.find(({ tape }) => tape.id === chosen) ?? own.at(-1) ?? null;
}

function RulesTab() {
  const { ruleSets, sensors } = useSettledProject();
  const { id, method, name } = useRuleSetFacts();
  const { reports } = useSensor();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const suggesting = useAppSelector((state) => state.view.open === "suggestion");
  const coded = sensors.filter((s) => s.ruleSet === id).every((s) => REPORT_KINDS.get(s.reports).coded);
  return (
    <>
      <Row>
        {ruleSets.length > 1 ? (
          <Select
            label="Rule set"
            hideLabel
            value={id as string}
            options={ruleSets.map((set) => ({ id: set.id as string, text: set.name }))}
            onChange={(chosen) => {
              const sensor = sensors.find((s) => s.ruleSet === chosen);
              if (sensor) dispatch(sensorChosen({ sensor: sensor.id, ruleSet: sensor.ruleSet }));
              dispatch(ruleSetChosen(chosen as typeof id));
            }}
          />
        ) : (
          <Title>{name}</Title>
        )}
        <Info word="rule set" />
        <Spacer />
        <Choice
          label="Method"
          value={method}
          options={METHODS}
          onChange={(next) => edit("setMethod", { ruleSet: id, method: next })}
        />
      </Row>
      {REPORT_KINDS.get(reports).coded && coded ? (
        <Empty>The sensor says codes of its own; what they stand for is set in Sense, under Change sensor.</Empty>
      ) : (
        <>
          <Row style={{ marginBottom: 6 }}>
            {method === "bands" && <Button onPress={() => dispatch(openSet("suggestion"))}>Suggest rules</Button>}
            <TeachButton />
          </Row>
          {method === "bands" ? <RuleList /> : <NearestPanel />}
          {method === "bands" && <AddRule />}
          <FindingList stage="decide" />
        </>
      )}
      <SteadyPanel />
      {suggesting && <SuggestionSheet onClose={() => dispatch(openSet(null))} />}
    </>
  );
}

/** What the drag that goes on gains and loses. */
function Change() {
  const dragging = useAppSelector((state) => state.document.gesture?.by === "drag");
  const gained = usePublishedPart(useSession().judging.judged, (j) => j.change?.gained ?? 0);
  const lost = usePublishedPart(useSession().judging.judged, (j) => j.change?.lost ?? 0);
  if (!dragging) return null;
  return <Status label="Gained and lost by this change">{`gains ${gained}, loses ${lost}`}</Status>;
}

/** Keeps the present rules as *before*, to see everywhere what flips. */
function Compare() {
  const ruleSets = useAppSelector((state) => state.document.present?.ruleSets);
  const before = useAppSelector((state) => state.view.before);
  const gained = usePublishedPart(useSession().judging.judged, (j) => j.before?.sum.gained ?? 0);
  const lost = usePublishedPart(useSession().judging.judged, (j) => j.before?.sum.lost ?? 0);
  const other = usePublishedPart(useSession().judging.judged, (j) => j.before?.sum.other ?? 0);
  const dispatch = useAppDispatch();
  return (
    <Row role="group" aria-label="Compare">
      {before === null ? (
        <>
          <Button onPress={() => ruleSets && dispatch(beforeKept(ruleSets))}>
            Compare with these rules from now on
          </Button>
          <Dim style={{ fontSize: 12, whiteSpace: "normal" }}>Then change them: tape and matrix show what flips.</Dim>
        </>
      ) : (
        <>
          <Status label="Against before">{`+${gained} −${lost}${other > 0 ? ` (${other} otherwise)` : ""}`}</Status>
          <Button $small onPress={() => ruleSets && dispatch(beforeKept(ruleSets))}>
            Update
          </Button>
          <Button $small onPress={() => dispatch(beforeKept(null))}>
            Stop comparing
          </Button>
        </>
      )}
    </Row>
  );
}
