import type { Robot, ShuttleRobot } from "@perceptum/core/world";
import { Info } from "../ui/Info";
import { Title } from "../ui/layout";
import { NumberField } from "../ui/NumberField";
import { Motors } from "./Motors";
import { type Change, Line } from "./RobotNames";

/** The numbers of a carrier on a rail: wheels, bogies, what its wheels hold, how it coasts; its motor. */
export function CarrierParts({ robot, change }: { robot: ShuttleRobot; change: Change }) {
  const set = (what: string, part: Partial<ShuttleRobot>) => change(what, (r) => ({ ...r, ...part }) as Robot);
  return (
    <>
      <Title style={{ margin: "8px 0 4px" }}>Bogies and wheels</Title>
      <Line>
        <span>
          between the bogies <Info word="bogie" />
        </span>
        <NumberField
          label="Between the bogies in mm"
          value={robot.bogieMm}
          low={1}
          high={2000}
          onChange={(bogieMm) => set("the bogies", { bogieMm })}
        />{" "}
        mm
        <span>wheel</span>
        <NumberField
          label="Wheel diameter in mm"
          value={robot.wheelMm}
          low={1}
          high={1000}
          onChange={(wheelMm) => set("the wheels", { wheelMm })}
        />{" "}
        mm
        <span>traction up to</span>
        <NumberField
          label="Traction in mm/s²"
          value={robot.tractionMmS2}
          low={1}
          high={100_000}
          by={100}
          onChange={(tractionMmS2) => set("the traction", { tractionMmS2 })}
        />{" "}
        mm/s²
        <span>coasting slows by</span>
        <NumberField
          label="Coasting slows in mm/s²"
          value={robot.coastMmS2}
          low={1}
          high={100_000}
          by={50}
          onChange={(coastMmS2) => set("how it coasts", { coastMmS2 })}
        />{" "}
        mm/s²
      </Line>
      <Motors robot={robot} change={change} />
    </>
  );
}
