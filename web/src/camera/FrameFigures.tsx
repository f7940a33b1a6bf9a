import type { TapeId } from "@perceptum/core/names";
import { frameScore } from "@perceptum/core/vision";
import { useSession } from "../hooks/context";
import { useSettledProject } from "../hooks/project";
import { usePublished } from "../hooks/usePublished";
import { Figures } from "../ui/Figures";
import { Title } from "../ui/layout";

/** In how many of a tape's frames each target is found where it is; nothing for a tape whose frames nobody knows. */
export function FrameFigures({ tape: id }: { tape: TapeId }) {
  const { tapes, targets } = useSettledProject();
  const facts = usePublished(useSession().frameFacts).get(id);
  const tape = tapes.find((t) => t.id === id);
  if (tape === undefined || facts === undefined) return null;
  const scores = frameScore(tape, targets, facts);
  if (scores.length === 0) return null;
  return (
    <>
      <Title style={{ marginTop: 12 }}>By frame, of {tape.name}</Title>
      <Figures aria-label="By frame">
        <thead>
          <tr>
            <th />
            <td>found in frames that show it</td>
            <td>found on something else</td>
          </tr>
        </thead>
        <tbody>
          {scores.map(({ target, right, shown, wrong }) => (
            <tr key={target}>
              <th scope="row">{targets.find((t) => t.id === target)?.name}</th>
              <td>
                {right} of {shown}
              </td>
              <td>{wrong}</td>
            </tr>
          ))}
        </tbody>
      </Figures>
    </>
  );
}
