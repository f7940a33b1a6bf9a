import type { CartRobot, Robot } from "@perceptum/core/world";
import { Check } from "../ui/Check";
import { Info } from "../ui/Info";
import { Num, Title } from "../ui/layout";
import { NumberField } from "../ui/NumberField";
import { type Change, Line } from "./RobotNames";
import { Table } from "./RobotTable";

export function Wheels({ robot, change }: { robot: CartRobot; change: Change }) {
  const set = (what: string, part: Partial<CartRobot>) => change(what, (r) => ({ ...r, ...part }) as Robot);
  const setMotor = (k: number, part: Partial<CartRobot["motors"][0]>) => {
    const [left, right] = robot.motors.map((m, i) => (i === k ? { ...m, ...part } : m));
    set("a motor", { motors: [left, right] });
  };
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
          {robot.motors.map((m, k) => (
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
                  onChange={(v) => setMotor(k, { topSpeed: v })}
                />
              </td>
              <td>
                <NumberField
                  label={`Lag of ${m.id}`}
                  value={m.lagMs}
                  low={0}
                  high={2000}
                  by={5}
                  onChange={(v) => setMotor(k, { lagMs: v })}
                />
              </td>
              <td>
                <NumberField
                  label={`Dead band of ${m.id}`}
                  value={m.deadBand * 100}
                  low={0}
                  high={100}
                  onChange={(v) => setMotor(k, { deadBand: v / 100 })}
                />
              </td>
              {(["mountedReversed", "invert", "regulated"] as const).map((flag) => (
                <td key={flag}>
                  <Check
                    label={`${m.id} ${{ mountedReversed: "mounted reversed", invert: "inverted", regulated: "regulated" }[flag]}`}
                    checked={m[flag]}
                    onChange={(checked) => setMotor(k, { [flag]: checked })}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}
