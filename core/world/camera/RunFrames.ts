import { isCamera, type Light, type Sensor } from "../../readings";
import type { Target } from "../../rules";
import type { Frame } from "../../vision";
import type { DrawnCourse } from "../courses/DrawnCourse";
import type { Mount } from "../robots";
import type { EyeTrace, Trace } from "../trace";
import { Camera } from "./Camera";
import { cardBefore } from "./cardBefore";
import { truthBoxes } from "./truth";

/** Kept of each frame: x, y, sine and cosine of the body. */
export const POSE = 4;

/** What the frames of one of a run's cameras depend on: plain data, to be handed to a worker. */
export interface FramesOfRun {
  sensor: Sensor;
  mount: Mount;
  light: Light;
  course: DrawnCourse;
  targets: readonly Target[];
  seed: number;
  /** The robot's first sensor, before which cards are held that name none. */
  first: string;
  times: Float64Array;
  poses: Float64Array;
  /** Which patches were taken away, and when. */
  gone: readonly { t: number; piece: number }[];
}

interface Made {
  sensors: readonly Sensor[];
  lights: readonly Light[];
  targets: readonly Target[];
  robot: { mounts: readonly Mount[] };
}

/** What is needed to take the frames of a run's sensor once more; undefined where it is no camera. */
export function framesOfRun(project: Made, trace: Trace, eye: EyeTrace): FramesOfRun | undefined {
  const sensor = project.sensors.find((s) => s.id === eye.sensor);
  const mount = project.robot.mounts.find((m) => m.sensor === eye.sensor);
  const light = project.lights.find((l) => l.id === trace.light);
  if (eye.frames === undefined || sensor === undefined || mount === undefined || light === undefined) return undefined;
  return {
    sensor,
    mount,
    light,
    course: trace.course,
    targets: project.targets,
    seed: trace.seed,
    first: project.robot.mounts[0].sensor,
    times: eye.readings.t,
    poses: eye.frames.poses,
    gone: trace.notes.flatMap((note) => (note.kind === "piece" ? [{ t: note.t, piece: note.piece }] : [])),
  };
}

/** Takes any frame of a run once more, byte for byte as it was. */
export class RunFrames {
  private readonly camera: Camera;

  /** @throws Error for a sensor that is no camera */
  constructor(private readonly run: FramesOfRun) {
    const { sensor, mount, light, course, targets, seed } = run;
    if (!isCamera(sensor)) throw new Error(`${sensor.id} gives no frames`);
    this.camera = new Camera(sensor, mount, light, course, targets, seed);
  }

  get length(): number {
    return this.run.times.length;
  }

  /** Frame `k`; the next one overwrites it. */
  take(k: number): Frame {
    const { poses, times, gone, course, seed, targets, sensor, first } = this.run;
    const [x, y, sin, cos] = poses.subarray(POSE * k, POSE * (k + 1));
    const lifted = new Set(gone.flatMap(({ t, piece }) => (t <= times[k] ? [piece] : [])));
    const card = cardBefore(course, targets, seed, sensor, first, times[k]);
    return this.camera.take({ x, y, sin, cos }, k, { gone: lifted, card });
  }

  /** The largest box of each target in truth on the frame that was taken last. */
  get boxes(): ReturnType<typeof truthBoxes> {
    const { width, height } = this.camera.frame;
    return truthBoxes(this.camera.truth, width, height);
  }
}
