import type { CameraSensor } from "@perceptum/core/readings";
import { useEffect, useMemo, useRef, useState } from "react";
import { useSession } from "../hooks/context";
import { CameraWork } from "../model/camera/CameraWork";
import { seconds } from "../ui/seconds";
import { type FrameSource, LiveFrames } from "./LiveFrames";
import { grabbed, type Size } from "./pictures";

/** The computer's own camera: live, frozen, recorded to a tape. */
export function OwnCamera({ sensor }: { sensor: CameraSensor }) {
  const work = useSession().service(CameraWork);
  const video = useRef<HTMLVideoElement>(null);
  const [stream, setStream] = useState<MediaStream | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [size, setSize] = useState<Size | null>(null);
  const { frame, periodMs } = sensor;

  /** Counts up with each start and with leaving: a camera that is let in later is not wanted any more. */
  const asked = useRef(0);
  useEffect(
    () => () => {
      asked.current++;
    },
    [],
  );
  const start = async () => {
    setTrouble(null);
    const own = ++asked.current;
    try {
      const { width, height } = frame;
      const given = await navigator.mediaDevices.getUserMedia({
        video: { width: { ideal: width }, height: { ideal: height } },
      });
      if (asked.current === own) setStream(given);
      else for (const track of given.getTracks()) track.stop();
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

  const source = useMemo(
    (): FrameSource | null =>
      stream && {
        each(take) {
          let busy = false;
          const grab = async () => {
            const element = video.current;
            if (busy || element === null || element.videoWidth === 0) return;
            busy = true;
            await take(
              (setup, label, keep) => work.lookAt(grabbed(element, setup.sensor.frame), setup, label, keep),
              performance.now(),
            );
            busy = false;
          };
          const timer = setInterval(() => void grab(), periodMs);
          return () => clearInterval(timer);
        },
      },
    [stream, work, periodMs],
  );
  return (
    <>
      {/* Only the stream's source: what is shown is what the sensor would give. */}
      <video
        ref={video}
        muted
        playsInline
        style={{ position: "absolute", width: 1, height: 1, opacity: 0 }}
        aria-hidden
      />
      <LiveFrames
        sensor={sensor}
        source={source}
        size={size}
        title="This computer’s camera"
        trouble={trouble}
        onTrouble={setTrouble}
        words={
          stream === null
            ? "Nothing is watched. Start the camera, hold it over the scene and freeze a frame, or record. Pictures and videos come in by Import, on the right."
            : `The camera begins; a frame comes every ${seconds(periodMs)}.`
        }
        start={["Start the camera", () => void start()]}
        stop={["Stop the camera", () => setStream(null)]}
      />
    </>
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
