import type { EngineState } from "../behaviour";
import type { ResponseId, SensorId, TargetId } from "../names";
import type { Answer, EyeTrace, Passage } from "./trace";

/** One sensor in a run: what it looked at, and what was in truth there. */
export interface Recorder {
  readonly sensor: SensorId;
  /** Which of the robot's sensors it is, from 0. */
  readonly index: number;
  readonly passages: Passage[];
  /** Takes over what the engine made of what was just looked at. */
  learn(state: EngineState): void;
  /** A visit of a target begins with what was just looked at. */
  visitBegins(target: TargetId): void;
  /** What a response that fires for a target answers in truth. */
  answer(t: number, response: ResponseId, target: TargetId): Answer;
  finished(): EyeTrace;
}
