import { ROBOTS, type Robot, robotKindOf } from "@perceptum/core/world";
import { type ComponentType, useState } from "react";
import styled from "styled-components";
import { FindingList } from "../findings/FindingList";
import { type MakeEdit, useEdit, useProject } from "../hooks/project";
import { Choice } from "../ui/Button";
import { EntryField, Wrong } from "../ui/EntryField";
import { Dim, Head, Pane, StageGrid, Title } from "../ui/layout";
import { takingName } from "../ui/typed";
import { useSize } from "../ui/useSize";
import { BeltOfRobot } from "./belt/BeltOfRobot";
import { CarrierParts } from "./CarrierParts";
import { Wheels } from "./CartWheels";
import { lossesAs, OtherKindSheet } from "./OtherKindSheet";
import { Mounts } from "./RobotMounts";
import { Names, PartRow, Servos } from "./RobotNames";
import { RobotShape } from "./RobotShape";
import { reachOf } from "./robotDrawings";
import { SideDrawing } from "./SideDrawing";
import { SorterParts } from "./SorterParts";

const Drawing = styled.div`
  flex: 1;
  min-height: 200px;
  background: ${({ theme }) => theme.ink3};
  border-radius: ${({ theme }) => theme.radius};
`;

/** The robot to scale, and all of its numbers: wheels and motors, sensors and where they look, lamps, buttons, servos. */
export function RobotPane() {
  const project = useProject();
  const make = useEdit();
  const { robot } = project;
  const [wrong, setWrong] = useState<string>();
  // What no field can tell by itself is said for all: how the parts stand to each other.
  const edit: MakeEdit = (name, args) => {
    const refused = make(name, args);
    setWrong(refused);
    return refused;
  };
  const Own = OWN_DRAWINGS[robot.kind];
  const [asked, setAsked] = useState<string | null>(null);
  const become = (kind: string) => edit("becomeRobot", { kind });
  return (
    <StageGrid $columns="minmax(200px, 1fr) minmax(0, 600px)">
      <Pane aria-label="The robot from above">
        <Head>
          <Title>From above</Title>
          <Dim>{Own === undefined ? "circles look down, arrows along the floor" : "to scale"}</Dim>
        </Head>
        {Own === undefined ? <RobotDrawing robot={robot} /> : <Own />}
        <Title style={{ margin: "8px 0 4px" }}>From the side</Title>
        <SideDrawing robot={robot} />
      </Pane>
      <Pane aria-label="The robot's numbers">
        <PartRow>
          <span>name</span>
          <EntryField
            width={160}
            label="Name of the robot"
            text={robot.name}
            take={takingName((name) => make("changeRobot", { change: { name } }))}
          />
          <Choice
            label="Kind of robot"
            value={robot.kind}
            options={ROBOTS.entries.map(({ key, name }) => ({ id: key, text: name }))}
            onChange={(kind) =>
              kind !== robot.kind && (lossesAs(project.courses, kind).length > 0 ? setAsked(kind) : become(kind))
            }
          />
        </PartRow>
        {asked !== null && (
          <OtherKindSheet
            kind={asked}
            courses={project.courses}
            onYes={() => {
              become(asked);
              setAsked(null);
            }}
            onClose={() => setAsked(null)}
          />
        )}
        {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
        <Parts robot={robot} edit={edit} />
        <Mounts robot={robot} project={project} edit={edit} />
        <Names project={project} kind="lamps" />
        <Names project={project} kind="buttons" />
        <Servos robot={robot} project={project} edit={edit} />
        <FindingList stage="prove" />
      </Pane>
    </StageGrid>
  );
}

function RobotDrawing({ robot }: { robot: Robot }) {
  const { sensors } = useProject();
  const { ref, width, height } = useSize<HTMLDivElement>();
  const reach = Math.max(
    90,
    robotKindOf(robot).widthMm(robot),
    reachOf(robot),
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
            <RobotShape robot={robot} pose={{ ...pose, servos }} sensors={sensors} />
          </g>
        </svg>
      )}
    </Drawing>
  );
}

/** A machine that is drawn with what it stands by, by the key that it has in core's table. */
const OWN_DRAWINGS: Record<string, ComponentType> = { sorter: BeltOfRobot };

/** What a kind of robot has beside sensors, lamps, buttons and servos, by the key that it has in core's table. */
const PARTS: Record<string, ComponentType<{ robot: never; edit: MakeEdit }>> = {
  cart: Wheels,
  carrier: CarrierParts,
  sorter: SorterParts,
};

function Parts({ robot, edit }: { robot: Robot; edit: MakeEdit }) {
  const Own = PARTS[robot.kind] as ComponentType<{ robot: Robot; edit: MakeEdit }> | undefined;
  return Own && <Own robot={robot} edit={edit} />;
}
