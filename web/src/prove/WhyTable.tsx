import { ruleSetOf } from "@perceptum/core/rules";
import { useMemo } from "react";
import { Why } from "../decide/WhyPanel";
import { useSession } from "../hooks/context";
import { useAppSelector } from "../hooks/store";
import type { LastRun } from "../model/judging/Mentor";
import { eyeOfRun } from "../model/runs/runEye";
import { Dim } from "../ui/layout";
import { seconds } from "../ui/seconds";

/** Why the reading of a run at time t was taken for what it was. */
export function WhyTable({ run, t }: { run: LastRun; t: number }) {
  const { trace, project } = run;
  const chosen = useAppSelector((state) => state.view.runEye);
  const eye = eyeOfRun(run, chosen);
  const sensor = project.sensors.find((s) => s.id === eye.sensor) ?? project.sensors[0];
  const block = useSession().blocks.of(eye.readings, sensor);
  const index = block.indexAt(t);
  const features = useMemo(() => (index < 0 ? null : block.at(index)), [block, index]);
  if (eye.frames !== undefined)
    return (
      <Dim style={{ display: "block", marginTop: 14, whiteSpace: "normal" }}>
        {sensor.name} is judged pixel by pixel: keep the run as a tape, press a pixel of a frame, and Why in Decide says
        what it was taken for.
      </Dim>
    );
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
