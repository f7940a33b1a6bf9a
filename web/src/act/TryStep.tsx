import type { Step } from "@perceptum/core/behaviour";
import { machineOf, type Tried } from "@perceptum/core/world";
import { useEffect, useState } from "react";
import { useSession } from "../hooks/context";
import { usePhraseWords } from "../hooks/phraseWords";
import { useProject } from "../hooks/project";
import { useAppSelector } from "../hooks/store";
import { Dim } from "../ui/layout";
import { seconds } from "../ui/seconds";

/** What one step alone does on the robot: from a standing start on bare ground, for at most ten seconds. */
export function TryStep({ step }: { step: Step }) {
  const project = useProject();
  const words = usePhraseWords();
  const session = useSession();
  const light = useAppSelector((state) => state.prove.light);
  const [tried, setTried] = useState<Tried | string>();
  useEffect(() => {
    let current = true;
    session.mentor.tryStep(project, step, light).then(
      (result) => current && setTried(result),
      (error: Error) => current && setTried(error.message),
    );
    return () => {
      current = false;
    };
  }, [session, project, step, light]);
  return (
    <div role="status" aria-label="What the step alone does" style={{ fontSize: 12, margin: "2px 0 8px" }}>
      <b>{words.step(step)}</b>{" "}
      <Dim>
        {tried === undefined
          ? "is being tried …"
          : typeof tried === "string"
            ? `cannot be tried: ${tried}`
            : wordsOf(tried, machineOf(project.robot).belt === undefined ? "robot" : "belt")}
      </Dim>
    </div>
  );
}

function wordsOf({ ended, ms, mm, degrees, outputs, slipped }: Tried, who: string): string {
  const takes = ended ? `takes ${seconds(ms)}` : "goes on; after 10 s";
  const turned = Math.abs(degrees) < 0.5 ? "" : ` and has turned ${degrees.toFixed(0)}°`;
  const moves =
    Math.abs(mm) < 0.5 && turned === ""
      ? `the ${who} stays where it is`
      : `the ${who} is ${(mm / 10).toFixed(1)} cm farther${turned}`;
  const said = outputs.length > 0 ? `; ${outputs.join(", ")}` : "";
  return `${takes}: ${moves}${said}${slipped ? "; its wheels slip" : ""}.`;
}
