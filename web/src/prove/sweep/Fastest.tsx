import { machineOf, type SweepGrid } from "@perceptum/core/world";
import { useEffect, useState } from "react";
import { useSession } from "../../session/context";
import { useProject } from "../../session/project";
import { Button } from "../../ui/Button";
import { Dim, Head, Title } from "../../ui/layout";

/** The highest speed at which every check holds, found by bisection. */
export function Fastest({ grid }: { grid: SweepGrid }) {
  const project = useProject();
  const { sweeps } = useSession();
  const [said, setSaid] = useState<string>();
  const [busy, setBusy] = useState(false);
  useEffect(() => () => sweeps.cancelSearch(), [sweeps]);
  const find = async () => {
    setBusy(true);
    setSaid(undefined);
    try {
      const fastest = await sweeps.fastest(project, grid);
      if (fastest === null) return;
      const top = machineOf(project.robot).topSpeed;
      setSaid(
        fastest === undefined
          ? "No speed was found at which every check holds in all these lights, heights and seeds."
          : `Every check holds up to ${fastest.speed} times the speed: motors of ${((top * fastest.speed) / 10).toFixed(0)} cm/s instead of ${(top / 10).toFixed(0)}${fastest.piecesAMinute === undefined ? "" : `, which sorts ${fastest.piecesAMinute.toFixed(0)} pieces a minute`}.`,
      );
    } catch (error) {
      setSaid(`It could not be found: ${(error as Error).message}.`);
    }
    setBusy(false);
  };
  return (
    <section aria-label="Highest speed" style={{ marginTop: 14 }}>
      <Title style={{ marginBottom: 4 }}>Highest speed</Title>
      <Head>
        <Button why={busy && "It is being looked for."} onPress={() => void find()}>
          Find it
        </Button>
        {busy && (
          <Button
            $small
            onPress={() => {
              sweeps.cancelSearch();
              setBusy(false);
            }}
          >
            Cancel
          </Button>
        )}
        {busy && <Dim>bisecting …</Dim>}
      </Head>
      {said !== undefined && (
        <p role="status" aria-label="The highest speed" style={{ fontSize: 12 }}>
          {said}
        </p>
      )}
    </section>
  );
}
