import { gateName } from "@perceptum/core/behaviour";
import { freeId, Name, unusedName } from "@perceptum/core/names";
import { usesOfName, whyCrateStays } from "@perceptum/core/project";
import type { SorterRobot } from "@perceptum/core/world";
import { type MakeEdit, useProject } from "../hooks/project";
import { Button } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Info } from "../ui/Info";
import { Head, Num, Spacer, Title } from "../ui/layout";
import { Measure } from "../ui/Measure";
import { NumberField } from "../ui/NumberField";
import { Select } from "../ui/Select";
import { Motors } from "./Motors";
import { PartRow } from "./RobotNames";
import { Table } from "./RobotTable";

type Gate = SorterRobot["gates"][number];

/** The numbers of a sorter: its belt's motor, gates and the crates that they lead to. */
export function SorterParts({ robot, edit }: { robot: SorterRobot; edit: MakeEdit }) {
  const project = useProject();
  const first = Math.min(...robot.mounts.map((mount) => mount.x));
  const setGate = (gate: string, change: Partial<Gate>) => edit("changeGate", { gate, change });
  const addGate = () => {
    const last = Math.max(first, ...robot.gates.map((gate) => gate.atMm));
    const crate =
      robot.crates.find((c) => c.id !== robot.end && robot.gates.every((g) => g.crate !== c.id)) ?? robot.crates[0];
    const name = unusedName(
      `${crate.name.replace(/ crate$/i, "")} gate`,
      robot.gates.map((gate) => ({ name: gateName(gate) })),
    );
    const id = freeId(
      name,
      robot.gates.map((gate) => gate.id),
    );
    edit("addGate", { gate: { id, name, atMm: last + 140, crate: crate.id, travelMs: 100, reachMm: 80 } });
  };
  const renameGate = (id: string, text: string): string | undefined => {
    const name = text.trim();
    if (!Name.safeParse(name).success) return "A name has 1 to 80 characters.";
    if (robot.gates.some((gate) => gate.id !== id && gateName(gate) === name)) return `“${name}” is already there.`;
    return setGate(id, { name });
  };
  const nameTaken = (text: string, own: string) =>
    Name.safeParse(text.trim()).success
      ? robot.crates.some((crate) => crate.name === text.trim() && crate.name !== own)
        ? `“${text.trim()}” is already there.`
        : undefined
      : "A name has 1 to 80 characters.";
  const addCrate = (text: string) => {
    const wrong = nameTaken(text, "");
    if (wrong !== undefined) return wrong;
    const name = text.trim();
    const id = freeId(
      name,
      robot.crates.map((crate) => crate.id),
    );
    return edit("addCrate", { crate: { id, name } });
  };
  return (
    <>
      <PartRow>
        <Measure
          text="roller"
          unit="mm"
          label="Roller diameter in mm"
          value={robot.rollerMm}
          low={1}
          high={1000}
          onChange={(rollerMm) => edit("changeRobot", { change: { rollerMm } })}
        />
        <span>what nobody takes goes to</span>
        <Select
          label="End crate"
          hideLabel
          value={robot.end}
          options={robot.crates.map(({ id, name }) => ({ id, text: name }))}
          onChange={(end) => edit("changeRobot", { change: { end } })}
        />
      </PartRow>
      <Motors robot={robot} edit={edit} />
      <Head style={{ margin: "8px 0 4px" }}>
        <Title>Gates, by their middle from the belt’s start</Title>
        <Spacer />
        <Button $small onPress={addGate}>
          Add a gate
        </Button>
      </Head>
      {robot.gates.length > 0 && (
        <Table>
          <thead>
            <tr>
              <th scope="col">gate</th>
              <th scope="col">at, mm</th>
              <th scope="col">
                clears, mm <Info word="clears" />
              </th>
              <th scope="col">moves in, ms</th>
              <th scope="col">leads to</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {robot.gates.map((gate, i) => (
              <tr key={gate.id}>
                <td>
                  <EntryField
                    width={110}
                    label={`Name of gate ${i + 1}`}
                    text={gateName(gate)}
                    take={(text) => renameGate(gate.id, text)}
                  />
                </td>
                <td>
                  <NumberField
                    label={`${gateName(gate)} at in mm`}
                    value={gate.atMm}
                    low={0}
                    high={100_000}
                    by={10}
                    onChange={(atMm) => setGate(gate.id, { atMm })}
                  />
                </td>
                <td>
                  <NumberField
                    label={`${gateName(gate)} clears in mm`}
                    value={gate.reachMm}
                    low={1}
                    high={2000}
                    by={10}
                    onChange={(reachMm) => setGate(gate.id, { reachMm })}
                  />
                </td>
                <td>
                  <NumberField
                    label={`${gateName(gate)} moves in ms`}
                    value={gate.travelMs}
                    low={0}
                    high={10_000}
                    by={10}
                    onChange={(travelMs) => setGate(gate.id, { travelMs })}
                  />
                </td>
                <td>
                  <Select
                    label={`Crate of ${gateName(gate)}`}
                    hideLabel
                    value={gate.crate}
                    options={robot.crates.map(({ id, name }) => ({ id, text: name }))}
                    onChange={(crate) => setGate(gate.id, { crate })}
                  />
                </td>
                <td>
                  <Button
                    $small
                    aria-label={`Remove ${gateName(gate)}`}
                    why={usesOfName(project, "gate", gate.id).length > 0 && "A step names it."}
                    onPress={() => edit("deleteGate", { gate: gate.id })}
                  >
                    ×
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      <Title style={{ margin: "8px 0 4px" }}>Crates</Title>
      <PartRow>
        {robot.crates.map((crate, i) => (
          <Num key={crate.id}>
            <EntryField
              width={110}
              label={`Name of crate ${i + 1}`}
              text={crate.name}
              take={(text) => {
                const wrong = nameTaken(text, crate.name);
                return wrong ?? edit("renameCrate", { crate: crate.id, name: text.trim() });
              }}
            />
            <Button
              $small
              aria-label={`Remove the crate ${crate.name}`}
              why={whyCrateStays(project, crate.id) ?? false}
              onPress={() => edit("deleteCrate", { crate: crate.id })}
            >
              ×
            </Button>
          </Num>
        ))}
        <EntryField clearAfter width={130} label="Add a crate" text="" placeholder="Add a crate" take={addCrate} />
      </PartRow>
    </>
  );
}
