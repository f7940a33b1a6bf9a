import { freeId, type RuleSetId, type SensorId, type TargetId } from "@perceptum/core/names";
import { emptyProject, type ProjectDocument, tellUses } from "@perceptum/core/project";
import { type Channel, REPORT_KINDS, REPORTS, type Report, type Sensor } from "@perceptum/core/readings";
import { useState } from "react";
import styled from "styled-components";
import { useEdit, useProject } from "../session/project";
import { useAppDispatch } from "../state/store";
import { sensorChosen } from "../state/view";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";
import { Dim, Spacer } from "../ui/layout";
import { Select } from "../ui/Select";
import { Sheet, SheetButtons } from "../ui/Sheet";
import { nameProblem, typedNumber } from "../ui/typed";

const Line = styled.label`
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr);
  align-items: center;
  gap: 8px;
`;
const Text = styled.input`
  border: 1px solid ${({ theme }) => theme.rule};
  border-radius: 2px;
  padding: 4px 6px;
  background: ${({ theme }) => theme.sheet};
  min-width: 0;
`;
const Group = styled.fieldset`
  border: 0;
  margin: 0;
  padding: 0;
  display: flex;
  flex-direction: column;
  gap: 5px;
  min-width: 0;
  & legend { padding: 0 0 4px; color: ${({ theme }) => theme.ink2}; font-size: 11px; font-weight: 650; }
`;
const Spans = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  & span { display: inline-flex; gap: 5px; align-items: center; }
  & input { width: 66px; }
`;

/** Forms that many sensors have, by what they report and on which scale. */
const FORMS: { id: string; text: string; reports: Report; scale: number[]; bits: number }[] = [
  { id: "rgb-8", text: "Red, green, blue, 8 bit (0–255)", reports: "rgb", scale: [255, 255, 255], bits: 8 },
  { id: "rgb-10", text: "Red, green, blue, 10 bit (0–1023)", reports: "rgb", scale: [1023, 1023, 1023], bits: 10 },
  {
    id: "rgb-16",
    text: "Red, green, blue, 16 bit (0–65535)",
    reports: "rgb",
    scale: [65_535, 65_535, 65_535],
    bits: 16,
  },
  { id: "rgb-1", text: "Red, green, blue, 0–1", reports: "rgb", scale: [1, 1, 1], bits: 10 },
  { id: "rgb-100", text: "Red, green, blue, 0–100", reports: "rgb", scale: [100, 100, 100], bits: 10 },
  {
    id: "rgbc-10",
    text: "Red, green, blue and clear, 10 bit",
    reports: "rgbc",
    scale: [1023, 1023, 1023, 1023],
    bits: 10,
  },
  {
    id: "rgbc-16",
    text: "Red, green, blue and clear, 16 bit",
    reports: "rgbc",
    scale: [65_535, 65_535, 65_535, 65_535],
    bits: 16,
  },
  { id: "hsv-360", text: "Hue 0–360, saturation and value 0–100", reports: "hsv", scale: [360, 100, 100], bits: 10 },
  { id: "hsv-8", text: "Hue, saturation, value, 8 bit each", reports: "hsv", scale: [255, 255, 255], bits: 8 },
  { id: "hue-360", text: "Hue only, 0–360", reports: "hue", scale: [360], bits: 10 },
  { id: "hue-8", text: "Hue only, 8 bit", reports: "hue", scale: [255], bits: 8 },
  { id: "reflected-100", text: "Reflected light, 0–100", reports: "reflected", scale: [100], bits: 10 },
  { id: "reflected-10", text: "Reflected light, 10 bit", reports: "reflected", scale: [1023], bits: 10 },
  { id: "code", text: "Colour codes of its own", reports: "code", scale: [], bits: 10 },
];
const ORDERS = [
  { id: "rgb", text: "red, green, blue" },
  { id: "bgr", text: "blue, green, red" },
  { id: "grb", text: "green, red, blue" },
] as const;

interface Draft {
  name: string;
  reports: Report;
  scale: Partial<Record<Channel, [string, string]>>;
  order: "rgb" | "bgr" | "grb";
  period: string;
  ruleSet: RuleSetId | "new";
  codes: { code: string; target: TargetId }[];
  bits: number;
}

function draftOf(sensor: Sensor): Draft {
  return {
    name: sensor.name,
    reports: sensor.reports,
    scale: Object.fromEntries(Object.entries(sensor.scale).map(([c, [a, b]]) => [c, [String(a), String(b)]])),
    order: sensor.order ?? "rgb",
    period: String(sensor.periodMs),
    ruleSet: sensor.ruleSet,
    codes: Object.entries(sensor.codes ?? {}).map(([code, target]) => ({ code, target: target as TargetId })),
    bits: sensor.optics.bits,
  };
}

function formed(draft: Draft, id: string): Draft {
  const form = FORMS.find((f) => f.id === id);
  if (form === undefined) return draft;
  const { channels } = REPORT_KINDS[form.reports];
  return {
    ...draft,
    reports: form.reports,
    bits: form.bits,
    scale: Object.fromEntries(form.scale.map((end, i) => [channels[i], ["0", String(end)]])),
  };
}

/** What keeps a draft from being taken, in a sentence. */
function problemOf(draft: Draft, project: ProjectDocument, sensor: Sensor | null): string | undefined {
  const name = draft.name.trim();
  const wrong = nameProblem(name);
  if (wrong !== undefined) return wrong;
  if (project.sensors.some((s) => s.id !== sensor?.id && s.name === name))
    return `There is already a sensor called ${name}.`;
  const period = typedNumber(draft.period);
  if (!(period >= 1 && period <= 10_000)) return "The period lies from 1 to 10000 ms.";
  for (const [channel, [from, to]] of Object.entries(draft.scale)) {
    if (Number.isNaN(typedNumber(from)) || Number.isNaN(typedNumber(to)))
      return `The scale of ${channel} needs two numbers.`;
    if (typedNumber(to) <= typedNumber(from)) return `The end of ${channel}’s scale must lie above its start.`;
  }
  if (draft.reports === "code") {
    const bad = draft.codes.find(({ code }) => !/^\d{1,3}$/.test(code));
    if (bad) return `“${bad.code}” is no code: a code is a whole number from 0 to 999.`;
    const twice = draft.codes.find(({ code }, i) => draft.codes.some((other, k) => k < i && other.code === code));
    if (twice) return `The code ${twice.code} is there twice.`;
  }
  return undefined;
}

function sensorOf(draft: Draft, id: SensorId, ruleSet: RuleSetId, was: Sensor | null): Sensor {
  const kind = REPORT_KINDS[draft.reports];
  const scale = Object.fromEntries(
    Object.entries(draft.scale).map(([c, [a, b]]) => [c, [typedNumber(a), typedNumber(b)]]),
  ) as Sensor["scale"];
  const base = was ?? emptyProject("").sensors[0];
  const { reference, codes: _, order: __, ...rest } = base;
  // White and dark are raw values: on another scale they mean nothing.
  const keeps = was !== null && was.reports === draft.reports && JSON.stringify(was.scale) === JSON.stringify(scale);
  return {
    ...rest,
    id,
    name: draft.name.trim(),
    ruleSet,
    reports: draft.reports,
    // The same object as long as nothing changed, so that nothing is read anew.
    scale: keeps && was ? was.scale : scale,
    periodMs: typedNumber(draft.period),
    ...(kind.ordered && draft.order !== "rgb" && { order: draft.order }),
    ...(keeps && reference !== undefined && { reference }),
    ...(draft.reports === "code" && {
      codes: Object.fromEntries(draft.codes.map(({ code, target }) => [Number(code), target])),
    }),
    optics: { ...rest.optics, bits: draft.bits },
  };
}

/** Adds a sensor, or changes or deletes one. */
export function SensorSheet({ sensor, onClose }: { sensor: Sensor | null; onClose: () => void }) {
  const project = useProject();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const [draft, setDraft] = useState<Draft>(() =>
    sensor === null
      ? formed(
          { ...draftOf(emptyProject("").sensors[0]), name: "", ruleSet: project.ruleSets[0]?.id ?? "new" },
          "rgb-10",
        )
      : draftOf(sensor),
  );
  const change = (part: Partial<Draft>) => setDraft((d) => ({ ...d, ...part }));
  const wrong = problemOf(draft, project, sensor);
  const tapes = sensor === null ? [] : project.tapes.filter((t) => t.sensor === sensor.id);
  const uses = sensor === null ? [] : tellUses(project, "sensor", sensor.id);
  const forms = tapes.length > 0 ? FORMS.filter((f) => f.reports === draft.reports) : FORMS;
  const kind = REPORT_KINDS[draft.reports];

  const save = () => {
    const id =
      sensor?.id ??
      freeId<SensorId>(
        draft.name,
        project.sensors.map((s) => s.id),
      );
    const taken = project.ruleSets.map((s) => s.id);
    const ruleSet = draft.ruleSet === "new" ? freeId<RuleSetId>(draft.name, taken) : draft.ruleSet;
    const made = sensorOf(draft, id, ruleSet, sensor);
    edit(sensor === null ? `adding ${made.name}` : `changing ${made.name}`, (p) => ({
      ...p,
      ruleSets:
        draft.ruleSet === "new"
          ? [...p.ruleSets, { ...emptyProject("").ruleSets[0], id: ruleSet, name: made.name }]
          : p.ruleSets,
      sensors: sensor === null ? [...p.sensors, made] : p.sensors.map((s) => (s.id === id ? made : s)),
    }));
    dispatch(sensorChosen({ sensor: id, ruleSet }));
    onClose();
  };
  return (
    <Sheet title={sensor === null ? "New sensor" : sensor.name} isOpen onClose={onClose}>
      <Line>
        Name
        <Text type="text" value={draft.name} onChange={(event) => change({ name: event.target.value })} />
      </Line>
      <Select
        label="Ready form"
        value={null}
        placeholder={kind.name}
        options={forms.map(({ id, text }) => ({ id, text }))}
        onChange={(id) => setDraft((d) => formed(d, id))}
      />
      {tapes.length === 0 ? (
        <Select
          label="Reports"
          value={draft.reports}
          options={REPORTS.map((id) => ({ id, text: REPORT_KINDS[id].name }))}
          onChange={(reports) => setDraft((d) => formed(d, FORMS.find((f) => f.reports === reports)?.id ?? ""))}
        />
      ) : (
        <Dim>
          Reports {kind.name}; {tapes.length === 1 ? "a tape was" : `${tapes.length} tapes were`} recorded so, and what
          is changed here re-reads {tapes.length === 1 ? "it" : "them"} at once.
        </Dim>
      )}
      {Object.keys(draft.scale).length > 0 && (
        <Group>
          <legend>Scale of each channel, in raw values</legend>
          <Spans>
            {kind.channels.map((channel) => (
              <span key={channel}>
                {channel}
                {([0, 1] as const).map((end) => (
                  <Text
                    key={end}
                    aria-label={`${channel}, ${end === 0 ? "start" : "end"} of the scale`}
                    value={draft.scale[channel]?.[end] ?? ""}
                    onChange={(event) => {
                      const span: [string, string] = [...(draft.scale[channel] ?? ["0", "1"])];
                      span[end] = event.target.value;
                      change({ scale: { ...draft.scale, [channel]: span } });
                    }}
                  />
                ))}
              </span>
            ))}
          </Spans>
        </Group>
      )}
      {kind.ordered && (
        <Select
          label="Order over the wire"
          value={draft.order}
          options={ORDERS}
          onChange={(order) => change({ order })}
        />
      )}
      <Line>
        A reading every
        <span>
          <Text
            aria-label="Period in ms"
            value={draft.period}
            onChange={(event) => change({ period: event.target.value })}
            style={{ width: 70 }}
          />{" "}
          ms
        </span>
      </Line>
      {draft.reports === "code" && <Codes draft={draft} change={change} />}
      <Select
        label="Rules"
        value={draft.ruleSet as string}
        options={[
          ...project.ruleSets.map((set) => ({ id: set.id as string, text: `shares “${set.name}”` })),
          { id: "new", text: "its own rules" },
        ]}
        onChange={(id) => change({ ruleSet: id as Draft["ruleSet"] })}
      />
      {wrong !== undefined && draft.name !== "" && <Wrong role="alert">{wrong}</Wrong>}
      {uses.length > 0 && <Dim>It is used by {uses.join(", ")}, so it cannot be deleted.</Dim>}
      <SheetButtons>
        {sensor !== null && (
          <Button
            isDisabled={uses.length > 0 || project.sensors.length === 1}
            onPress={() => {
              edit(`deleting ${sensor.name}`, (p) => ({ ...p, sensors: p.sensors.filter((s) => s.id !== sensor.id) }));
              const [first] = project.sensors.filter((s) => s.id !== sensor.id);
              dispatch(sensorChosen({ sensor: first.id, ruleSet: first.ruleSet }));
              onClose();
            }}
          >
            Delete
          </Button>
        )}
        <Spacer />
        <Button onPress={onClose}>Cancel</Button>
        <Button $main isDisabled={wrong !== undefined} onPress={save}>
          {sensor === null ? "Add" : "Save"}
        </Button>
      </SheetButtons>
    </Sheet>
  );
}

/** Which code stands for which target. */
function Codes({ draft, change }: { draft: Draft; change: (part: Partial<Draft>) => void }) {
  const { targets } = useProject();
  const set = (i: number, part: Partial<Draft["codes"][number]>) =>
    change({ codes: draft.codes.map((c, k) => (k === i ? { ...c, ...part } : c)) });
  return (
    <Group>
      <legend>What its codes stand for</legend>
      {draft.codes.map(({ code, target }, i) => (
        <span key={i} style={{ display: "flex", gap: 8, alignItems: "center" }}>
          <Text
            aria-label={`Code ${i + 1}`}
            value={code}
            onChange={(event) => set(i, { code: event.target.value })}
            style={{ width: 52 }}
          />
          <Select
            label={`Target of code ${code}`}
            hideLabel
            value={target as string}
            options={targets.map((t) => ({ id: t.id as string, text: t.name }))}
            onChange={(id) => set(i, { target: id as TargetId })}
          />
          <Button
            $small
            aria-label={`Leave out code ${code}`}
            onPress={() => change({ codes: draft.codes.toSpliced(i, 1) })}
          >
            ×
          </Button>
        </span>
      ))}
      <Button
        $small
        isDisabled={targets.length === 0}
        onPress={() => {
          const next = Math.max(0, ...draft.codes.map((c) => Number(c.code) || 0)) + 1;
          const free = targets.find((t) => !draft.codes.some((c) => c.target === t.id)) ?? targets[0];
          change({ codes: [...draft.codes, { code: String(next), target: free.id }] });
        }}
      >
        Add a code
      </Button>
    </Group>
  );
}
