import { useGoTo } from "../hooks/useGoTo";
import type { LastRun } from "../model/judging/Mentor";
import { NoteList } from "../tape/NoteList";
import { Title } from "../ui/layout";

/** What happened, line by line; pressing one goes there. */
export function RunLog({ run, t }: { run: LastRun; t: number }) {
  const goTo = useGoTo("run");
  return (
    <>
      <Title style={{ margin: "14px 0 4px" }}>Log</Title>
      <NoteList label="Log" notes={run.trace.notes} project={run.project} t={t} onChoose={(at) => goTo(at)} />
    </>
  );
}
