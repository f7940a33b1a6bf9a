import { cutName } from "@perceptum/core/names";
import { type CameraSensor, resized } from "@perceptum/core/readings";
import { stripIn } from "@perceptum/core/vision";
import { useEffect, useMemo, useRef, useState } from "react";
import { useSession } from "../session/context";
import { useEdit, useProject } from "../session/project";
import { watchingChosen } from "../state/sense";
import { useAppDispatch, useAppSelector } from "../state/store";
import { Button } from "../ui/Button";
import { Dim, Empty, Head, Num, Spacer, Title } from "../ui/layout";
import { seconds } from "../ui/seconds";
import { cameraWork } from "./CameraWork";
import { FoundTable } from "./FoundTable";
import { FrameAndFound, FrameView } from "./FrameView";
import { grabbed, textOfSize } from "./pictures";
import { type SeenFrame, useSetup } from "./useFrame";
import { useProbe } from "./useProbe";

/** A recording ends by itself after so many frames. */
const MOST_RECORDED = 1200;

/** What is being recorded: frames that are packed already, with their times. */
interface Recording {
  began: number;
  names: string[];
  times: number[];
}

/** The computer's own camera: live, frozen, recorded to a tape. */
export function OwnCamera({ sensor }: { sensor: CameraSensor }) {
  const project = useProject();
  const session = useSession();
  const dispatch = useAppDispatch();
  const edit = useEdit();
  const work = cameraWork(session);
  const target = useAppSelector((state) => state.view.target);
  const label = project.targets.findIndex((t) => t.id === target) + 1;
  const setup = useSetup(sensor, project.ruleSets, project.targets);
  const strip = useMemo(() => stripIn(sensor.frame, sensor.strip), [sensor]);
  const video = useRef<HTMLVideoElement>(null);
  const [stream, setStream] = useState<MediaStream | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [size, setSize] = useState<{ width: number; height: number } | null>(null);
  const [frozen, setFrozen] = useState(false);
  const [seen, setSeen] = useState<SeenFrame | null>(null);
  const [count, setCount] = useState<number | null>(null);
  const recording = useRef<Recording | null>(null);
  const probe = useProbe(seen, sensor);
  const taped = project.tapes.some((tape) => tape.sensor === sensor.id);

  const start = async () => {
    setTrouble(null);
    try {
      const { width, height } = sensor.frame;
      setStream(
        await navigator.mediaDevices.getUserMedia({ video: { width: { ideal: width }, height: { ideal: height } } }),
      );
    } catch (error) {
      setTrouble(refusal(error));
    }
  };
  useEffect(() => {
    const element = video.current;
    if (stream === null || element === null) return;
    element.srcObject = stream;
    element.play().catch(() => undefined);
    const known = () => setSize({ width: element.videoWidth, height: element.videoHeight });
    element.addEventListener("resize", known);
    for (const track of stream.getTracks())
      track.addEventListener("ended", () => {
        setStream(null);
        setTrouble("The camera was taken away or switched off. What was recorded so far is kept.");
      });
    return () => {
      element.removeEventListener("resize", known);
      for (const track of stream.getTracks()) track.stop();
    };
  }, [stream]);

  const finish = useRef<() => void>(() => undefined);
  finish.current = () => {
    const made = recording.current;
    recording.current = null;
    setCount(null);
    if (made === null || made.names.length === 0) return;
    keep(made.names, made.times, `${sensor.name}, recorded`);
  };
  const keep = (names: readonly string[], times: readonly number[], name: string) => {
    session.changeTapes({
      what: names.length === 1 ? "keeping a frame" : "recording a tape",
      made: [
        {
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
  // What is being recorded is kept when one leaves.
  useEffect(() => () => finish.current(), []);

  const latest = useRef({ frozen, setup, label });
  latest.current = { frozen, setup, label };
  useEffect(() => {
    const element = video.current;
    if (stream === null || element === null) return;
    let busy = false;
    const take = async () => {
      const { frozen, setup, label } = latest.current;
      if (busy || element.videoWidth === 0 || (frozen && recording.current === null)) return;
      busy = true;
      try {
        const image = grabbed(element, sensor.frame);
        const own = recording.current;
        if (own !== null) {
          const { name, bytes } = await work.takeImage(grabbed(element, sensor.frame), setup);
          if (recording.current === own) {
            session.frames.add(name, bytes);
            own.names.push(name);
            own.times.push(
              own.times.length === 0
                ? 0
                : Math.max(own.times[own.times.length - 1] + 1, Math.round(performance.now() - own.began)),
            );
            if (own.times.length === 1) own.began = performance.now();
            setCount(own.names.length);
            if (own.names.length >= MOST_RECORDED) finish.current();
          }
        }
        if (!frozen) {
          const looked = await work.lookAt(image, setup, label);
          setSeen({ name: "", shown: { width: image.width, height: image.height, data: image.data }, looked });
        }
      } catch (error) {
        setTrouble(`A frame was lost: ${(error as Error).message}. What was recorded so far is kept.`);
      }
      busy = false;
    };
    const timer = setInterval(() => void take(), sensor.periodMs);
    return () => clearInterval(timer);
  }, [stream, sensor, work, session]);

  const keepFrozen = async () => {
    if (seen === null) return;
    const { width, height, data } = seen.shown;
    const { name, bytes } = await work.takeImage(new ImageData(new Uint8ClampedArray(data), width, height), setup);
    session.frames.add(name, bytes);
    keep([name], [0], `${sensor.name}, one frame`);
  };
  const differs = size !== null && (size.width !== sensor.frame.width || size.height !== sensor.frame.height);
  return (
    <section
      aria-label="The computer's camera"
      style={{ flex: 1, minHeight: 0, display: "flex", flexDirection: "column" }}
    >
      {/* Only the stream's source: what is shown is what the sensor would give. */}
      <video
        ref={video}
        muted
        playsInline
        style={{ position: "absolute", width: 1, height: 1, opacity: 0 }}
        aria-hidden
      />
      <Head style={{ marginBottom: 4 }}>
        <Title>{frozen ? "This computer’s camera, frozen" : "This computer’s camera"}</Title>
        {count !== null && <Num aria-label="Frames recorded">{count === 1 ? "1 frame" : `${count} frames`}</Num>}
        <Spacer />
        {stream === null ? (
          <Button $small $main onPress={() => void start()}>
            Start the camera
          </Button>
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
                if (recording.current !== null) return finish.current();
                recording.current = { began: performance.now(), names: [], times: [] };
                setCount(0);
              }}
            >
              {count === null ? "Record" : "Stop and keep"}
            </Button>
            <Button
              $small
              onPress={() => {
                finish.current();
                setStream(null);
                setSeen(null);
              }}
            >
              Stop the camera
            </Button>
          </>
        )}
      </Head>
      {trouble !== null && <Empty role="alert">{trouble}</Empty>}
      {differs && (
        <Head style={{ marginBottom: 4 }}>
          <Dim>
            The camera gives {textOfSize(size)}; its frames are scaled to {textOfSize(sensor.frame)}.
          </Dim>
          <Spacer />
          {!taped && (
            <Button
              $small
              onPress={() =>
                edit(`making ${sensor.name} as large as the camera`, (p) => ({
                  ...p,
                  sensors: p.sensors.map((s) => (s.id === sensor.id ? resized(sensor, size) : s)),
                }))
              }
            >
              Take its size
            </Button>
          )}
        </Head>
      )}
      {seen === null ? (
        <Empty>
          {stream === null
            ? "Nothing is watched. Start the camera, hold it over the scene and freeze a frame, or record. Pictures and videos come in by Import, on the right."
            : `The camera begins; a frame comes every ${seconds(sensor.periodMs)}.`}
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

/** Why there is no picture, and what to do. */
function refusal(error: unknown): string {
  const name = error instanceof DOMException ? error.name : "";
  if (name === "NotAllowedError")
    return "The browser does not let this page use the camera. Allow it beside the address, then start it again; nothing was changed.";
  if (name === "NotFoundError")
    return "This computer has no camera. Plug one in and start it again, or import pictures.";
  if (name === "NotReadableError") return "Another program uses the camera. End that, then start it again.";
  return "The camera could not be started. Try again, or import pictures; nothing was changed.";
}
