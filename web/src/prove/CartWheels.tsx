import type { CartRobot, Robot } from "@perceptum/core/world";
import { Title } from "../ui/layout";
import { Measure } from "../ui/Measure";
import { Motors } from "./Motors";
import { type Change, Line } from "./RobotNames";

export function Wheels({ robot, change }: { robot: CartRobot; change: Change }) {
  const set = (what: string, part: Partial<CartRobot>) => change(what, (r) => ({ ...r, ...part }) as Robot);
  return (
    <>
      <Title style={{ margin: "8px 0 4px" }}>Wheels</Title>
      <Line>
        <Measure
          text="between the wheels"
          unit="mm"
          label="Track in mm"
          value={robot.trackMm}
          low={1}
          high={2000}
          onChange={(v) => set("the track", { trackMm: v })}
        />
        <Measure
          text="wheel"
          unit="mm"
          label="Wheel diameter in mm"
          value={robot.wheelMm}
          low={1}
          high={1000}
          onChange={(v) => set("the wheels", { wheelMm: v })}
        />
        <Measure
          text="traction up to"
          unit="mm/s²"
          label="Traction in mm/s²"
          value={robot.tractionMmS2}
          low={1}
          high={100_000}
          by={100}
          onChange={(v) => set("the traction", { tractionMmS2: v })}
        />
      </Line>
      <Motors robot={robot} change={change} />
    </>
  );
}
