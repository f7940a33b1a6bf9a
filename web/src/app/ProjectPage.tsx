import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { fetchProject } from "../state/api";
import { opened } from "../state/document";
import { holdReadings, lastRun } from "../state/judged";
import { readingStore } from "../state/readings";
import { useAppDispatch, useAppSelector } from "../state/store";
import { readUnsent, type Unsent } from "../state/unsent";
import { lazily } from "../ui/lazily";
import { Message } from "./Message";
import { isStage } from "./stages";
import { SCREENS, Workbench } from "./Workbench";

const UnsentSheet = lazily(() => import("./UnsentSheet").then((m) => m.UnsentSheet));

/** Loads the project that the address names, then shows the workbench. */
export function ProjectPage() {
  const { id = "", stage } = useParams();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const openId = useAppSelector((state) => state.document.id);
  const [trouble, setTrouble] = useState<string>();
  const [unsent, setUnsent] = useState<Unsent>();

  useEffect(() => {
    if (isStage(stage)) void SCREENS[stage].fetch();
    else void navigate(`/p/${id}/sense`, { replace: true });
  }, [stage, id, navigate]);

  useEffect(() => {
    let current = true;
    const open = async () => {
      const { project, revision } = await fetchProject(id);
      await readingStore.load(
        id,
        project.tapes.map((t) => t.id),
      );
      holdReadings();
      if (!current) return;
      lastRun.set(null);
      dispatch(opened({ id, project, revision }));
      void fetch(`/api/projects/${id}/opened`, { method: "PUT" });
      const kept = await readUnsent(id).catch(() => undefined);
      if (current && kept !== undefined && JSON.stringify(kept.project) !== JSON.stringify(project)) setUnsent(kept);
    };
    setTrouble(undefined);
    open().catch((error: Error) => current && setTrouble(error.message));
    return () => {
      current = false;
    };
  }, [id, dispatch]);

  if (trouble !== undefined) {
    return (
      <Message title="This project cannot be opened">
        <p>{trouble}.</p>
        <Link to="/?list">Go to the projects</Link>
      </Message>
    );
  }
  if (openId !== id || !isStage(stage)) return <Message title="Opening …" />;
  return (
    <>
      <Workbench stage={stage} />
      {unsent && <UnsentSheet unsent={unsent} onDone={() => setUnsent(undefined)} />}
    </>
  );
}
