import { LANGUAGES, writeBehaviour, writeRules } from "@perceptum/core/code";
import { fileName, type SensorId } from "@perceptum/core/names";
import { writeCsv } from "@perceptum/core/readings";
import { traceCsv, traceJsonLines } from "@perceptum/core/world";
import { type ReactNode, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { saveFile } from "../browser/saveFile";
import { FindingList } from "../findings/FindingList";
import { useSession } from "../hooks/context";
import { useProject } from "../hooks/project";
import { usePublished } from "../hooks/usePublished";
import { useWaysOut } from "../hooks/useWaysOut";
import { readProjectFile } from "../model/session/readProjectFile";
import { failureText } from "../server/api";
import { addProject } from "../server/list";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";
import { FileButton } from "../ui/FileButton";
import { Head, Pane, Spacer, StageGrid, Title } from "../ui/layout";
import { Select } from "../ui/Select";
import { ProveFile } from "./ProveFile";

const Code = styled.pre`
  margin: 0;
  flex: 1;
  min-height: 0;
  overflow: auto;
  font: 12px/1.55 ${({ theme }) => theme.mono};
  background: ${({ theme }) => theme.panel};
  border: 1px solid ${({ theme }) => theme.rule};
  padding: 12px;
`;
const Row = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  padding: 6px 0;
  border-bottom: 1px solid ${({ theme }) => theme.ruleSoft};
  font-size: 12px;
  & small { display: block; color: ${({ theme }) => theme.ink2}; font-size: 11.5px; }
`;

/** Off to the robot: the code, and every file out and in. */
export function ShipStage() {
  const { readings, mentor } = useSession();
  const { wrong, trying, saveAsFile } = useWaysOut();
  const project = useProject();
  const run = usePublished(mentor.lastRun);
  const [copied, setCopied] = useState<string>();
  const [key, setKey] = useState(LANGUAGES[0].key);
  const language = LANGUAGES.find((l) => l.key === key) ?? LANGUAGES[0];
  /** What is written: the whole behaviour, the rules of all sensors or of one; all of it where a chosen sensor went. */
  const [chosen, choose] = useState<SensorId | "all" | "behaviour">("behaviour");
  const sensors = useMemo(() => {
    if (chosen === "all") return project.sensors;
    const one = project.sensors.filter((s) => s.id === chosen);
    return one.length > 0 ? one : null;
  }, [project.sensors, chosen]);
  const code = useMemo(
    () => (sensors === null ? writeBehaviour(language, project) : writeRules(language, project, sensors)),
    [project, sensors, language],
  );
  const name = fileName(project.name);

  const copy = async () => {
    try {
      await navigator.clipboard.writeText(code);
      setCopied("Copied");
    } catch {
      setCopied("The browser does not let this page copy; save the file instead.");
    }
  };
  return (
    <StageGrid $columns="minmax(0, 1fr) 330px">
      <Pane $sheet aria-label="Code for the robot">
        <Head>
          <Title>Code for the robot</Title>
          <Select
            label="Language"
            hideLabel
            value={language.key}
            options={LANGUAGES.map((l) => ({ id: l.key, text: l.name }))}
            onChange={setKey}
          />
          <Select
            label="What"
            hideLabel
            value={sensors === null ? "behaviour" : chosen}
            options={[
              { id: "behaviour" as const, text: "rules and behaviour" },
              { id: "all" as const, text: "rules of all sensors" },
              ...project.sensors.map(({ id, name }) => ({ id, text: `rules of ${name}` })),
            ]}
            onChange={choose}
          />
          <Spacer />
          <span role="status">{copied}</span>
          <Button onPress={() => void copy()}>Copy</Button>
          <Button $main onPress={() => saveFile(`${name}.${language.ending}`, code, language.mime)}>
            Save file
          </Button>
        </Head>
        <Head style={{ marginBottom: 6 }}>
          <ProveFile sensors={sensors} />
        </Head>
        <Code tabIndex={0} aria-label={`${language.name} code`}>
          {code}
        </Code>
      </Pane>
      <Pane aria-label="Files">
        <Title>Files out</Title>
        {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
        <FileLine title="Project" note="all of it, with readings and frames, as JSON">
          <Button $small aria-label="Save the project file" onPress={trying(saveAsFile)}>
            Save
          </Button>
        </FileLine>
        {project.tapes.map((tape) => (
          <FileLine key={tape.id} title={tape.name} note="readings as CSV">
            <Button
              $small
              aria-label={`Save the readings of ${tape.name}`}
              onPress={() => {
                const raw = readings.get(tape.id);
                if (raw) saveFile(`${tape.id}.csv`, writeCsv(raw), "text/csv");
              }}
            >
              Save
            </Button>
          </FileLine>
        ))}
        <FileLine
          title="Last run"
          note={
            run === null
              ? "none yet; make one in Prove"
              : `${run.trace.course.name}, ${run.trace.light}, seed ${run.trace.seed}: every tick`
          }
        >
          <span style={{ display: "flex", gap: 4 }}>
            <Button
              $small
              why={run === null && "Make a run in Prove first."}
              aria-label="Save the last run as CSV"
              onPress={() => run && saveFile("run.csv", traceCsv(run.trace), "text/csv")}
            >
              CSV
            </Button>
            <Button
              $small
              why={run === null && "Make a run in Prove first."}
              aria-label="Save the last run as JSON lines"
              onPress={() => run && saveFile("run.jsonl", traceJsonLines(run.trace), "application/jsonl")}
            >
              JSON lines
            </Button>
          </span>
        </FileLine>
        <OpenFile />
        <FindingList stage="ship" />
      </Pane>
    </StageGrid>
  );
}

function FileLine({ title, note, children }: { title: string; note: string; children: ReactNode }) {
  return (
    <Row>
      <span style={{ overflow: "hidden", textOverflow: "ellipsis" }}>
        {title}
        <small>{note}</small>
      </span>
      {children}
    </Row>
  );
}

/** A project file in: it becomes a project of its own, this one stays as it is. */
function OpenFile() {
  const [wrong, setWrong] = useState<string>();
  const navigate = useNavigate();
  const take = async (file: File) => {
    setWrong(undefined);
    const read = await readProjectFile(file);
    if ("problem" in read) return setWrong(read.problem);
    try {
      const { id } = await addProject(read.project);
      await navigate(`/p/${id}/sense`);
    } catch (error) {
      setWrong(`${file.name}: ${failureText(error)}`);
    }
  };
  return (
    <>
      <Title style={{ marginTop: 14 }}>Files in</Title>
      <FileLine title="A project file" note="opens as a project of its own">
        <FileButton small text="Open …" accept=".json" onFiles={([file]) => void take(file)} />
      </FileLine>
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
    </>
  );
}
