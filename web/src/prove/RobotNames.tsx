import { Id } from "@perceptum/core/names";
import { type ProjectDocument, takenIds, usesOfName } from "@perceptum/core/project";
import type { Robot, Servo } from "@perceptum/core/world";
import styled from "styled-components";
import { type MakeEdit, useEdit } from "../hooks/project";
import { QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Empty, Num, Title } from "../ui/layout";
import { NumberField } from "../ui/NumberField";

export const PartRow = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
  font-size: 12px;
  margin-bottom: 4px;
  & > span { color: ${({ theme }) => theme.ink2}; }
`;

const problemOf = (name: string, project: ProjectDocument) => {
  const checked = Id.safeParse(name);
  if (!checked.success) return `“${name}” cannot be a name: ${checked.error.issues[0].message}.`;
  return takenIds(project).has(name) ? `“${name}” is already there.` : undefined;
};

/** Lamps or buttons by their names; one that is in use stays. */
export function Names({ project, kind }: { project: ProjectDocument; kind: "lamps" | "buttons" }) {
  const edit = useEdit();
  const one = kind === "lamps" ? "lamp" : "button";
  const names = project.robot[kind];
  return (
    <>
      <Title style={{ margin: "10px 0 4px" }}>
        {kind === "lamps" ? "Named lamps, beside the main one" : "Buttons"}
      </Title>
      <PartRow>
        {names.map((name) => (
          <Num key={name}>
            {name}
            <QuietButton
              aria-label={`Remove the ${one} ${name}`}
              isDisabled={usesOfName(project, one, name).length > 0}
              onPress={() => edit("deleteRobotName", { kind, name })}
            >
              ×
            </QuietButton>
          </Num>
        ))}
        <EntryField
          clearAfter
          width={130}
          label={`Add a ${one}`}
          text=""
          placeholder={`Add a ${one}`}
          take={(text) => {
            const name = text.trim();
            const problem = problemOf(name, project);
            return problem ?? edit("addRobotName", { kind, name });
          }}
        />
      </PartRow>
    </>
  );
}

/** Servos with their range and where they stand at the start. */
export function Servos({ robot, project, edit }: { robot: Robot; project: ProjectDocument; edit: MakeEdit }) {
  const set = (servo: string, change: Partial<Servo>) => edit("changeServo", { servo, change });
  return (
    <>
      <Title style={{ margin: "10px 0 4px" }}>Servos, in degrees</Title>
      {robot.servos.length === 0 && <Empty style={{ padding: "2px 0" }}>None yet.</Empty>}
      {robot.servos.map((s) => (
        <PartRow key={s.id}>
          <Num>{s.id}</Num>
          <span>from</span>
          <NumberField
            label={`${s.id} from`}
            value={s.from}
            low={-360}
            high={s.to}
            onChange={(from) => set(s.id, { from })}
          />
          <span>to</span>
          <NumberField label={`${s.id} to`} value={s.to} low={s.from} high={360} onChange={(to) => set(s.id, { to })} />
          <span>at the start</span>
          <NumberField
            label={`${s.id} at the start`}
            value={s.at}
            low={s.from}
            high={s.to}
            onChange={(at) => set(s.id, { at })}
          />
          <QuietButton
            aria-label={`Remove the servo ${s.id}`}
            isDisabled={usesOfName(project, "servo", s.id).length > 0}
            onPress={() => edit("deleteServo", { servo: s.id })}
          >
            ×
          </QuietButton>
        </PartRow>
      ))}
      <EntryField
        clearAfter
        width={130}
        label="Add a servo"
        text=""
        placeholder="Add a servo"
        take={(text) => {
          const name = text.trim();
          const problem = problemOf(name, project);
          return problem ?? edit("addServo", { servo: { id: name, from: -90, to: 90, at: 0 } });
        }}
      />
    </>
  );
}
