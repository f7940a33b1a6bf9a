import type { CarrierRobot } from "@perceptum/core/world";
import type { MakeEdit } from "../hooks/project";
import { Info } from "../ui/Info";
import { Title } from "../ui/layout";
import { Measure } from "../ui/Measure";
import { Motors } from "./Motors";
import { PartRow } from "./RobotNames";
import { WheelFields } from "./WheelFields";

/** The numbers of a carrier on a rail: wheels, bogies, what its wheels hold, how it coasts; its motor. */
export function CarrierParts({ robot, edit }: { robot: CarrierRobot; edit: MakeEdit }) {
  return (
    <>
      <Title style={{ margin: "8px 0 4px" }}>Bogies and wheels</Title>
      <PartRow>
        <Measure
          text={
            <>
              between the bogies <Info word="bogie" />
            </>
          }
          unit="mm"
          label="Between the bogies in mm"
          value={robot.bogieMm}
          low={1}
          high={2000}
          onChange={(bogieMm) => edit("changeRobot", { change: { bogieMm } })}
        />
        <WheelFields robot={robot} edit={edit} />
        <Measure
          text="coasting slows by"
          unit="mm/s²"
          label="Coasting slows in mm/s²"
          value={robot.coastMmS2}
          low={1}
          high={100_000}
          by={50}
          onChange={(coastMmS2) => edit("changeRobot", { change: { coastMmS2 } })}
        />
      </PartRow>
      <Motors robot={robot} edit={edit} />
    </>
  );
}
