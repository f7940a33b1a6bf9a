import type { CartRobot, Robot } from "@perceptum/core/world";
import { Title } from "../ui/layout";
import { NumberField } from "../ui/NumberField";
import { Motors } from "./Motors";
import { type Change, Line } from "./RobotNames";

export function Wheels({ robot, change }: { robot: CartRobot; change: Change }) {
  const set = (what: string, part: Partial<CartRobot>) => change(what, (r) => ({ ...r, ...part }) as Robot);
  return (
    <>
      <Title style={{ margin: "8px 0 4px" }}>Wheels</Title>
      <Line>
        <span>between the wheels</span>
        <NumberField
          label="Track in mm"
          value={robot.trackMm}
          low={1}
          high={2000}
          onChange={(v) => set("the track", { trackMm: v })}
        />{" "}
        mm
        <span>wheel</span>
        <NumberField
          label="Wheel diameter in mm"
          value={robot.wheelMm}
          low={1}
          high={1000}
          onChange={(v) => set("the wheels", { wheelMm: v })}
        />{" "}
        mm
        <span>traction up to</span>
        <NumberField
          label="Traction in mm/s²"
          value={robot.tractionMmS2}
          low={1}
          high={100_000}
          by={100}
          onChange={(v) => set("the traction", { tractionMmS2: v })}
        />{" "}
        mm/s²
      </Line>
      <Motors robot={robot} change={change} />
    </>
  );
}
