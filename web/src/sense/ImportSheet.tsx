import type { Edit } from "@perceptum/core/edits";
import type { LightId, SensorId } from "@perceptum/core/names";
import { takenIds } from "@perceptum/core/project";
import {
  type Channel,
  HUE_SCALES,
  type ImportPlan,
  REPORT_KINDS,
  type Sensor,
  USUAL_SCALES,
} from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import { useEffect, useState } from "react";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useProject, useSensor } from "../hooks/project";
import { useAppDispatch } from "../hooks/store";
import { LightSelect } from "../lights/LightSelect";
import { watchingChosen } from "../model/store/sense";
import { sensorChosen } from "../model/store/view";
import { amount } from "../ui/amount";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { Wrong } from "../ui/EntryField";
import { Dim, Empty, Title } from "../ui/layout";
import { ProgressBar } from "../ui/ProgressBar";
import { Select } from "../ui/Select";
import { Sheet, SheetButtons } from "../ui/Sheet";
import type { ImportResult, Preview } from "../workers/import.worker";
import { roleOf, rolesOf, withRole } from "./importRoles";
import {
  constantChannels,
  guessedScale,
  newSensor,
  paintRead,
  reported,
  targetFor,
  unusedColumns,
  usualPeriod,
} from "./importSensor";
import { type ImportText, useImport } from "./useImport";

const Scroll = styled.div`
  overflow: auto;
  max-height: 190px;
  border: 1px solid ${({ theme }) => theme.ruleSoft};
`;

const Table = styled.table`
  font: 12px ${({ theme }) => theme.mono};
  & th { font-weight: 400; text-align: left; padding: 4px 8px; vertical-align: top; white-space: nowrap; }
  & td { padding: 1px 8px; white-space: nowrap; max-width: 180px; overflow: hidden; text-overflow: ellipsis; }
`;

const Lines = styled.ul`
  list-style: none;
  margin: 0;
  padding: 4px 8px;
  font: 11.5px ${({ theme }) => theme.mono};
  max-height: 96px;
  overflow: auto;
  border: 1px solid ${({ theme }) => theme.ruleSoft};
`;

const Row = styled.div`
  display: flex;
  gap: 12px;
  align-items: center;
  flex-wrap: wrap;
`;

/** Fewer rows say nothing of a scale. */
const ENOUGH_ROWS = 50;

/** Shows what a text holds, how it is taken, and what will be left out; then imports it as a tape. */
export function ImportSheet({ source, onClose }: { source: ImportText; onClose: () => void }) {
  const project = useProject();
  const current = useSensor();
  const dispatch = useAppDispatch();
  const session = useSession();
  const { targets } = project;
  const { preview, plan, setPlan, result, wrong, progress, marksFor, meansOf } = useImport(source, current, project);
  const [forSensor, setForSensor] = useState<SensorId | "new">(current.id);
  const [scale, setScale] = useState<Partial<Record<Channel, number>>>({});
  const [addMissing, setAddMissing] = useState(true);
  const [light, setLight] = useState<LightId>();

  useEffect(() => {
    const report = preview?.plan.report;
    if (report === undefined) return;
    const fits = (sensor: Sensor) => sensor.reports === report;
    setForSensor((fits(current) ? current : project.sensors.find(fits))?.id ?? "new");
  }, [preview]);
  useEffect(() => {
    if (result !== undefined && plan !== undefined) setScale(guessedScale(plan, result));
  }, [result]);

  const unknown = result?.labelled?.unknown ?? [];
  const n = result?.readings.t.length ?? 0;
  const fitting = project.sensors.filter((s) => s.reports === plan?.report);
  const sensor = project.sensors.find((s) => s.id === forSensor);
  const beyond =
    sensor && plan
      ? REPORT_KINDS.get(plan.report).channels.filter(
          (c) => !REPORT_KINDS.get(plan.report).coded && (scale[c] ?? 0) > (sensor.scale[c]?.[1] ?? Infinity),
        )
      : [];

  const only = plan?.only;
  const unused = preview && plan ? unusedColumns(plan, preview) : [];
  // Values that fill hardly a part of the sensor's scale are mostly those of another sensor.
  const scaled = sensor && plan && !REPORT_KINDS.get(plan.report).coded ? REPORT_KINDS.get(plan.report).channels : [];
  const largest = Math.max(0, ...scaled.map((c) => scale[c] ?? 0));
  const least = Math.min(...scaled.map((c) => sensor?.scale[c]?.[1] ?? Infinity));
  const small = n >= ENOUGH_ROWS && scaled.length > 0 && 2 * largest < least;

  const take = async () => {
    if (result === undefined || plan === undefined) return;
    const name = source.name.replace(/\.[^.]+$/, "") || "Imported";
    const period = usualPeriod(result.readings.t) ?? current.periodMs;
    const made =
      forSensor === "new" ? newSensor(name, plan, scale, takenIds(project), project.ruleSets[0].id, period) : undefined;
    const id = made?.id ?? (forSensor as SensorId);
    const words = addMissing ? unknown.slice(0, 20).map(({ word }) => word) : [];
    const means = await meansOf(words);
    const added: Target[] = [];
    const under = project.lights.find((l) => l.id === light) ?? project.lights[0];
    words.forEach((word, i) => {
      const taken = [...takenIds(project), id, ...added.map((t) => t.id)];
      const paint = paintRead(made ?? sensor ?? current, under, means[i] ?? []);
      added.push(targetFor(word, [...targets, ...added], taken, paint));
    });
    const labelled = added.length > 0 ? await marksFor([...targets, ...added]) : result.labelled;
    const marks = (labelled?.marks ?? []).map((m) =>
      light === undefined || m.light !== undefined ? m : { ...m, light },
    );
    const alongside: Edit[] = [
      ...added.map((target): Edit => ({ edit: "addTarget", args: { target } })),
      ...(made === undefined ? [] : [{ edit: "addSensor" as const, args: { sensor: made } }]),
    ];
    const tape = { name, sensor: id, origin: "import" as const, readings: result.readings, marks };
    session.changeTapes({ did: `${source.name} imported`, made: [tape], alongside });
    const chosen = made ?? sensor;
    if (chosen) dispatch(sensorChosen({ sensor: chosen.id, ruleSet: chosen.ruleSet }));
    dispatch(watchingChosen("tape"));
    onClose();
  };
  const ready = result !== undefined && n > 0 && progress === null;
  return (
    <Sheet title={`Import ${source.name}`} wide isOpen onClose={onClose}>
      {preview && plan && (
        <>
          <Row>
            <Select
              label="Holds"
              value={plan.report}
              options={REPORT_KINDS.entries.map(({ key, name }) => ({ id: key, text: name }))}
              onChange={(report) => {
                setPlan(reported(plan, report, preview));
                setForSensor(project.sensors.find((s) => s.reports === report)?.id ?? "new");
              }}
            />
            <Select
              label="For"
              value={forSensor as string}
              options={[
                ...fitting.map((s) => ({ id: s.id as string, text: s.name })),
                { id: "new", text: "a new sensor" },
              ]}
              onChange={(id) => setForSensor(id as SensorId | "new")}
            />
            {plan.label !== undefined && plan.light === undefined && (
              <LightSelect label="Light" light={light} onChange={setLight} />
            )}
            {only !== undefined && (
              <Select
                label="Rows of"
                value={only.name}
                options={(preview.columns[only.column]?.sensors ?? []).map((name) => ({ id: name, text: name }))}
                onChange={(name) => setPlan({ ...plan, only: { ...only, name } })}
              />
            )}
            {"everyMs" in plan.time && <Dim>no time column: a row every {plan.time.everyMs} ms</Dim>}
            {preview.above.length > 0 && <Dim>lines {preview.above.join(", ")} stand above the header</Dim>}
          </Row>
          <ColumnTable preview={preview} plan={plan} periodMs={current.periodMs} onPlan={setPlan} />
        </>
      )}
      {preview && forSensor === "new" && plan && !REPORT_KINDS.get(plan.report).coded && (
        <ScaleLine report={plan.report} scale={scale} onScale={setScale} />
      )}
      {beyond.length > 0 && sensor && (
        <Wrong role="status">
          The values of {beyond.join(", ")} go beyond the scale of {sensor.name}. Choose a new sensor if they are not
          from it.
        </Wrong>
      )}
      {small && sensor && (
        <p>
          No value is above {largest}, and {sensor.name} goes up to {least}: is the file of another sensor? Then choose
          a new one.
        </p>
      )}
      {plan && unused.length >= Object.keys(plan.channels).length && (
        <p>
          Not used: {unused.slice(0, 8).join(", ")}
          {unused.length > 8 ? " …" : ""}. A file with two sensors side by side is imported once for each.
        </p>
      )}
      {progress !== null && <ProgressBar label="Reading" {...progress} onCancel={onClose} />}
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      {result && progress === null && (
        <WhatIsImported
          result={result}
          constant={plan && n > 1 ? constantChannels(plan, preview) : []}
          addMissing={addMissing}
          onAddMissing={setAddMissing}
        />
      )}
      <SheetButtons>
        <Button onPress={onClose}>Cancel</Button>
        <Button $main why={!ready && "Nothing that can be imported was found yet."} onPress={() => void take()}>
          {n > 0 ? `Import ${amount(n, "reading")}` : "Import"}
        </Button>
      </SheetButtons>
    </Sheet>
  );
}

/** The first rows of each column, and what each column is taken for. */
function ColumnTable(props: {
  preview: Preview;
  plan: ImportPlan;
  periodMs: number;
  onPlan: (plan: ImportPlan) => void;
}) {
  const { preview, plan, periodMs, onPlan } = props;
  return (
    <Scroll>
      <Table aria-label="Columns">
        <thead>
          <tr>
            {preview.columns.map((column, i) => (
              <th key={i}>
                {column.name}
                <br />
                <Select
                  label={`What ${column.name} is`}
                  hideLabel
                  value={roleOf(plan, i)}
                  options={rolesOf(plan)}
                  onChange={(role) => onPlan(withRole(plan, i, role, periodMs))}
                />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {(preview.columns[0]?.sample ?? []).map((_, row) => (
            <tr key={row}>
              {preview.columns.map((column, i) => (
                <td key={i}>{column.sample[row]}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

/** The scale of a new sensor, channel by channel. */
function ScaleLine(props: {
  report: ImportPlan["report"];
  scale: Partial<Record<Channel, number>>;
  onScale: (scale: Partial<Record<Channel, number>>) => void;
}) {
  const { report, scale, onScale } = props;
  return (
    <Row>
      <Title>Scale, guessed from the values</Title>
      {REPORT_KINDS.get(report).channels.map((channel) => (
        <Select
          key={channel}
          label={channel}
          value={String(scale[channel] ?? 1)}
          options={[...new Set([...(/^h/.test(channel) ? HUE_SCALES : USUAL_SCALES), scale[channel] ?? 1])].map(
            (end) => ({
              id: String(end),
              text: `0–${end}`,
            }),
          )}
          onChange={(end) => onScale({ ...scale, [channel]: Number(end) })}
        />
      ))}
    </Row>
  );
}

/** How much is taken, what is left out and why, and what the labels name that is no target yet. */
function WhatIsImported(props: {
  result: ImportResult;
  constant: ReturnType<typeof constantChannels>;
  addMissing: boolean;
  onAddMissing: (add: boolean) => void;
}) {
  const { result, constant, addMissing, onAddMissing } = props;
  const unknown = result.labelled?.unknown ?? [];
  const n = result.readings.t.length;
  return (
    <div role="status" aria-label="What will be imported">
      <p>
        {amount(n, "reading")}
        {result.labelled ? `, ${amount(result.labelled.marks.length, "mark")} from labels that name a target` : ""}
        {result.repeatedTimes > 0 && `; ${result.repeatedTimes} have the time of the one before and are kept`}.
      </p>
      {result.badCount > 0 && (
        <>
          <p>
            {result.badCount === 1 ? "1 row cannot be read and is" : `${result.badCount} rows cannot be read and are`}{" "}
            left out:
          </p>
          <Lines aria-label="Rows left out">
            {result.bad.map(({ line, message }) => (
              <li key={line}>
                line {line}: {message}
              </li>
            ))}
          </Lines>
        </>
      )}
      {unknown.length > 0 && (
        <Check checked={addMissing} onChange={onAddMissing}>
          <span>
            add{" "}
            {unknown
              .slice(0, 20)
              .map((u) => `“${u.word}” (${u.count})`)
              .join(", ")}{" "}
            as {unknown.length === 1 ? "a target" : "targets"}; otherwise these readings stay unmarked
          </span>
        </Check>
      )}
      {constant.map(({ channel, value }) => (
        <p key={channel}>
          raw {channel} is {value} in every row that was looked at: is this the right column, and is it connected?
        </p>
      ))}
      {n === 0 && <Empty>No row could be read by this plan.</Empty>}
    </div>
  );
}
