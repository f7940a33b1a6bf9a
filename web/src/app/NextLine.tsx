import type { Finding } from "@perceptum/core/findings";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { pressing } from "../findings/pressing";
import { useSession } from "../hooks/context";
import { useSettledProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublished, usePublishedPart } from "../hooks/usePublished";
import type { StageId } from "../model/stages";
import { proveViewChosen } from "../model/store/prove";
import { watchingChosen } from "../model/store/sense";
import { openSet } from "../model/store/view";
import { isPictureFile, READING_FILES } from "../sense/fileKinds";

import { Button } from "../ui/Button";
import { FileButton } from "../ui/FileButton";
import { Dim } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { NARROW } from "../ui/narrow";
import { SIGN_OF_LEVEL, Sign } from "../ui/Sign";
import { unbroken } from "../ui/unbroken";
import { nextStep, stageName, type Way } from "./nextStep";

const FindingButtons = lazily(() => import("../findings/FindingEntry").then((m) => m.FindingButtons));
const ImportSheet = lazily(() => import("../sense/ImportSheet").then((m) => m.ImportSheet));
const PictureSheet = lazily(() => import("../camera/PictureSheet").then((m) => m.PictureSheet));

const Bar = styled.section`
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 38px;
  padding: 4px 12px;
  font-size: 12.5px;
  background: ${({ theme }) => theme.sheet};
  border-bottom: 1px solid ${({ theme }) => theme.rule};
  & > span { min-width: 0; }
  & b { font-weight: 650; }
  & button { flex: none; }
  ${NARROW} { flex-wrap: wrap; & > span:not(:first-child) { flex: 1 1 220px; } }
`;
const Text = styled.span`
  flex: 1;
`;

/** Above a stage, always in sight: its most serious finding, or else what comes next. */
export function NextLine({ stage }: { stage: StageId }) {
  const all = usePublished(useSession().mentor.findings).list;
  const [first, ...others] = pressing(all, stage);
  return first === undefined ? <Next stage={stage} /> : <Serious finding={first} more={others.length} />;
}

function Serious({ finding, more }: { finding: Finding; more: number }) {
  const { level, title, sentence } = finding;
  return (
    <Bar aria-label="Most serious finding">
      <Sign kind={SIGN_OF_LEVEL[level]} />
      <Text>
        <b>{title}.</b> {unbroken(sentence)}
      </Text>
      {more > 0 && <Dim style={{ flex: "none" }}>and {more} more</Dim>}
      <FindingButtons finding={finding} />
    </Bar>
  );
}

function Next({ stage }: { stage: StageId }) {
  const project = useSettledProject();
  const { judging, mentor } = useSession();
  const right = usePublishedPart(judging.settled, ({ score }) =>
    score.marked === 0 ? null : score.right / score.marked,
  );
  const run = usePublished(mentor.lastRun);
  const sweep = usePublished(mentor.lastSweep);
  const chosen = useAppSelector((state) => state.prove.course);
  const shown = useAppSelector((state) => state.prove.shown);
  const course = project.courses.find((c) => c.id === chosen) ?? project.courses[0];
  const isRun = run !== null && run.base === project && run.trace.course.id === course?.id;
  const { text, ways } = nextStep(stage, {
    project,
    right,
    checks: course?.checks.length ?? 0,
    verdicts: isRun ? run.verdicts : null,
    swept: sweep !== null && sweep.base === project && sweep.course === course?.id ? sweep : null,
    runShown: shown === "run",
  });
  return (
    <Bar aria-label="What comes next" data-pane>
      <Text style={{ flex: "0 1 auto" }}>{text}</Text>
      {ways.map((way) => (
        <WayButton key={JSON.stringify(way)} way={way} />
      ))}
    </Bar>
  );
}

function WayButton({ way }: { way: Way }) {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const [files, setFiles] = useState<[File, ...File[]] | null>(null);
  const [busy, setBusy] = useState(false);
  if ("begins" in way && way.begins === "file")
    return (
      <>
        <FileButton small text={way.text} accept={READING_FILES} several onFiles={setFiles} />
        {files?.some(isPictureFile) && <PictureSheet files={files} onClose={() => setFiles(null)} />}
        {files !== null && !files.some(isPictureFile) && (
          <ImportSheet source={{ name: files[0].name, file: files[0] }} onClose={() => setFiles(null)} />
        )}
      </>
    );
  const demo = async () => {
    setBusy(true);
    try {
      const { demoProject } = await import("../model/session/demoProject");
      const { addProject } = await import("../server/list");
      const made = await addProject(demoProject());
      await navigate(`/p/${made.id}/sense`);
    } catch {
      setBusy(false);
    }
  };
  const go = () => {
    if ("to" in way) void navigate(`/p/${id}/${way.to}`);
    else if ("field" in way) document.querySelector<HTMLElement>(`[aria-label="${CSS.escape(way.field)}"]`)?.focus();
    else if ("begins" in way) {
      if (way.begins === "demo") void demo();
      else dispatch(watchingChosen("bench"));
    } else if (way.opens === "sweep" || way.opens === "run") dispatch(proveViewChosen(way.opens));
    else dispatch(openSet(way.opens));
  };
  return (
    <Button $small isDisabled={busy} onPress={go}>
      {"to" in way ? `Go to ${stageName(way.to)}` : busy ? "Opening …" : way.text}
    </Button>
  );
}
