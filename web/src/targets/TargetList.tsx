import { wholeShown } from "@perceptum/core/readings";
import { classify, labelMargin, ruleSetOf, type Target } from "@perceptum/core/rules";
import { memo, useCallback, useMemo, useState } from "react";
import { useStore } from "react-redux";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { currentRuleSet, useProject, useSettledProject } from "../hooks/project";
import { useCurrentBlock, useNow } from "../hooks/source";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublishedPart } from "../hooks/usePublished";
import type { AppState } from "../model/store/store";
import { ruleChosen, targetChosen } from "../model/store/view";
import { Button, QuietButton } from "../ui/Button";
import { Num, Title } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { NARROW } from "../ui/narrow";
import { rawText } from "../ui/rawText";
import { Chip } from "./Chip";

const TargetSheet = lazily(() => import("./TargetSheet").then((m) => m.TargetSheet));

const Column = styled.aside`
  background: ${({ theme }) => theme.panel};
  padding: 10px 0;
  overflow: auto;
  display: flex;
  flex-direction: column;
  min-height: 0;
  & h2 { padding: 0 12px; margin: 10px 0 4px; }
  ${NARROW} { & ul { display: grid; grid-template-columns: repeat(auto-fill, minmax(170px, 1fr)); } }
`;
const Now = styled.section`
  & h2 { padding: 0; margin: 0; }
  margin: 0 10px;
  padding: 9px 10px;
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.rule};
  border-radius: ${({ theme }) => theme.radius};
`;
const Label = styled.p`
  display: flex;
  align-items: center;
  gap: 8px;
  font-size: 16px;
  font-weight: 700;
  margin: 4px 0 6px;
  white-space: nowrap;
  overflow: hidden;
`;
const Meter = styled.div`
  height: 4px;
  background: ${({ theme }) => theme.ruleSoft};
  position: relative;
  & > i { position: absolute; left: 0; top: 0; bottom: 0; background: ${({ theme }) => theme.ink}; }
`;
const Values = styled.div`
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 2px;
  margin-top: 6px;
  white-space: pre;
`;
const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Row = styled.li<{ $chosen: boolean }>`
  display: grid;
  grid-template-columns: 4px minmax(0, 1fr) auto;
  align-items: center;
  height: 28px;
  padding-right: 6px;
  background: ${({ $chosen, theme }) => ($chosen ? theme.sheet : "none")};
  & > i { height: 18px; background: ${({ $chosen, theme }) => ($chosen ? theme.ink : "none")}; }
  /* Unseen until wanted, but always there for the keyboard and for screen readers. */
  & button:last-child { opacity: 0; }
  &:hover button:last-child, &:focus-within button:last-child { opacity: 1; }
  @media (hover: none) { & button:last-child { opacity: 1; } }
`;
const Choose = styled(QuietButton)`
  display: flex;
  align-items: center;
  gap: 8px;
  text-align: left;
  width: 100%;
  padding: 3px 4px;
  color: ${({ theme }) => theme.ink};
  & span:nth-child(2) { flex: 1; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
`;

const NONE: readonly Target[] = [];
const SHOWN = [
  { feature: "hue", sign: "H" },
  { feature: "sat", sign: "S" },
  { feature: "val", sign: "V" },
  { feature: "reflected", sign: "L" },
] as const;
const degrees = (hue: number) => (Number.isNaN(hue) ? "–" : `${wholeShown("hue", hue)}°`);

/** Targets beside everything: what is under the sensor now, all that is to be told apart, how often each is marked. */
export const TargetList = memo(function TargetList() {
  const targets = useAppSelector((state) => state.document.present?.targets) ?? NONE;
  // As one text, so that only other numbers render the list anew.
  const marks = usePublishedPart(useSession().judging.judged, ({ score }) =>
    score.counts.map((row) => row.reduce((sum, n) => sum + n, 0)).join(" "),
  ).split(" ");
  const [sheet, setSheet] = useState<{ target: Target | null } | null>(null);
  const change = useCallback((target: Target) => setSheet({ target }), []);
  const groups = [
    { title: "Targets", members: targets.filter((t) => t.kind !== "background") },
    { title: "Backgrounds", members: targets.filter((t) => t.kind === "background") },
  ];
  const marked = (target: Target) => Number(marks[targets.indexOf(target)] ?? 0);
  return (
    <Column aria-label="Targets" data-pane>
      <UnderSensor />
      {groups.map(({ title, members }) => (
        <div key={title} style={{ display: "contents" }}>
          <Title>{title}</Title>
          <List aria-label={title}>
            {members.map((target) => (
              <TargetRow key={target.id} target={target} marked={marked(target)} onEdit={change} />
            ))}
          </List>
        </div>
      ))}
      <div style={{ padding: "10px 12px" }}>
        <Button onPress={() => setSheet({ target: null })}>Add target</Button>
      </div>
      {sheet !== null && <TargetSheet target={sheet.target} onClose={() => setSheet(null)} />}
    </Column>
  );
});

const TargetRow = memo(function TargetRow(props: { target: Target; marked: number; onEdit: (target: Target) => void }) {
  const { target, marked, onEdit } = props;
  const chosen = useAppSelector((state) => state.view.target === target.id);
  const dispatch = useAppDispatch();
  const store = useStore<AppState>();
  return (
    <Row $chosen={chosen}>
      <i />
      <Choose
        aria-label={`${target.name}, ${marked} marked readings`}
        aria-pressed={chosen}
        onPress={() => {
          const rule = currentRuleSet(store.getState())?.rules.find((r) => r.target === target.id);
          if (chosen) dispatch(targetChosen(null));
          // A target leads to its rule.
          else
            dispatch(rule === undefined ? targetChosen(target.id) : ruleChosen({ rule: rule.id, target: target.id }));
        }}
      >
        <Chip target={target} />
        <span title={target.name}>{target.name}</span> <Num style={{ opacity: 0.75 }}>{marked}</Num>
      </Choose>
      <QuietButton aria-label={`Change ${target.name}`} onPress={() => onEdit(target)}>
        …
      </QuietButton>
    </Row>
  );
});

function UnderSensor() {
  const reading = useNow();
  const { ruleSets } = useProject();
  const { targets } = useSettledProject();
  const framed = useCurrentBlock()?.block.isShown ?? false;
  const now = useMemo(() => {
    if (reading === null) return null;
    const features = reading.block.at(reading.index);
    const ruleSet = ruleSetOf({ ruleSets }, reading.sensor);
    return { features, label: classify(ruleSet, features), margin: labelMargin(ruleSet, features) };
  }, [reading, ruleSets]);
  const target = targets.find((x) => x.id === now?.label);
  const percent = (v: number) => `${Math.round(v * 100)}%`;
  return (
    <Now aria-label="Under the sensor now">
      <Title>Under the sensor now</Title>
      <Label>
        <Chip target={target} />
        <span style={{ overflow: "hidden", textOverflow: "ellipsis" }}>
          {target?.name ?? (now === null ? (framed ? "no pixel" : "no reading") : "Unknown")}
        </span>
      </Label>
      <Meter title={now === null ? undefined : `margin ${now.margin.toFixed(2)}`}>
        <i style={{ width: `${Math.max(0, Math.min(1, now?.margin ?? 0)) * 100}%` }} />
      </Meter>
      <Values>
        {now !== null && (
          <>
            {SHOWN.filter(({ feature }) => reading?.block.features.includes(feature)).map(({ feature, sign }) => (
              <Num key={feature}>
                {sign} {feature === "hue" ? degrees(now.features.hue) : percent(now.features[feature])}
              </Num>
            ))}
            {reading?.raw.map(({ channel, values }) => (
              <Num key={channel}>
                {channel.length === 1 ? channel.toUpperCase() : channel} {rawText(values[reading.index])}
              </Num>
            ))}
          </>
        )}
      </Values>
    </Now>
  );
}
