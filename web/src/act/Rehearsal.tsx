import { useSession } from "../hooks/context";
import { useProject } from "../hooks/project";
import { usePlayhead } from "../hooks/source";
import { useAppSelector } from "../hooks/store";
import { useGoTo } from "../hooks/useGoTo";
import { usePublished } from "../hooks/usePublished";
import { NoteList } from "../tape/NoteList";
import { Dim, Empty, Head, Title } from "../ui/layout";

/** A tape put through rules and behaviour: what would happen, event by event. No robot is needed for it. */
export function Rehearsal() {
  const project = useProject();
  const tape = useAppSelector((state) => state.view.tape);
  const rehearsed = usePublished(useSession().mentor.did);
  const t = usePlayhead(tape ?? undefined);
  const head = project.tapes.find((x) => x.id === tape);
  const goTo = useGoTo(head?.id);
  return (
    <>
      <Head>
        <Title>Rehearsal</Title>
        <Dim>
          {head ? `${head.name} put through rules and behaviour; the wheels go exactly as they are told` : "no tape"}
        </Dim>
      </Head>
      {head === undefined || rehearsed.tape !== tape || rehearsed.notes.length === 0 ? (
        <Empty>
          {head === undefined
            ? "There is no tape to rehearse on. Record one in Sense, or keep a run as one in Prove."
            : "Nothing happens on this tape: its sensor is not on the robot, or nothing answers what it holds."}
        </Empty>
      ) : (
        <NoteList label="Rehearsal" notes={rehearsed.notes} project={project} t={t} onChoose={goTo} />
      )}
    </>
  );
}
