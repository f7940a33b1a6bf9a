import { freeId, type LightId } from "@perceptum/core/names";
import { tellUses } from "@perceptum/core/project";
import type { Light } from "@perceptum/core/readings";
import styled from "styled-components";
import { useEdit, useProject } from "../hooks/project";
import { Button } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Dim } from "../ui/layout";
import { Select } from "../ui/Select";
import { Sheet, SheetButtons } from "../ui/Sheet";
import { takingName, typedNumber } from "../ui/typed";

const Table = styled.table`
  font-size: 12.5px;
  & th { font-weight: 400; color: ${({ theme }) => theme.ink2}; text-align: left; padding: 2px 8px 2px 0; }
  & td { padding: 3px 8px 3px 0; vertical-align: top; }
`;

/** Lights to begin with; what they are like is only a start. */
const READY: { name: string; rgb: Light["rgb"]; level: number }[] = [
  { name: "Overcast", rgb: [0.98, 1, 1.04], level: 0.4 },
  { name: "Noon sun", rgb: [1.08, 1, 0.88], level: 1.9 },
  { name: "Dusk", rgb: [1.1, 0.96, 0.9], level: 0.08 },
  { name: "Lamps at night", rgb: [1.2, 1, 0.72], level: 0.25 },
  { name: "Grow lamps", rgb: [1.25, 0.55, 1.2], level: 0.7 },
];

/** The lights that the robot will meet: name, colour of the light and how bright it is. */
export function LightsSheet({ onClose }: { onClose: () => void }) {
  const project = useProject();
  const { lights } = project;
  const edit = useEdit();
  const change = (light: LightId, part: Partial<Light>) => edit("changeLight", { light, change: part });
  const take = (light: Light, place: number | "level") => (text: string) => {
    const value = typedNumber(text);
    const most = place === "level" ? 100 : 20;
    if (text.trim() === "" || !(value >= 0 && value <= most)) return `A figure from 0 to ${most}; it stays as it was.`;
    return change(
      light.id,
      place === "level" ? { level: value } : { rgb: light.rgb.with(place, value) as Light["rgb"] },
    );
  };
  const free = READY.filter((r) => !lights.some((l) => l.name === r.name));
  return (
    <Sheet title="Lights" wide isOpen onClose={onClose}>
      <Dim style={{ whiteSpace: "normal" }}>
        Red, green and blue say of what colour the light is (1 is the room’s norm), and how bright it is beside the
        sensor’s own lamp. They count for the simulation; marks name the light that they were taken in.
      </Dim>
      <Table aria-label="Lights">
        <thead>
          <tr>
            <th>name</th>
            <th>red</th>
            <th>green</th>
            <th>blue</th>
            <th>level</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {lights.map((light) => {
            const uses = tellUses(project, "light", light.id);
            return (
              <tr key={light.id}>
                <td>
                  <EntryField
                    width={150}
                    label={`Name of ${light.name}`}
                    text={light.name}
                    take={takingName((name) => change(light.id, { name }))}
                  />
                </td>
                {["red", "green", "blue"].map((word, c) => (
                  <td key={word}>
                    <EntryField
                      mono
                      label={`${word} of ${light.name}`}
                      text={String(light.rgb[c])}
                      take={take(light, c)}
                    />
                  </td>
                ))}
                <td>
                  <EntryField
                    mono
                    label={`level of ${light.name}`}
                    text={String(light.level)}
                    take={take(light, "level")}
                  />
                </td>
                <td>
                  <Button
                    $small
                    isDisabled={uses.length > 0 || lights.length === 1}
                    aria-label={`Delete ${light.name}${uses.length > 0 ? `, used by ${uses.join(", ")}` : ""}`}
                    onPress={() => edit("deleteLight", { light: light.id })}
                  >
                    Delete
                  </Button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
      <Select
        label="Add a light"
        hideLabel
        placeholder="Add a light …"
        value={null}
        options={[...free.map((r) => ({ id: r.name, text: r.name })), { id: "", text: "another light" }]}
        onChange={(chosen) => {
          const ready = READY.find((r) => r.name === chosen) ?? {
            name: `Light ${lights.length + 1}`,
            rgb: [1, 1, 1] as Light["rgb"],
            level: 0.5,
          };
          const id = freeId<LightId>(
            ready.name,
            lights.map((l) => l.id),
          );
          edit("addLight", { light: { id, ...ready } });
        }}
      />
      <SheetButtons>
        <Button $main onPress={onClose}>
          Close
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
