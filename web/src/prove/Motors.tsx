import { type Motor, type Robot, robotKindOf } from "@perceptum/core/world";
import type { MakeEdit } from "../hooks/project";
import { Check } from "../ui/Check";
import { Info } from "../ui/Info";
import { Num } from "../ui/layout";
import { NumberField } from "../ui/NumberField";
import { Table } from "./RobotTable";

/** The motors of a robot: how fast they are, and how they are built in. */
export function Motors({ robot, edit }: { robot: Robot; edit: MakeEdit }) {
  const motors = robotKindOf(robot).drive?.(robot).motors ?? [];
  const set = (motor: string, change: Partial<Motor>) => edit("changeMotor", { motor, change });
  return (
    <Table>
      <thead>
        <tr>
          <th scope="col">motor</th>
          <th scope="col" style={{ whiteSpace: "normal" }}>
            top speed, mm/s
          </th>
          <th scope="col">lag, ms</th>
          <th scope="col">
            dead band, % <Info word="dead band" />
          </th>
          <th scope="col" style={{ whiteSpace: "normal", minWidth: 64 }}>
            mounted reversed
          </th>
          <th scope="col">inverted</th>
          <th scope="col">
            regulated <Info word="regulated" />
          </th>
        </tr>
      </thead>
      <tbody>
        {motors.map((m) => (
          <tr key={m.id}>
            <td>
              <Num>{m.id}</Num>
            </td>
            <td>
              <NumberField
                label={`Top speed of ${m.id}`}
                value={m.topSpeed}
                low={1}
                high={5000}
                by={10}
                onChange={(v) => set(m.id, { topSpeed: v })}
              />
            </td>
            <td>
              <NumberField
                label={`Lag of ${m.id}`}
                value={m.lagMs}
                low={0}
                high={2000}
                by={5}
                onChange={(v) => set(m.id, { lagMs: v })}
              />
            </td>
            <td>
              <NumberField
                label={`Dead band of ${m.id}`}
                value={m.deadBand * 100}
                low={0}
                high={100}
                onChange={(v) => set(m.id, { deadBand: v / 100 })}
              />
            </td>
            {(["mountedReversed", "invert", "regulated"] as const).map((flag) => (
              <td key={flag}>
                <Check
                  label={`${m.id} ${{ mountedReversed: "mounted reversed", invert: "inverted", regulated: "regulated" }[flag]}`}
                  checked={m[flag]}
                  onChange={(checked) => set(m.id, { [flag]: checked })}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
