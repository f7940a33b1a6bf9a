import { cutName, type TapeId } from "@perceptum/core/names";
import type { CameraSensor } from "@perceptum/core/readings";
import { resized } from "@perceptum/core/readings";
import { stripIn } from "@perceptum/core/vision";
import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { useSession } from "../hooks/context";
import { useEdit, useProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { CameraWork } from "../model/camera/CameraWork";
import { watchingChosen } from "../model/store/sense";
import { Button } from "../ui/Button";
import { Dim, Empty, Head, Num, Spacer, Title } from "../ui/layout";
import type { Setup } from "../workers/Vision";
import type { Taken } from "../workers/vision.worker";
import { FoundTable } from "./FoundTable";
import { FrameAndFound, FrameView } from "./FrameView";
import { type Size, textOfSize } from "./pictures";
import { type SeenFrame, useSetup } from "./useFrame";
import { useProbe } from "./useProbe";

/** A recording ends by itself after so many frames. */
const MOST_RECORDED = 1200;
/** That a picture was lost is said for at least so long, in ms. */
const SAID_MS = 3000;

/** Looks at a picture by a setup, with the mask of a label; packs it where it is to be kept. */
type Look = (setup: Setup, label: number, keep: boolean) => Promise<Taken>;

/** Where live pictures come from. */
export interface FrameSource {
  /** Gives every picture with its time in ms, until what it gives back is called; one that comes too soon may be left out. */
  each(take: (look: Look, t: number) => Promise<void>): () => void;
}

/** What is being recorded: frames that are packed already, with their times. */
interface Recording {
  tape: TapeId;
  names: string[];
  times: number[];
  /** The time of the first. */
  began: number;
}

/** Pictures as they come: live, frozen, recorded to a tape. */
export function LiveFrames({
  sensor,
  source,
  size,
  title,
  lost = 0,
  trouble,
  onTrouble,
  words,
  start,
  stop,
}: {
  sensor: CameraSensor;
  source: FrameSource | null;
  /** As large as the pictures come; null while that is not known. */
  size: Size | null;
  title: string;
  /** So many pictures came faster than they could be taken. */
  lost?: number;
  trouble: string | null;
  onTrouble: (trouble: string | null) => void;
  /** What is said while there is no picture. */
  words: ReactNode;
  /** What the button that begins says and does, and the one that ends; missing where that is done elsewhere. */
  start?: readonly [text: string, press: () => void];
  stop?: readonly [text: string, press: () => void];
}) {
  const project = useProject();
  const session = useSession();
  const dispatch = useAppDispatch();
  const work = session.service(CameraWork);
  const target = useAppSelector((state) => state.view.target);
  const label = project.targets.findIndex((t) => t.id === target) + 1;
  const setup = useSetup(sensor, project.ruleSets, project.targets);
  const strip = useMemo(() => stripIn(sensor.frame, sensor.strip), [sensor]);
  const [frozen, setFrozen] = useState(false);
  const [seen, setSeen] = useState<SeenFrame | null>(null);
  const [count, setCount] = useState<number | null>(null);
  const recording = useRef<Recording | null>(null);
  const probe = useProbe(seen, sensor);
  const taped = project.tapes.some((tape) => tape.sensor === sensor.id);

  const keep = (names: readonly string[], times: readonly number[], name: string, id?: TapeId) => {
    session.changeTapes({
      did: names.length === 1 ? "frame kept" : "tape recorded",
      made: [
        {
          ...(id !== undefined && { id }),
          name: cutName(name),
          sensor: sensor.id,
          origin: "live",
          marks: [],
          readings: { t: Float64Array.from(times), channels: {} },
          frames: [...names],
          boxes: [],
        },
      ],
    });
    dispatch(watchingChosen("tape"));
  };
  const finish = useRef<() => void>(() => undefined);
  finish.current = () => {
    const made = recording.current;
    recording.current = null;
    setCount(null);
    if (made === null) return;
    if (made.names.length > 0) keep(made.names, made.times, recordedName, made.tape);
    session.recordings.end();
  };
  const recordedName = `${sensor.name}, recorded`;
  const record = () => {
    const names: string[] = [];
    const times: number[] = [];
    const tape = session.beginRecording({ name: recordedName, sensor: sensor.id, origin: "live" }, (count) => ({
      readings: { t: Float64Array.from(times.slice(count)), channels: {} },
      marks: [],
      frames: names.slice(count),
    }));
    recording.current = { tape, began: 0, names, times };
    setCount(0);
  };
  // What is being recorded is kept when one leaves, or when the pictures end.
  useEffect(() => () => finish.current(), []);
  useEffect(() => {
    if (source === null) finish.current();
  }, [source]);

  /** When a picture was lost last, until that is no longer said. */
  const lostAt = useRef<number | null>(null);
  const latest = useRef({ frozen, setup, label, onTrouble });
  latest.current = { frozen, setup, label, onTrouble };
  useEffect(() => {
    setSeen(null);
    return source?.each(async (look, t) => {
      const { frozen, setup, label, onTrouble } = latest.current;
      const own = recording.current;
      if (frozen && own === null) return;
      try {
        const { shown, looked, packed } = await look(setup, label, own !== null);
        if (packed !== null && own !== null && recording.current === own) {
          session.frames.add(packed.name, packed.bytes);
          if (own.names.length === 0) own.began = t;
          own.names.push(packed.name);
          own.times.push(Math.max((own.times.at(-1) ?? -1) + 1, Math.round(t - own.began)));
          setCount(own.names.length);
          if (own.names.length >= MOST_RECORDED) finish.current();
        }
        if (!latest.current.frozen) setSeen({ name: "", shown, looked });
        if (lostAt.current !== null && performance.now() - lostAt.current > SAID_MS) {
          lostAt.current = null;
          onTrouble(null);
        }
      } catch (error) {
        lostAt.current = performance.now();
        onTrouble(`A picture was lost: ${(error as Error).message}. What was recorded so far is kept.`);
      }
    });
  }, [source, session]);

  const keepFrozen = async () => {
    if (seen === null) return;
    const { width, height, data } = seen.shown;
    const { name, bytes } = await work.takeImage(new ImageData(new Uint8ClampedArray(data), width, height), setup);
    session.frames.add(name, bytes);
    keep([name], [0], `${sensor.name}, one frame`);
  };
  const differs = size !== null && (size.width !== sensor.frame.width || size.height !== sensor.frame.height);
  return (
    <section aria-label={title} style={{ flex: 1, minHeight: 0, display: "flex", flexDirection: "column" }}>
      <Head style={{ marginBottom: 4 }}>
        <Title>{frozen ? `${title}, frozen` : title}</Title>
        {count !== null && <Num aria-label="Frames recorded">{count === 1 ? "1 frame" : `${count} frames`}</Num>}
        {lost > 0 && <Num title="They came faster than this page takes them.">{lost} left out</Num>}
        <Spacer />
        {source === null ? (
          start && (
            <Button $small $main onPress={start[1]}>
              {start[0]}
            </Button>
          )
        ) : (
          <>
            <Button $small aria-pressed={frozen} onPress={() => setFrozen(!frozen)}>
              {frozen ? "Go on" : "Freeze"}
            </Button>
            <Button $small why={!frozen && "Freeze a frame first."} onPress={() => void keepFrozen()}>
              Keep this frame
            </Button>
            <Button
              $small
              $main
              onPress={() => {
                if (recording.current === null) record();
                else finish.current();
              }}
            >
              {count === null ? "Record" : "Stop and keep"}
            </Button>
            {stop && (
              <Button
                $small
                onPress={() => {
                  finish.current();
                  stop[1]();
                }}
              >
                {stop[0]}
              </Button>
            )}
          </>
        )}
      </Head>
      {trouble !== null && <Empty role="alert">{trouble}</Empty>}
      {differs && <OtherSize size={size} sensor={sensor} taped={taped} />}
      {seen === null ? (
        <Empty as="div" style={{ maxWidth: "92ch" }}>
          {words}
        </Empty>
      ) : (
        <FrameAndFound>
          <FrameView
            seen={seen}
            strip={strip}
            targets={project.targets}
            label="What the camera sees"
            onProbe={probe.over}
            onPress={probe.pin}
          />
          <FoundTable looked={seen.looked} targets={project.targets} />
        </FrameAndFound>
      )}
    </section>
  );
}

/** Says that pictures come larger or smaller than the camera's frames; a camera without tapes may take their size. */
function OtherSize({ size, sensor, taped }: { size: Size; sensor: CameraSensor; taped: boolean }) {
  const edit = useEdit();
  return (
    <Head style={{ marginBottom: 4 }}>
      <Dim>
        The pictures come with {textOfSize(size)}; they are scaled to {textOfSize(sensor.frame)}.
      </Dim>
      <Spacer />
      {!taped && (
        <Button $small onPress={() => edit("replaceSensor", { sensor: resized(sensor, size) })}>
          Take their size
        </Button>
      )}
    </Head>
  );
}
