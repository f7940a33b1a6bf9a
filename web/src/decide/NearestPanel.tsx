import type { ArgsOf } from "@perceptum/core/edits";
import { nextId, type ReferenceId, type TargetId } from "@perceptum/core/names";
import {
  FEATURE_FACTS,
  type Feature,
  REPORT_KINDS,
  type Report,
  shownValue,
  valueShownAs,
} from "@perceptum/core/readings";
import { MOST_REJECT } from "@perceptum/core/rules";
import { middleOf, nearestFromMarks, sampleOf } from "@perceptum/core/teaching";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useMarkedTapes } from "../hooks/marked";
import { useEdit, useProject, useRuleSet, useSensor, useTargets } from "../hooks/project";
import { useNow } from "../hooks/source";
import { usePublished } from "../hooks/usePublished";
import { Chip } from "../targets/Chip";
import { Button, QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Info } from "../ui/Info";
import { Dim, Empty, Spacer, Title } from "../ui/layout";
import { RangeField } from "../ui/RangeField";
import { Select } from "../ui/Select";
import { Status } from "../ui/Status";

const List = styled.ul`
  list-style: none;
  margin: 4px 0;
  padding: 0;
`;
const Item = styled.li`
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) auto auto;
  gap: 6px;
  align-items: center;
  padding: 3px 0;
  border-top: 1px solid ${({ theme }) => theme.ruleSoft};
  & > span:nth-child(2) { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-size: 12px; }
`;
const Values = styled.span`
  display: flex;
  gap: 3px;
`;
/** What stands in each column; as wide as the rows below. */
const Heads = styled.div`
  display: flex;
  justify-content: space-between;
  margin-top: 8px;
  padding-right: 30px;
  font-size: 11px;
  color: ${({ theme }) => theme.ink2};
  & span span { text-align: right; white-space: nowrap; }
`;
const Row = styled.div`
  display: flex;
  gap: 6px;
  align-items: center;
  flex-wrap: wrap;
  margin: 6px 0;
`;

const widthOf = (field: "hue" | "sat" | "val" | "reflected") => (field === "hue" ? 54 : 50);

/** The numbers that a reference has, for what its sensor reports. */
function fieldsOf(reports: Report): readonly ("hue" | "sat" | "val" | "reflected")[] {
  const given: readonly Feature[] = REPORT_KINDS.get(reports).features;
  if (given.includes("reflected")) return ["reflected"];
  return given.includes("val") ? ["hue", "sat", "val"] : ["hue"];
}

/** Judging by the nearest reference: the references, and how far a reading may lie from all of them. */
export function NearestPanel() {
  const ruleSet = useRuleSet();
  const project = useProject();
  const { targets, lights } = project;
  const sensor = useSensor();
  const tapes = useMarkedTapes();
  const now = useNow();
  const edit = useEdit();
  const byId = useTargets();
  const { references, reject } = ruleSet.nearest;
  const fields = fieldsOf(sensor.reports);
  const changeReference = (reference: ReferenceId, change: ArgsOf<"changeReference">["change"]) =>
    edit("changeReference", { ruleSet: ruleSet.id, reference, change });
  const marked = tapes.some((tape) => tape.sensor.ruleSet === ruleSet.id && tape.head.marks.length > 0);

  const addFor = (target: TargetId) => {
    const sample = sampleOf(project, tapes, ruleSet.id);
    const own: number[] = [];
    const number = targets.findIndex((t) => t.id === target) + 1;
    for (let i = 0; i < sample.count; i++) if (sample.truth[i] === number) own.push(i);
    const features = now?.block.at(now.index);
    const fromNow = features && {
      ...(fields.includes("hue") && !Number.isNaN(features.hue) && { hue: Math.round(features.hue * 10) / 10 }),
      ...(fields.includes("sat") && {
        sat: Math.round(features.sat * 1000) / 1000,
        val: Math.round(features.val * 1000) / 1000,
      }),
      ...(fields.includes("reflected") && { reflected: Math.round(features.reflected * 1000) / 1000 }),
    };
    const values = fromNow ?? middleOf(sample, own) ?? { [fields[0]]: 0.5 };
    const reference = { id: nextId("reference", references), target, ...values };
    edit("addReference", { ruleSet: ruleSet.id, reference });
  };
  const take = (reference: ReferenceId, field: (typeof fields)[number]) => (text: string) => {
    const clean = text
      .trim()
      .replace(",", ".")
      .replace(/\s*[%°]$/, "");
    const { max, unit, word } = FEATURE_FACTS[field];
    // A grey has no hue.
    if (clean === "" && field === "hue" && fields.includes("sat")) return changeReference(reference, { hue: null });
    const value = valueShownAs(field, Number(clean));
    if (clean === "" || !Number.isFinite(value) || value < 0 || value > max)
      return `The ${word} lies from 0 to ${max === 1 ? "100 %" : `${max}${unit}`}; it stays as it was.`;
    return changeReference(reference, { [field]: field === "hue" && value === 360 ? 0 : value });
  };
  return (
    <section aria-label="References">
      <Row>
        <Button
          why={!marked && "Nothing is marked yet. Record and mark in Sense first."}
          onPress={() => {
            const { nearest } = nearestFromMarks(ruleSet, sampleOf(project, tapes, ruleSet.id));
            edit("takeReferences", { ruleSet: ruleSet.id, nearest });
          }}
        >
          References from marks
        </Button>
        <Select
          label="Add a reference"
          hideLabel
          placeholder="Add one for …"
          value={null}
          options={targets.map((t) => ({ id: t.id as string, text: t.name }))}
          onChange={(id) => addFor(id as TargetId)}
        />
      </Row>
      {references.length === 0 && (
        <Empty>
          No references yet: everything is unknown. Take them from the marks, or add one from the reading that is looked
          at.
        </Empty>
      )}
      <Reject reject={reject} onChange={(value) => edit("setReject", { ruleSet: ruleSet.id, reject: value }, "keys")} />
      {references.length > 0 && (
        <Heads aria-hidden>
          <span>reference</span>
          <Values>
            {fields.map((field) => (
              <span key={field} style={{ width: widthOf(field) }}>
                {FEATURE_FACTS[field].word}
              </span>
            ))}
          </Values>
        </Heads>
      )}
      <List aria-label="References">
        {references.map((reference, i) => {
          const name = byId.get(reference.target)?.name ?? reference.target;
          return (
            <Item key={reference.id}>
              <Chip target={byId.get(reference.target)} />
              <span>
                {name}
                <Dim style={{ display: "block", fontSize: 11 }}>
                  {lights.find((l) => l.id === reference.light)?.name ?? ""}
                </Dim>
              </span>
              <Values>
                {fields.map((field) => (
                  <EntryField
                    key={field}
                    mono
                    width={widthOf(field)}
                    label={`${name}, ${FEATURE_FACTS[field].word} of reference ${i + 1}`}
                    text={
                      reference[field] === undefined
                        ? ""
                        : String(Number(shownValue(field, reference[field]).toFixed(2)))
                    }
                    placeholder={field === "hue" ? "grey" : "–"}
                    take={take(reference.id, field)}
                  />
                ))}
              </Values>
              <QuietButton
                aria-label={`Delete reference ${i + 1}, ${name}`}
                onPress={() => edit("deleteReference", { ruleSet: ruleSet.id, reference: reference.id })}
              >
                ×
              </QuietButton>
            </Item>
          );
        })}
      </List>
    </section>
  );
}

/** The reject distance with what it does to the marked readings. */
function Reject({ reject, onChange }: { reject: number; onChange: (value: number) => void }) {
  const { targets } = useProject();
  const { score } = usePublished(useSession().judging.judged);
  let [own, lost, grounds, taken] = [0, 0, 0, 0];
  score.counts.forEach((row, t) => {
    const all = row.reduce((a, b) => a + b, 0);
    if (targets[t]?.kind === "background") {
      grounds += all;
      row.forEach((n, label) => {
        if (label > 0 && targets[label - 1]?.kind !== "background") taken += n;
      });
    } else {
      own += all;
      lost += row[0];
    }
  });
  return (
    <>
      <Title>
        Reject distance <Info word="reject distance" /> <Spacer />
      </Title>
      <RangeField
        label="reject beyond"
        value={reject}
        min={0.02}
        max={Math.min(MOST_REJECT, 1)}
        step={0.01}
        unit=""
        shown={(v) => v.toFixed(2)}
        onChange={onChange}
      />
      {own + grounds > 0 && (
        <Status label="What the distance costs" as={Dim} style={{ fontSize: 12, whiteSpace: "normal" }}>
          {`${lost} of ${own} target readings stay unknown; ${taken} of ${grounds} background readings are taken for a target`}
        </Status>
      )}
    </>
  );
}
