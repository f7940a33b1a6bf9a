import type { LastRun } from "../session/Mentor";
import { useAppDispatch } from "../state/store";
import { playheadMoved, playingSet } from "../state/view";
import { Title } from "../ui/layout";
import { NoteList } from "../ui/NoteList";

/** What happened, line by line; pressing one goes there. */
export function RunLog({ run, t }: { run: LastRun; t: number }) {
  const dispatch = useAppDispatch();
  return (
    <>
      <Title style={{ margin: "14px 0 4px" }}>Log</Title>
      <NoteList
        label="Log"
        notes={run.trace.notes}
        project={run.project}
        t={t}
        onChoose={(at) => {
          dispatch(playingSet(false));
          dispatch(playheadMoved({ source: "run", t: at }));
        }}
      />
    </>
  );
}
