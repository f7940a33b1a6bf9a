import type { MakeEdit } from "../hooks/project";
import { Measure } from "../ui/Measure";

interface Wheeled {
  wheelMm: number;
  tractionMmS2: number;
}

/** The driven wheels of a robot: how large they are, and how much the ground holds. */
export function WheelFields({ robot, edit }: { robot: Wheeled; edit: MakeEdit }) {
  return (
    <>
      <Measure
        text="wheel"
        unit="mm"
        label="Wheel diameter in mm"
        value={robot.wheelMm}
        low={1}
        high={1000}
        onChange={(wheelMm) => edit("changeRobot", { change: { wheelMm } })}
      />
      <Measure
        text="traction up to"
        unit="mm/s²"
        label="Traction in mm/s²"
        value={robot.tractionMmS2}
        low={1}
        high={100_000}
        by={100}
        onChange={(tractionMmS2) => edit("changeRobot", { change: { tractionMmS2 } })}
      />
    </>
  );
}
