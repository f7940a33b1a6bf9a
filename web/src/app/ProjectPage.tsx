import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { SessionContext, useSession, useSessions } from "../hooks/context";
import { usePublished } from "../hooks/usePublished";
import type { ProjectSession } from "../model/session/ProjectSession";
import { isStage } from "../model/stages";
import { runChosen } from "../model/store/prove";
import { tapeChosen } from "../model/store/view";
import { lazily } from "../ui/lazily";
import { Message } from "./Message";
import { placeIn } from "./places";
import { SCREENS, Workbench } from "./Workbench";

const LeftRecordingSheet = lazily(() => import("./LeftRecordingSheet").then((m) => m.LeftRecordingSheet));
const UnsentSheet = lazily(() => import("./UnsentSheet").then((m) => m.UnsentSheet));

/** Opens the project that the address names, for as long as it names it, and shows the workbench. */
export function ProjectPage() {
  const { id = "", stage } = useParams();
  const navigate = useNavigate();
  const sessions = useSessions();
  const [open, setOpen] = useState<ProjectSession>();
  const [trouble, setTrouble] = useState<string>();

  useEffect(() => {
    if (isStage(stage)) void SCREENS[stage].fetch();
    else void navigate(`/p/${id}/${placeIn(id)?.stage ?? "sense"}`, { replace: true });
  }, [stage, id, navigate]);

  useEffect(() => {
    const session = sessions.make(id);
    setTrouble(undefined);
    sessions.open(session).then(
      () => {
        if (!session.isOpen) return;
        goBack(session);
        setOpen(session);
      },
      (error: Error) => session.isOpen && setTrouble(error.message),
    );
    return () => sessions.leave(session);
  }, [id, sessions]);

  if (trouble !== undefined) {
    return (
      <Message title="This project cannot be opened">
        <p>{trouble}.</p>
        <Link to="/?list">Go to the projects</Link>
      </Message>
    );
  }
  if (open?.id !== id || !open.isOpen || !isStage(stage)) return <Message title="Opening …" />;
  return (
    <SessionContext key={open.id} value={open}>
      <Workbench stage={stage} />
      <LeftUnsent />
    </SessionContext>
  );
}

/** Chooses the tape and the course that were looked at last, as far as they are still there. */
function goBack({ id, store }: ProjectSession): void {
  const { present } = store.getState().document;
  const place = placeIn(id);
  const tape = present?.tapes.find((t) => t.id === place?.tape);
  if (tape !== undefined) store.dispatch(tapeChosen(tape.id));
  const course = present?.courses.find((c) => c.id === place?.course);
  if (course !== undefined) store.dispatch(runChosen({ course: course.id }));
}

function LeftUnsent() {
  const { earlier, recordings } = useSession();
  const changes = usePublished(earlier.unsent);
  const [recording] = usePublished(recordings.left);
  if (changes !== null) return <UnsentSheet unsent={changes} />;
  return recording === undefined ? null : <LeftRecordingSheet key={recording.window} left={recording} />;
}
