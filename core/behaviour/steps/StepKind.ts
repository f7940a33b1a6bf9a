import type * as z from "zod";
import type { ModeId, SensorId, TargetId, Unknown } from "../../project/ids";
import type { Feature } from "../../readings/feature";
import type { Condition } from "../condition";
import type { PhraseReader } from "../PhraseReader";

/** Wheel travel in mm since the run began, as the motors' encoders count it. */
export interface WheelTravel {
  left: number;
  right: number;
}

/** When a step began, and where the wheels then were. */
export interface Begun {
  t: number;
  travel: WheelTravel;
}

/** What a step may ask and do while it runs. Colours are `#rrggbb`, null switches a lamp off. */
export interface StepScene {
  readonly t: number;
  readonly travel: WheelTravel;
  readonly trackMm: number;
  readonly wheelMm: number;
  holds(condition: Condition): boolean;
  seen(sensor?: SensorId): TargetId | Unknown;
  feature(feature: Feature): number;
  counter(name: string): number;
  paintOf(target: string): string;
  wheels(left: number, right: number): void;
  stop(how: "brake" | "coast"): void;
  lamp(name: string, colour: string | null, blinkHz: number): void;
  lampsOff(): void;
  tone(hertz: number, ms: number): void;
  show(text: string): void;
  log(text: string): void;
  setCounter(name: string, value: number): void;
  goTo(mode: ModeId): void;
  finish(): void;
}

/**
 * One kind of step, whole: how it is kept, written and carried out. A new kind is one more of these in the table.
 */
export interface StepKind<S extends { step: string }> {
  step: S["step"];
  schema: z.ZodType<S>;
  /** The words that a phrase of this kind starts with. */
  opening: string;
  /** A phrase that shows all it can say, for the menu of steps. */
  example: string;
  /** Reads what follows the opening words. */
  parse(reader: PhraseReader): S;
  /** The canonical phrase. */
  print(step: S): string;
  /** What happens the moment the step begins. */
  begin(step: S, scene: StepScene): void;
  /** Whether it has ended; a kind without this ends at once. */
  ended?(step: S, scene: StepScene, begun: Begun): boolean;
  /** What happens when it has ended. */
  end?(step: S, scene: StepScene): void;
}

/** Keeps the step's own type inside its entry. */
export function stepKind<S extends { step: string }>(kind: StepKind<S>): StepKind<S> {
  return kind;
}
