import type { CartRobot, Robot } from "@perceptum/core/world";
import { Title } from "../ui/layout";
import { Measure } from "../ui/Measure";
import { Motors } from "./Motors";
import { type Change, Line } from "./RobotNames";
import { WheelFields } from "./WheelFields";

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
        <WheelFields robot={robot} set={set} />
      </Line>
      <Motors robot={robot} change={change} />
    </>
  );
}
