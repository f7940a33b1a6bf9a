import { blockOf } from "@perceptum/core/readings";
import { ruleSetOf } from "@perceptum/core/rules";
import { useMemo } from "react";
import { Why } from "../decide/WhyPanel";
import type { LastRun } from "../session/Mentor";
import { eyeOfRun } from "../session/runEye";
import { useAppSelector } from "../state/store";
import { seconds } from "../ui/seconds";

/** Why the reading of a run at time t was taken for what it was. */
export function WhyTable({ run, t }: { run: LastRun; t: number }) {
  const { trace, project } = run;
  const chosen = useAppSelector((state) => state.view.runEye);
  const eye = eyeOfRun(run, chosen);
  const sensor = project.sensors.find((s) => s.id === eye.sensor) ?? project.sensors[0];
  const block = blockOf(eye.readings, sensor);
  const index = block.indexAt(t);
  const features = useMemo(() => (index < 0 ? null : block.at(index)), [block, index]);
  if (features === null) return null;
  return (
    <div style={{ marginTop: 14 }}>
      <Why
        features={features}
        ruleSet={ruleSetOf(project, sensor)}
        t={block.t[index]}
        project={project}
        {...(trace.eyes.length > 1 && { where: `by ${sensor.name} at ${seconds(block.t[index])}` })}
      />
    </div>
  );
}
