import { fastestInWords, type SweepGrid } from "@perceptum/core/world";
import { useEffect, useState } from "react";
import { useSession } from "../../hooks/context";
import { useProject } from "../../hooks/project";
import { Sweeps } from "../../model/runs/Sweeps";
import { Button } from "../../ui/Button";
import { Head, Title } from "../../ui/layout";
import { ProgressBar } from "../../ui/ProgressBar";

/** The highest speed at which every check holds: where, with which seeds, and what to type. */
export function Fastest({ grid }: { grid: SweepGrid }) {
  const project = useProject();
  const sweeps = useSession().service(Sweeps);
  const [said, setSaid] = useState<string>();
  const [progress, setProgress] = useState<{ share: number; began: number }>();
  useEffect(() => () => sweeps.cancelSearch(), [sweeps]);
  const find = async () => {
    const began = performance.now();
    setProgress({ share: 0, began });
    setSaid(undefined);
    try {
      const fastest = await sweeps.fastest(project, grid, (share) => setProgress({ share, began }));
      if (fastest === null) return;
      setSaid(fastestInWords(fastest, project, grid));
    } catch (error) {
      setSaid(`It could not be found: ${(error as Error).message}.`);
    }
    setProgress(undefined);
  };
  return (
    <section aria-label="Highest speed" style={{ marginTop: 14 }}>
      <Title style={{ marginBottom: 4 }}>Highest speed</Title>
      <Head>
        <Button why={progress !== undefined && "It is being looked for."} onPress={() => void find()}>
          Find it
        </Button>
      </Head>
      {progress !== undefined && (
        <ProgressBar
          label="Search for the highest speed"
          {...progress}
          onCancel={() => {
            sweeps.cancelSearch();
            setProgress(undefined);
          }}
        />
      )}
      {said !== undefined && (
        <p role="status" aria-label="The highest speed" style={{ fontSize: 12 }}>
          {said}
        </p>
      )}
    </section>
  );
}
