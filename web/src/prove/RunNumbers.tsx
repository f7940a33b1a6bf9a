import type { LastRun } from "../model/judging/Mentor";
import { Num } from "../ui/layout";
import type { RunMoment } from "./momentOf";

/** Where the robot is and what it is told, in figures. */
export function RunNumbers({ run, now, t }: { run: LastRun; now: RunMoment; t: number }) {
  const told = run.trace.outputs.findLast(
    (o) => o.t <= t && (o.command.kind === "wheels" || o.command.kind === "stop"),
  )?.command;
  const percent = (share: number) => `${Math.round(share * 100)} %`;
  const wheels =
    told?.kind === "wheels"
      ? `${percent(told.left)}, ${percent(told.right)}`
      : told?.kind === "stop"
        ? told.how
        : "still";
  return (
    <Num aria-label="Numbers of the run" style={{ whiteSpace: "normal", marginBottom: 6 }}>
      x {(now.x / 10).toFixed(1)} cm · y {(now.y / 10).toFixed(1)} cm · heading {now.heading.toFixed(1)}° · wheels{" "}
      {wheels}
      {now.slipping && " · slipping"}
      {now.servos.map((s) => ` · ${s.name} ${s.degrees.toFixed(0)}°`)}
    </Num>
  );
}
