import type { SensorId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { CartRobot, Mount, Robot } from "@perceptum/core/world";
import { ROBOTS, robotKindOf } from "@perceptum/core/world";
import type { ComponentType } from "react";
import styled from "styled-components";
import { FindingList } from "../findings/FindingList";
import { useEdit, useProject } from "../session/project";
import { Choice, QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Dim, Head, Num, Pane, StageGrid, Title } from "../ui/layout";
import { NumberField } from "../ui/NumberField";
import { Select } from "../ui/Select";
import { takingName } from "../ui/typed";
import { useSize } from "../ui/useSize";
import { type Change, Line, Names, Servos } from "./RobotNames";
import { RobotShape } from "./RobotShape";

const Table = styled.table`
  border-collapse: collapse;
  font-size: 12px;
  & th { text-align: left; font-weight: 400; color: ${({ theme }) => theme.ink2}; padding: 2px 8px 2px 0; white-space: nowrap; }
  & td { padding: 2px 8px 2px 0; white-space: nowrap; }
  & input[type="checkbox"] { accent-color: ${({ theme }) => theme.ink}; }
`;
const Drawing = styled.div`
  flex: 1;
  min-height: 200px;
  background: ${({ theme }) => theme.ink3};
  border-radius: ${({ theme }) => theme.radius};
`;

const LOOKS = ["down", "left", "right", "ahead"] as const;

/** The robot to scale, and all of its numbers: wheels and motors, sensors and where they look, lamps, buttons, servos. */
export function RobotPane() {
  const project = useProject();
  const edit = useEdit();
  const { robot } = project;
  const change: Change = (what, make) => edit(what, (p) => ({ ...p, robot: make(p.robot) }));
  return (
    <StageGrid $columns="minmax(260px, 1fr) 600px">
      <Pane aria-label="The robot from above">
        <Head>
          <Title>From above</Title>
          <Dim>circles look down, arrows along the floor</Dim>
        </Head>
        <RobotDrawing robot={robot} />
      </Pane>
      <Pane aria-label="The robot's numbers">
        <Line>
          <span>name</span>
          <EntryField
            width={160}
            label="Name of the robot"
            text={robot.name}
            take={takingName((name) => change("naming the robot", (r) => ({ ...r, name })))}
          />
          <Choice
            label="Kind of robot"
            value={robot.kind}
            options={ROBOTS.entries.map(({ key, name }) => ({ id: key, text: name }))}
            onChange={(kind) =>
              edit("another kind of robot", (p) => ({
                ...p,
                robot: p.robot.kind === kind ? p.robot : ROBOTS.get(kind).fresh(p.robot),
                // A project's courses are for its robot.
                courses: p.courses.map((c) => ({ ...c, kind: ROBOTS.get(kind).course as "floor" })),
              }))
            }
          />
        </Line>
        <Parts robot={robot} change={change} />
        <Mounts robot={robot} project={project} change={change} />
        <Names project={project} kind="lamps" change={change} />
        <Names project={project} kind="buttons" change={change} />
        <Servos robot={robot} project={project} change={change} />
        <FindingList stage="prove" />
      </Pane>
    </StageGrid>
  );
}

function RobotDrawing({ robot }: { robot: Robot }) {
  const { ref, width, height } = useSize<HTMLDivElement>();
  const reach = Math.max(
    90,
    robotKindOf(robot).widthMm(robot),
    ...robot.mounts.map((m) => Math.max(Math.abs(m.x), Math.abs(m.y)) + 60),
  );
  const pose = { x: 0, y: 0, heading: 90, lamp: null, lamps: [], slipping: false };
  const servos = robot.servos.map((s) => ({ name: s.id, degrees: s.at }));
  return (
    <Drawing ref={ref}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          viewBox={`${-reach} ${-reach} ${2 * reach} ${2 * reach}`}
          role="img"
          aria-label={`${robot.name} from above`}
        >
          <g transform="scale(1 -1)">
            <RobotShape robot={robot} pose={{ ...pose, servos }} />
          </g>
        </svg>
      )}
    </Drawing>
  );
}

/** What a kind of robot has beside sensors, lamps, buttons and servos, by the key that it has in core's table. */
const PARTS: Record<string, ComponentType<{ robot: never; change: Change }>> = { cart: Wheels };

function Parts({ robot, change }: { robot: Robot; change: Change }) {
  const Own = PARTS[robot.kind] as ComponentType<{ robot: Robot; change: Change }> | undefined;
  return Own && <Own robot={robot} change={change} />;
}

function Wheels({ robot, change }: { robot: CartRobot; change: Change }) {
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
            <th scope="col">top speed, mm/s</th>
            <th scope="col">lag, ms</th>
            <th scope="col">dead band, %</th>
            <th scope="col">mounted reversed</th>
            <th scope="col">inverted</th>
            <th scope="col">regulated</th>
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
                  <input
                    type="checkbox"
                    aria-label={`${m.id} ${{ mountedReversed: "mounted reversed", invert: "inverted", regulated: "regulated" }[flag]}`}
                    checked={m[flag]}
                    onChange={(event) => setMotor(k, { [flag]: event.target.checked })}
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

function Mounts({ robot, project, change }: { robot: Robot; project: ProjectDocument; change: Change }) {
  const set = (k: number, part: Partial<Mount>) =>
    change("a sensor's place", (r) => ({ ...r, mounts: r.mounts.map((m, i) => (i === k ? { ...m, ...part } : m)) }));
  const free = project.sensors.filter((s) => !robot.mounts.some((m) => m.sensor === s.id));
  return (
    <>
      <Title style={{ margin: "10px 0 4px" }}>Sensors, from the middle of the axle</Title>
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
          {robot.mounts.map((m, k) => {
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
                    onChange={(x) => set(k, { x })}
                  />
                </td>
                <td>
                  <NumberField
                    label={`${name} left`}
                    value={m.y}
                    low={-1000}
                    high={1000}
                    onChange={(y) => set(k, { y })}
                  />
                </td>
                <td>
                  <NumberField label={`${name} high`} value={m.z} low={0} high={500} onChange={(z) => set(k, { z })} />
                </td>
                <td>
                  <Select
                    label={`Where ${name} looks`}
                    hideLabel
                    value={m.looks}
                    options={LOOKS.map((l) => ({ id: l, text: l }))}
                    onChange={(looks) => set(k, { looks })}
                  />
                </td>
                <td>
                  {m.looks === "down" ? (
                    <NumberField
                      label={`Tilt of ${name}`}
                      value={m.tilt ?? 0}
                      low={-60}
                      high={60}
                      width={44}
                      onChange={(tilt) => set(k, { tilt })}
                    />
                  ) : null}
                </td>
                <td>
                  <QuietButton
                    aria-label={`Take ${name} off`}
                    isDisabled={robot.mounts.length === 1}
                    onPress={() => change("taking a sensor off", (r) => ({ ...r, mounts: r.mounts.toSpliced(k, 1) }))}
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
            change("mounting a sensor", (r) => ({
              ...r,
              mounts: [...r.mounts, { sensor: id as SensorId, x: 40, y: 0, z: 14, looks: "down" }],
            }))
          }
        />
      )}
    </>
  );
}
