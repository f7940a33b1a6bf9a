import type { CartRobot } from "@perceptum/core/world";
import type { MakeEdit } from "../hooks/project";
import { Title } from "../ui/layout";
import { Measure } from "../ui/Measure";
import { Motors } from "./Motors";
import { PartRow } from "./RobotNames";
import { WheelFields } from "./WheelFields";

export function Wheels({ robot, edit }: { robot: CartRobot; edit: MakeEdit }) {
  return (
    <>
      <Title style={{ margin: "8px 0 4px" }}>Wheels</Title>
      <PartRow>
        <Measure
          text="between the wheels"
          unit="mm"
          label="Track in mm"
          value={robot.trackMm}
          low={1}
          high={2000}
          onChange={(v) => edit("changeRobot", { change: { trackMm: v } })}
        />
        <WheelFields robot={robot} edit={edit} />
      </PartRow>
      <Motors robot={robot} edit={edit} />
    </>
  );
}
