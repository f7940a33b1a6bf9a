import { type SensorId, type TargetId, UNKNOWN, type Unknown } from "../names";
import { FEATURES, type Feature } from "../readings";
import type { Condition } from "./conditions";
import { holdsAt } from "./engine/ask";
import { seenBy, visitOf } from "./engine/eyes";
import { featureOf } from "./engine/given";
import type { EngineState } from "./engineState";
import type { Look } from "./triggers";

/** A look at a behaviour; nothing changes by it. */
export class LookAt implements Look {
  constructor(private readonly state: EngineState) {}

  private eye(sensor: SensorId | undefined): number {
    return this.state.program.naming.eye(sensor);
  }

  get t(): number {
    return this.state.t;
  }
  get modeSince(): number {
    return this.state.engine.modeSince;
  }
  holds(condition: Condition): boolean {
    const { engine, program } = this.state;
    const { p } = engine;
    engine.p = program.rowsOf(condition);
    const holds = holdsAt(engine, 0);
    engine.p = p;
    return holds;
  }
  seen(sensor?: SensorId): TargetId | Unknown {
    const label = seenBy(this.state.engine, this.eye(sensor));
    return label === 0 ? UNKNOWN : this.state.program.targets[label - 1];
  }
  feature(feature: Feature, sensor?: SensorId): number {
    return featureOf(
      this.state.engine,
      this.state.program.naming.reporting(feature, sensor),
      FEATURES.indexOf(feature),
    );
  }
  counter(name: string): number {
    return this.state.engine.counters[this.state.program.naming.counter(name)];
  }
  length(list: string): number {
    return this.state.engine.listLength[this.state.program.naming.list(list)];
  }
  knownAt(sensor?: SensorId): number {
    return this.state.engine.knownAt[this.eye(sensor)] ?? -Infinity;
  }
  departed(targets: readonly TargetId[], sensor?: SensorId): boolean {
    const { engine, program } = this.state;
    const eye = this.eye(sensor);
    for (let i = 0; i < engine.departures; i++)
      if (engine.departureEye[i] === eye && targets.includes(program.targets[engine.departureLabel[i] - 1]))
        return true;
    return false;
  }
  /** The number of the visit of a target that goes on or ended last. */
  visit(target: TargetId, sensor?: SensorId): number {
    const { engine, program } = this.state;
    return visitOf(engine, this.eye(sensor), program.targets.indexOf(target) + 1);
  }
}
