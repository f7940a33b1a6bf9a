import {
  byColour,
  featureReader,
  isMoving,
  type RawReadings,
  REPORT_KINDS,
  ReadingBlock,
  type ReadingsByTape,
  type Sensor,
  wireOf,
} from "@perceptum/core/readings";
import { classifyBlock, ruleSetOf } from "@perceptum/core/rules";
import { markedTapes, spreadOf } from "@perceptum/core/teaching";
import { useEffect, useMemo, useState } from "react";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useEdit, useProject, useSensor } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublishedPart } from "../hooks/usePublished";
import { standSet, watchingChosen } from "../model/store/sense";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";
import { Dim, Num, Spacer } from "../ui/layout";
import { Sheet, SheetButtons } from "../ui/Sheet";
import { unevenWhite } from "./evenWhite";

const Table = styled.table`
  width: max-content;
  font: 12px ${({ theme }) => theme.mono};
  & th { font-weight: 400; color: ${({ theme }) => theme.ink2}; text-align: left; padding: 2px 14px 2px 0; }
  & td { padding: 2px 14px 2px 0; text-align: right; white-space: nowrap; }
`;
const Step = styled.div`
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
`;
const Warning = styled.p`
  font-size: 12px;
  &::before { content: "◆ "; }
`;

/** A value that moves by more than this share of its scale within a second says that the stand is not steady. */
const MOVING = 0.02;

/** So long, in ms, something lies under the sensor before it is taken. */
const WHOLE = 1000;

/** The mean of the last second, a value for each channel, and what is doubtful about it; nothing from before `since`. */
function lastSecond(block: ReadingBlock, readings: RawReadings, sensor: Sensor, since: number) {
  const from = block.indexAt(Math.max(since, block.t[block.length - 1] - WHOLE));
  return byColour(readings.channels, sensor).map(({ channel, values }) => {
    const spread = spreadOf("r", values.slice(from));
    const [min, max] = sensor.scale[channel] ?? [0, 1];
    const mean = spread?.mean ?? 0;
    const deviation = spread?.deviation ?? 0;
    return {
      channel,
      mean: max - min < 50 ? Math.round(mean * 1e4) / 1e4 : Math.round(mean * 10) / 10,
      deviation,
      clipped: mean >= max - 0.002 * (max - min),
      moving: isMoving(values.slice(from), MOVING * (max - min)),
    };
  });
}
type Taken = ReturnType<typeof lastSecond>;

/** Takes white and dark of a sensor step by step, and says what that changes before it is applied. */
export function WhiteDarkSheet({ onClose }: { onClose: () => void }) {
  const sensor = useSensor();
  const project = useProject();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const stand = useAppSelector((state) => state.sense.stand);
  const [white, setWhite] = useState<Taken>();
  const [dark, setDark] = useState<Taken>();
  const session = useSession();
  const streaming = usePublishedPart(session.bench.live, (l) => l.sensor);
  const readings = usePublishedPart(session.bench.live, (l) => l.readings);
  const since = usePublishedPart(session.bench.live, (l) => l.since);
  const until = readings.t.at(-1) ?? Number.NEGATIVE_INFINITY;
  const now =
    streaming !== null && until >= since
      ? lastSecond(session.blocks.of(readings, streaming), readings, streaming, since)
      : undefined;
  const isWhole = until - since >= WHOLE - 1;
  useEffect(() => {
    dispatch(watchingChosen("bench"));
    // A display that stands still would never show what lies under it now.
    session.bench.freeze(false);
  }, [dispatch, session]);

  const wrong =
    white && dark && white.some((w, i) => w.mean <= dark[i].mean)
      ? `White does not lie above dark in ${white
          .filter((w, i) => w.mean <= dark[i].mean)
          .map((w) => w.channel)
          .join(", ")}: nothing was taken. Hold it over white once more.`
      : undefined;
  const reference = useMemo(
    () =>
      white && dark && wrong === undefined
        ? { dark: dark.map((d) => d.mean), white: white.map((w) => w.mean) }
        : undefined,
    [white, dark, wrong],
  );
  const otherwise = useMemo(
    () => (reference ? judgedOtherwise(project, session.readings.all, sensor, { ...sensor, reference }) : undefined),
    [project, sensor, reference],
  );
  const apply = (taken: Sensor["reference"]) => {
    edit("setWhiteDark", { sensor: sensor.id, reference: taken ?? null });
    onClose();
  };
  const uneven = white && unevenWhite(white, dark);
  const warnings = [
    ...(uneven === undefined ? [] : [uneven]),
    ...(white ?? [])
      .filter((w) => w.clipped)
      .map(
        (w) =>
          `White is at the end of ${w.channel}’s scale: it may be brighter still. Hold the sensor higher, or shade it, and take white again.`,
      ),
    ...[...(white ?? []), ...(dark ?? [])]
      .filter((x) => x.moving)
      .slice(0, 1)
      .map(() => "The values were not steady over the last second. Hold the stand still and take them again."),
  ];
  const step = (name: string, under: "white-card" | "dark-cap", taken: Taken | undefined, take: (t: Taken) => void) => (
    <Step>
      <b style={{ width: 44 }}>{name}</b>
      <Button
        why={stand.under === under && "It lies there."}
        onPress={() => dispatch(standSet({ under, beside: null }))}
      >
        {under === "white-card" ? "Put the white card under it" : "Put the dark cap on it"}
      </Button>
      <Button
        why={(now === undefined || !isWhole) && "It must lie there for a second first."}
        onPress={() => now && take(now)}
      >
        Take {name.toLowerCase()}
      </Button>
      <Num>
        {taken?.map((x) => x.mean).join("  ") ??
          (stand.under === under && !isWhole ? "can be taken in a second" : "not taken")}
      </Num>
    </Step>
  );
  return (
    <Sheet title={`White and dark of ${sensor.name}`} wide isOpen onClose={onClose}>
      <p>
        Hold the sensor over something white at its usual height and take white; then keep all light from it and take
        dark. Each value is the mean of the last second.
      </p>
      <Table aria-label="Live values">
        <tbody>
          {now?.map(({ channel, mean, deviation }) => (
            <tr key={channel}>
              <th scope="row">{channel}</th>
              <td>{mean}</td>
              <td>± {deviation.toFixed(1)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {step("White", "white-card", white, setWhite)}
      {step("Dark", "dark-cap", dark, setDark)}
      {warnings.map((text) => (
        <Warning key={text} role="status">
          {text}
        </Warning>
      ))}
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      {reference && (
        <p role="status">
          <SeenBefore sensor={sensor} reference={reference} />
          {otherwise === undefined || otherwise.marked === 0
            ? "No marked readings of this sensor are there yet; rules are kept as they are."
            : otherwise.changed === 0
              ? `Rules are kept, and judge all ${otherwise.marked} marked readings as before.`
              : `Rules are kept; ${otherwise.changed} of ${otherwise.marked} marked readings are now judged otherwise.`}
        </p>
      )}
      <SheetButtons>
        {sensor.reference !== undefined && <Button onPress={() => apply(undefined)}>Drop white and dark</Button>}
        <Spacer />
        <Button onPress={onClose}>Cancel</Button>
        <Button
          $main
          why={reference === undefined && "Take white and dark first; white must be above dark."}
          onPress={() => reference && apply(reference)}
        >
          Apply
        </Button>
      </SheetButtons>
    </Sheet>
  );
}

/** What white and dark change for the reading that is there now. */
function SeenBefore({ sensor, reference }: { sensor: Sensor; reference: NonNullable<Sensor["reference"]> }) {
  const readings = useSession().bench.live.get().readings;
  const { channels, features } = REPORT_KINDS.get(sensor.reports);
  const last = readings.t.length - 1;
  const raw = channels.map((c) => readings.channels[c]?.[last] ?? 0);
  const [before, after] = [featureReader(sensor)(raw), featureReader({ ...sensor, reference })(raw)];
  const feature = features.includes("val") ? "val" : "reflected";
  if (last < 0 || wireOf(sensor).length !== raw.length) return null;
  return (
    <Dim>
      What lies under it now had {feature === "val" ? "a value" : "reflected light"} of{" "}
      {Math.round(before[feature] * 100)} % and has {Math.round(after[feature] * 100)} %.{" "}
    </Dim>
  );
}

/** How many marked readings of a sensor get another label when it is read otherwise. */
function judgedOtherwise(
  project: ReturnType<typeof useProject>,
  readings: ReadingsByTape,
  before: Sensor,
  after: Sensor,
) {
  const ids = project.targets.map((t) => t.id);
  const ruleSet = ruleSetOf(project, before);
  let marked = 0;
  let changed = 0;
  for (const tape of markedTapes(project, readings)) {
    if (tape.sensor.id !== before.id) continue;
    const now = classifyBlock(ruleSet, tape.block, ids);
    const then = classifyBlock(ruleSet, new ReadingBlock(tape.raw, after), ids);
    for (let i = 0; i < now.length; i++) {
      if (tape.truth[i] === 0) continue;
      marked++;
      if (now[i] !== then[i]) changed++;
    }
  }
  return { marked, changed };
}
