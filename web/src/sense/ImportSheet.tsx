import { freeId, type SensorId, type TargetId } from "@perceptum/core/names";
import { emptyProject } from "@perceptum/core/project";
import {
  type Channel,
  guessScale,
  type ImportPlan,
  MAX_FILE_BYTES,
  REPORT_KINDS,
  REPORTS,
  type Sensor,
  USUAL_SCALES,
} from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import { proxy, type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { useProject, useSensor } from "../session/project";
import { useAppDispatch } from "../state/store";
import { sensorChosen, watchingChosen } from "../state/view";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";
import { Dim, Empty, Title } from "../ui/layout";
import { ProgressBar } from "../ui/ProgressBar";
import { Select } from "../ui/Select";
import { Sheet, SheetButtons } from "../ui/Sheet";
import type { ImportResult, ImportWorker, Preview } from "../workers/import.worker";
import { roleOf, rolesOf, withRole } from "./importRoles";
import { useTapeEdits } from "./useTapeEdits";

/** Where readings come from: a file, or text that was pasted. */
export type ImportText = { name: string } & ({ file: File } | { text: string });

const counted = (n: number, thing: string) => `${n} ${thing}${n === 1 ? "" : "s"}`;

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
const Line = styled.div`
  display: flex;
  gap: 12px;
  align-items: center;
  flex-wrap: wrap;
`;

interface Work {
  worker: Worker;
  remote: Remote<ImportWorker>;
}

/** Shows what a text holds, how it is taken, and what will be left out; then imports it as a tape. */
export function ImportSheet({ source, onClose }: { source: ImportText; onClose: () => void }) {
  const project = useProject();
  const current = useSensor();
  const dispatch = useAppDispatch();
  const edits = useTapeEdits();
  const work = useRef<Work | null>(null);
  const [preview, setPreview] = useState<Preview>();
  const [plan, setPlan] = useState<ImportPlan>();
  const [result, setResult] = useState<ImportResult>();
  const [wrong, setWrong] = useState<string>();
  const [progress, setProgress] = useState<{ share: number; began: number } | null>({
    share: 0,
    began: performance.now(),
  });
  const [forSensor, setForSensor] = useState<SensorId | "new">(current.id);
  const [scale, setScale] = useState<Partial<Record<Channel, number>>>({});
  const [addMissing, setAddMissing] = useState(true);
  const { targets, lights } = project;

  useEffect(() => {
    const worker = new Worker(new URL("../workers/import.worker.ts", import.meta.url), { type: "module" });
    const remote = wrap<ImportWorker>(worker);
    work.current = { worker, remote };
    const open = async () => {
      if ("file" in source && source.file.size > MAX_FILE_BYTES) {
        setWrong(
          `${source.name} has ${Math.round(source.file.size / 1_048_576)} MB; at most 50 MB are read. Nothing was changed.`,
        );
        return setProgress(null);
      }
      const text = "file" in source ? await source.file.text() : source.text;
      const opened = await remote.open(text, current.reports, current.periodMs);
      if ("error" in opened) {
        setWrong(`${source.name}, line ${opened.line}: ${opened.error}. Nothing was changed.`);
        return setProgress(null);
      }
      setPreview(opened);
      setPlan(opened.plan);
      const fits =
        project.sensors.find((s) => s.reports === opened.plan.report && s.id === current.id) ??
        project.sensors.find((s) => s.reports === opened.plan.report);
      setForSensor(fits?.id ?? "new");
    };
    void open();
    return () => worker.terminate();
  }, []);

  useEffect(() => {
    if (plan === undefined || work.current === null) return;
    let last = true;
    const began = performance.now();
    setProgress({ share: 0, began });
    setWrong(undefined);
    void work.current.remote
      .read(
        plan,
        targets,
        lights,
        proxy((share: number) => last && setProgress({ share, began })),
      )
      .then((read) => {
        if (!last) return;
        setProgress(null);
        if ("error" in read) {
          setResult(undefined);
          setWrong(
            `${read.error.charAt(0).toUpperCase()}${read.error.slice(1)}${read.line > 0 ? ` (line ${read.line})` : ""}.`,
          );
        } else {
          setResult(read);
          setScale(guessedScale(plan, read));
        }
      });
    return () => {
      last = false;
    };
  }, [plan, targets, lights]);

  const unknown = result?.labelled?.unknown ?? [];
  const n = result?.readings.t.length ?? 0;
  const fitting = project.sensors.filter((s) => s.reports === plan?.report);
  const sensor = project.sensors.find((s) => s.id === forSensor);
  const beyond =
    sensor && plan
      ? REPORT_KINDS[plan.report].channels.filter(
          (c) => REPORT_KINDS[plan.report].scaled && (scale[c] ?? 0) > (sensor.scale[c]?.[1] ?? Infinity),
        )
      : [];

  const take = async () => {
    if (result === undefined || plan === undefined || work.current === null) return;
    const name = source.name.replace(/\.[^.]+$/, "") || "Imported";
    const added = addMissing ? unknown.slice(0, 20).map(({ word }, i) => targetFor(word, i, targets)) : [];
    const labelled =
      added.length > 0 ? await work.current.remote.marks([...targets, ...added], lights) : result.labelled;
    const made =
      forSensor === "new" ? newSensor(name, plan, scale, project.sensors, project.ruleSets[0].id) : undefined;
    const id = made?.id ?? (forSensor as SensorId);
    edits.add(
      `importing ${source.name}`,
      { name, sensor: id, origin: "import", readings: result.readings, marks: labelled?.marks ?? [] },
      (p) => ({
        ...p,
        targets: [...p.targets, ...added],
        sensors: made ? [...p.sensors, made] : p.sensors,
      }),
    );
    const chosen = made ?? sensor;
    if (chosen) dispatch(sensorChosen({ sensor: chosen.id, ruleSet: chosen.ruleSet }));
    dispatch(watchingChosen("tape"));
    onClose();
  };
  const constant = plan && n > 1 ? constantChannels(plan, preview) : [];
  const ready = result !== undefined && n > 0 && progress === null;
  return (
    <Sheet title={`Import ${source.name}`} wide isOpen onClose={onClose}>
      {preview && plan && (
        <>
          <Line>
            <Select
              label="Holds"
              value={plan.report}
              options={REPORTS.map((id) => ({ id, text: REPORT_KINDS[id].name }))}
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
            {"everyMs" in plan.time && <Dim>no time column: a row every {plan.time.everyMs} ms</Dim>}
            {preview.above.length > 0 && <Dim>lines {preview.above.join(", ")} stand above the header</Dim>}
          </Line>
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
                        onChange={(role) => setPlan(withRole(plan, i, role, current.periodMs))}
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
        </>
      )}
      {preview && forSensor === "new" && plan && REPORT_KINDS[plan.report].scaled && (
        <Line>
          <Title>Scale, guessed from the values</Title>
          {REPORT_KINDS[plan.report].channels.map((channel) => (
            <Select
              key={channel}
              label={channel}
              value={String(scale[channel] ?? 1)}
              options={[...new Set([...USUAL_SCALES, scale[channel] ?? 1])].map((end) => ({
                id: String(end),
                text: `0–${end}`,
              }))}
              onChange={(end) => setScale((s) => ({ ...s, [channel]: Number(end) }))}
            />
          ))}
        </Line>
      )}
      {beyond.length > 0 && sensor && (
        <Wrong role="status">
          The values of {beyond.join(", ")} go beyond the scale of {sensor.name}. Choose a new sensor if they are not
          from it.
        </Wrong>
      )}
      {progress !== null && <ProgressBar label="Reading" {...progress} onCancel={onClose} />}
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      {result && progress === null && (
        <div role="status" aria-label="What will be imported">
          <p>
            {counted(n, "reading")}
            {result.labelled ? `, ${counted(result.labelled.marks.length, "mark")} from labels` : ""}
            {result.repeatedTimes > 0 && `; ${result.repeatedTimes} have the time of the one before and are kept`}.
          </p>
          {result.badCount > 0 && (
            <>
              <p>
                {result.badCount === 1
                  ? "1 row cannot be read and is"
                  : `${result.badCount} rows cannot be read and are`}{" "}
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
            <label>
              <input type="checkbox" checked={addMissing} onChange={(event) => setAddMissing(event.target.checked)} />{" "}
              add{" "}
              {unknown
                .slice(0, 20)
                .map((u) => `“${u.word}” (${u.count})`)
                .join(", ")}{" "}
              as targets; otherwise these readings stay unmarked
            </label>
          )}
          {constant.map(({ channel, value }) => (
            <p key={channel}>
              raw {channel} is {value} in every row that was looked at: is this the right column, and is it connected?
            </p>
          ))}
          {n === 0 && <Empty>No row could be read by this plan.</Empty>}
        </div>
      )}
      <SheetButtons>
        <Button onPress={onClose}>Cancel</Button>
        <Button $main isDisabled={!ready} onPress={() => void take()}>
          {n > 0 ? `Import ${n} reading${n === 1 ? "" : "s"}` : "Import"}
        </Button>
      </SheetButtons>
    </Sheet>
  );
}

/** The plan for another kind of report: its channels from columns by name, else the ones that held numbers before. */
function reported(plan: ImportPlan, report: ImportPlan["report"], { columns }: Preview): ImportPlan {
  const held = Object.values(plan.channels).filter((at) => at !== undefined);
  const { channels } = REPORT_KINDS[report];
  const named = channels.map((channel) => columns.findIndex((c) => c.name.toLowerCase() === channel));
  const at = named.every((i) => i >= 0) ? named : channels.map((_, i) => held[i]);
  return {
    ...plan,
    report,
    channels: Object.fromEntries(channels.flatMap((channel, i) => (at[i] === undefined ? [] : [[channel, at[i]]]))),
  };
}

/** Channels whose column has one value throughout. */
function constantChannels(plan: ImportPlan, preview: Preview | undefined): { channel: string; value: number }[] {
  return Object.entries(plan.channels).flatMap(([channel, at]) => {
    const look = preview?.columns[at ?? -1];
    return look !== undefined && look.min === look.max ? [{ channel, value: look.min }] : [];
  });
}

function guessedScale(plan: ImportPlan, { readings }: ImportResult): Partial<Record<Channel, number>> {
  const ends = REPORT_KINDS[plan.report].channels.map((channel) => {
    let max = 0;
    for (const value of readings.channels[channel] ?? []) if (value > max) max = value;
    return [channel, guessScale(channel, max)[1]] as const;
  });
  // Colours of one sensor share a scale.
  const widest = Math.max(...ends.map(([, end]) => end));
  const shared = plan.report === "rgb" || plan.report === "rgbc";
  return Object.fromEntries(ends.map(([channel, end]) => [channel, shared ? widest : end]));
}

function newSensor(
  name: string,
  plan: ImportPlan,
  scale: Partial<Record<Channel, number>>,
  sensors: readonly Sensor[],
  ruleSet: Sensor["ruleSet"],
): Sensor {
  const [base] = emptyProject("").sensors;
  const { order: _, ...rest } = base;
  const kind = REPORT_KINDS[plan.report];
  return {
    ...rest,
    id: freeId<SensorId>(
      name,
      sensors.map((s) => s.id),
    ),
    name: name.slice(0, 80),
    ruleSet,
    reports: plan.report,
    scale: kind.scaled ? Object.fromEntries(kind.channels.map((c) => [c, [0, scale[c] ?? 1]])) : {},
  };
}

/** A target for a label that named none. */
function targetFor(word: string, place: number, targets: readonly Target[]): Target {
  const letters = word
    .replace(/[^A-Za-z]/g, "")
    .toUpperCase()
    .padEnd(2, "X");
  const codes = [
    letters.slice(0, 2),
    letters[0] + letters.slice(-1),
    ...Array.from({ length: 26 }, (_, i) => letters[0] + String.fromCharCode(65 + ((i + place) % 26))),
  ];
  const code = codes.find((c) => !targets.some((t) => t.code === c)) ?? "XX";
  return {
    id: freeId<TargetId>(
      word,
      targets.map((t) => t.id),
    ),
    code,
    name: word.slice(0, 80),
    kind: "tag",
    paint: "#808080",
  };
}
