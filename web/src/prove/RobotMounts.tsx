import type { SensorId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import { isCamera } from "@perceptum/core/readings";
import { LOOKS, type Mount, type Robot, robotKindOf } from "@perceptum/core/world";
import type { MakeEdit } from "../hooks/project";
import { QuietButton } from "../ui/Button";
import { Title } from "../ui/layout";
import { NumberField } from "../ui/NumberField";
import { Select } from "../ui/Select";
import { Table } from "./RobotTable";

export function Mounts({ robot, project, edit }: { robot: Robot; project: ProjectDocument; edit: MakeEdit }) {
  const set = (sensor: SensorId, change: Partial<Mount>) => edit("changeMount", { sensor, change });
  const free = project.sensors.filter((s) => !robot.mounts.some((m) => m.sensor === s.id));
  /** A camera is tilted from wherever it looks. */
  const isFrames = (id: string) => project.sensors.some((s) => s.id === id && isCamera(s));
  return (
    <>
      <Title style={{ margin: "10px 0 4px" }}>Sensors, from {robotKindOf(robot).origin}</Title>
      <Table>
        <thead>
          <tr>
            <th scope="col">sensor</th>
            <th scope="col">ahead, mm</th>
            <th scope="col">left, mm</th>
            <th scope="col">high, mm</th>
            <th scope="col">looks</th>
            <th scope="col">tilt, °</th>
          </tr>
        </thead>
        <tbody>
          {robot.mounts.map((m) => {
            const name = project.sensors.find((s) => s.id === m.sensor)?.name ?? m.sensor;
            return (
              <tr key={m.sensor}>
                <td>{name}</td>
                <td>
                  <NumberField
                    label={`${name} ahead`}
                    value={m.x}
                    low={-1000}
                    high={1000}
                    onChange={(x) => set(m.sensor, { x })}
                  />
                </td>
                <td>
                  <NumberField
                    label={`${name} left`}
                    value={m.y}
                    low={-1000}
                    high={1000}
                    onChange={(y) => set(m.sensor, { y })}
                  />
                </td>
                <td>
                  <NumberField
                    label={`${name} high`}
                    value={m.z}
                    low={0}
                    high={500}
                    onChange={(z) => set(m.sensor, { z })}
                  />
                </td>
                <td>
                  <Select
                    label={`Where ${name} looks`}
                    hideLabel
                    value={m.looks}
                    options={LOOKS.map((l) => ({ id: l, text: l }))}
                    onChange={(looks) => set(m.sensor, { looks })}
                  />
                </td>
                <td>
                  {m.looks === "down" || isFrames(m.sensor) ? (
                    <NumberField
                      label={`Tilt of ${name}`}
                      value={m.tilt ?? 0}
                      low={-60}
                      high={60}
                      width={44}
                      onChange={(tilt) => set(m.sensor, { tilt })}
                    />
                  ) : null}
                </td>
                <td>
                  <QuietButton
                    aria-label={`Take ${name} off`}
                    isDisabled={robot.mounts.length === 1}
                    onPress={() => edit("deleteMount", { sensor: m.sensor })}
                  >
                    ×
                  </QuietButton>
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
      {free.length > 0 && (
        <Select
          label="Mount a sensor"
          hideLabel
          value={null}
          placeholder="Mount a sensor …"
          options={free.map((s) => ({ id: s.id as string, text: s.name }))}
          onChange={(id) =>
            edit("addMount", {
              mount: isFrames(id)
                ? { sensor: id as SensorId, x: 30, y: 0, z: 180, looks: "ahead", tilt: 25 }
                : { sensor: id as SensorId, x: 40, y: 0, z: 14, looks: "down" },
            })
          }
        />
      )}
    </>
  );
}
