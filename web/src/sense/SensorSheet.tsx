import { freeId, type RuleSetId, type SensorId } from "@perceptum/core/names";
import { emptyProject, takenIds, tellUses } from "@perceptum/core/project";
import { REPORT_KINDS, type Sensor, WIRE_ORDERS } from "@perceptum/core/readings";
import { useState } from "react";
import styled from "styled-components";
import { useEdit, useProject } from "../hooks/project";
import { useAppDispatch } from "../hooks/store";
import { sensorChosen } from "../model/store/view";
import { Button } from "../ui/Button";
import { Box, Wrong } from "../ui/EntryField";
import { Group, LabelledRow } from "../ui/fields";
import { Dim, Spacer } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { Select } from "../ui/Select";
import { Sheet, SheetButtons } from "../ui/Sheet";
import { Codes } from "./SensorCodes";
import { type Draft, draftOf, FORMS, formed, formOf, problemOf, sensorOf } from "./sensorDraft";

const CameraFields = lazily(() => import("./CameraFields").then((m) => m.CameraFields));

const Spans = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  & span { display: inline-flex; gap: 5px; align-items: center; }
  & input { width: 66px; }
`;

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
  const kind = REPORT_KINDS.get(draft.reports);

  const save = () => {
    const id = sensor?.id ?? freeId<SensorId>(draft.name, takenIds(project));
    const taken = project.ruleSets.map((s) => s.id);
    const ruleSet = draft.ruleSet === "new" ? freeId<RuleSetId>(draft.name, taken) : draft.ruleSet;
    const made = sensorOf(draft, id, ruleSet, sensor);
    edit(sensor === null ? "addSensor" : "replaceSensor", {
      sensor: made,
      ...(draft.ruleSet === "new" && { ownRules: made.name }),
    });
    dispatch(sensorChosen({ sensor: id, ruleSet }));
    onClose();
  };
  return (
    <Sheet title={sensor === null ? "New sensor" : sensor.name} isOpen onClose={onClose}>
      <LabelledRow>
        Name
        <Box type="text" $wide value={draft.name} onChange={(event) => change({ name: event.target.value })} />
      </LabelledRow>
      <Select
        label="Ready form"
        value={formOf(draft)}
        placeholder="none of these"
        options={forms.map(({ id, text }) => ({ id, text }))}
        onChange={(id) => setDraft((d) => formed(d, id))}
      />
      {tapes.length === 0 ? (
        <Select
          label="Reports"
          value={draft.reports}
          options={REPORT_KINDS.entries.map(({ key, name }) => ({ id: key, text: name }))}
          onChange={(reports) => setDraft((d) => formed(d, FORMS.find((f) => f.reports === reports)?.id ?? ""))}
        />
      ) : (
        <Dim>
          Reports {kind.name}; {tapes.length === 1 ? "a tape was" : `${tapes.length} tapes were`} recorded so, and what
          is changed here re-reads {tapes.length === 1 ? "it" : "them"} at once.
        </Dim>
      )}
      {Object.keys(draft.scale).length > 0 && draft.reports !== "frames" && (
        <Group>
          <legend>Scale of each channel, in raw values</legend>
          <Spans>
            {kind.channels.map((channel) => (
              <span key={channel}>
                {channel}
                {([0, 1] as const).map((end) => (
                  <Box
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
          options={WIRE_ORDERS}
          onChange={(order) => change({ order })}
        />
      )}
      <LabelledRow>
        {draft.reports === "frames" ? "A frame every" : "A reading every"}
        <span>
          <Box
            aria-label="Period in ms"
            value={draft.period}
            onChange={(event) => change({ period: event.target.value })}
            style={{ width: 70 }}
          />{" "}
          ms
        </span>
      </LabelledRow>
      {draft.reports === "frames" && (
        <CameraFields
          draft={draft.camera}
          sized={tapes.length > 0}
          change={(part) => change({ camera: { ...draft.camera, ...part } })}
        />
      )}
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
            why={uses.length > 0 ? "It is in use." : project.sensors.length === 1 && "A project needs a sensor."}
            onPress={() => {
              edit("deleteSensor", { sensor: sensor.id });
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
        <Button $main why={wrong ?? false} onPress={save}>
          {sensor === null ? "Add" : "Save"}
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
