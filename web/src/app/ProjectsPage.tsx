import type { ProjectSummary } from "@perceptum/contract";
import { cutName } from "@perceptum/core/names";
import { useEffect, useState } from "react";
import { useStore } from "react-redux";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { api, useAddProjectMutation, useProjectsQuery, useRemoveProjectMutation } from "../hooks/projectList";
import { useAppDispatch } from "../hooks/store";
import { readProjectFile } from "../model/session/readProjectFile";
import { STAGES } from "../model/stages";
import { closed } from "../model/store/document";
import type { AppStore } from "../model/store/store";
import { failureText } from "../server/api";
import { fetchWhole } from "../server/list";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { Box, Wrong } from "../ui/EntryField";
import { FileButton } from "../ui/FileButton";
import { Dim, Empty, Num, Spacer } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { NARROW } from "../ui/narrow";
import { DEMO_WORDS } from "./demoWords";
import { Mark } from "./Mark";
import { Message } from "./Message";
import { Pip, PROGRESS } from "./Pip";
import { forgetPlace, placeIn } from "./places";

const Orphans = lazily(() => import("./Orphans").then((m) => m.Orphans));
const DeleteSheet = lazily(() => import("./DeleteSheet").then((m) => m.DeleteSheet));

const Page = styled.main`
  max-width: 860px;
  margin: 0 auto;
  padding: 48px 16px;
  height: 100%;
  overflow: auto;
`;
const Top = styled.header`
  display: flex;
  align-items: center;
  gap: 10px;
  margin-bottom: 20px;
  & h1 { font-size: 18px; font-weight: 700; }
`;
const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  border: 1px solid ${({ theme }) => theme.rule};
  border-radius: ${({ theme }) => theme.radius};
  background: ${({ theme }) => theme.sheet};
  & li {
    display: flex;
    ${NARROW} { flex-wrap: wrap; }
    align-items: center;
    gap: 14px;
    padding: 10px 14px;
    border-top: 1px solid ${({ theme }) => theme.ruleSoft};
  }
  & li:first-child { border-top: 0; }
  & a { font-weight: 650; color: inherit; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; min-width: 0; }
`;
/** The paints of a project's targets, side by side. */
const Paints = styled.span`
  display: inline-flex;
  flex: none;
  width: 64px;
  height: 16px;
  border: 1px solid ${({ theme }) => theme.rule};
  border-radius: 2px;
  overflow: hidden;
  & > i { flex: 1; }
`;
const About = styled.div`
  flex: 1;
  min-width: 0;
  & > span { display: block; white-space: normal; font-size: 12px; }
`;
const Marks = styled.span`
  display: inline-flex;
  gap: 3px;
  flex: none;
`;
const Tools = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 34px;
  margin-bottom: 8px;
`;

/** From so many projects on they can be searched. */
const SEARCHED_FROM = 10;

const when = (t: number) => new Date(t).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });

/** What an empty project is made of brings the schemas with it, so it comes only when it is asked for. */
const newProject = () => import("../model/session/newProject").then((m) => m.newProject());

/** The projects at the server. */
export function ProjectsPage() {
  const store = useStore() as AppStore;
  // The list's slice comes with it.
  useState(() => store.takeIn(api));
  return <Projects />;
}

function Projects() {
  const { data, error, isLoading } = useProjectsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [add] = useAddProjectMutation();
  const [remove] = useRemoveProjectMutation();
  const [deleting, setDeleting] = useState<readonly ProjectSummary[]>([]);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [sought, setSought] = useState("");
  const [wrong, setWrong] = useState<string>();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();

  useEffect(() => {
    dispatch(closed());
    document.title = "Perceptum";
  }, [dispatch]);

  if (error && data === undefined)
    return (
      <Message title="The projects cannot be read">
        {failureText(error)} Start the server with npm start, then load this page again.
      </Message>
    );
  if (isLoading || data === undefined) return <Message title="Opening …" />;

  /** Opens what is being added; says whether that went well. */
  const open = async (adding: Promise<{ id: string }>): Promise<boolean> => {
    try {
      const { id } = await adding;
      await navigate(`/p/${id}/sense`);
      return true;
    } catch (failure) {
      setWrong(failureText(failure));
      return false;
    }
  };
  const take = async (file: File) => {
    setWrong(undefined);
    const read = await readProjectFile(file);
    if ("problem" in read) setWrong(read.problem);
    else await open(add(read.project).unwrap());
  };
  /** A copy with its tapes, as a project of its own. */
  const copy = async ({ id, name }: ProjectSummary) => {
    setWrong(undefined);
    try {
      await add({ ...(await fetchWhole(id)), name: cutName(name, ", copy") }).unwrap();
    } catch (failure) {
      setWrong(`${name} was not copied. ${failureText(failure)}`);
    }
  };
  const shown = data.filter(({ name }) => name.toLowerCase().includes(sought.trim().toLowerCase()));
  const picked = data.filter(({ id }) => chosen.includes(id));
  return (
    <Page>
      <Top>
        <Mark />
        <h1>Projects</h1>
        <Spacer />
        <FileButton text="Open a project file" accept=".json" onFiles={([file]) => void take(file)} />
        <Button $main onPress={() => void open(newProject().then((project) => add(project).unwrap()))}>
          New project
        </Button>
      </Top>
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      <Orphans known={data.map((p) => p.id)} onAdd={(project) => open(add(project).unwrap())} />
      {data.length === 0 ? (
        <Empty>
          No projects. Begin a new one, or open a project file. The demo comes back with npm start -- --demo.
        </Empty>
      ) : (
        <>
          <Tools>
            {data.length >= SEARCHED_FROM && (
              <Box
                aria-label="Search the projects"
                placeholder="Search …"
                style={{ width: 200 }}
                value={sought}
                onChange={(event) => setSought(event.target.value)}
              />
            )}
            <Spacer />
            {picked.length > 0 && (
              <>
                <Dim role="status">{picked.length} chosen</Dim>
                <Button $small onPress={() => setDeleting(picked)}>
                  Delete the chosen
                </Button>
                <Button $small onPress={() => setChosen([])}>
                  Choose none
                </Button>
              </>
            )}
          </Tools>
          {shown.length === 0 && <Empty>No project is called “{sought.trim()}”.</Empty>}
          <List>
            {shown.map((project) => (
              <Row
                key={project.id}
                project={project}
                chosen={chosen.includes(project.id)}
                onChoose={(on) =>
                  setChosen((ids) => (on ? [...ids, project.id] : ids.filter((id) => id !== project.id)))
                }
                onCopy={() => void copy(project)}
                onDelete={() => setDeleting([project])}
              />
            ))}
          </List>
        </>
      )}
      {deleting.length > 0 && (
        <DeleteSheet
          names={deleting.map(({ name }) => name)}
          onKeep={() => setDeleting([])}
          onDelete={() => {
            setWrong(undefined);
            for (const { id, name } of deleting)
              remove(id)
                .unwrap()
                .then(() => forgetPlace(id))
                .catch((failure: unknown) => setWrong(`${name} was not deleted. ${failureText(failure)}`));
            setChosen([]);
            setDeleting([]);
          }}
        />
      )}
    </Page>
  );
}

/** One project: its paints, how far it was when this browser last had it open, and what can be done with it. */
function Row(props: {
  project: ProjectSummary;
  chosen: boolean;
  onChoose: (on: boolean) => void;
  onCopy: () => void;
  onDelete: () => void;
}) {
  const { project, chosen, onChoose, onCopy, onDelete } = props;
  const { id, name, revision, updatedAt, paints } = project;
  const place = placeIn(id);
  return (
    <li>
      <Check label={`Choose ${name}`} checked={chosen} onChange={onChoose} />
      <Paints aria-hidden>
        {paints.map((paint, i) => (
          <i key={`${i} ${paint}`} style={{ background: paint }} />
        ))}
      </Paints>
      <About>
        <Link to={`/p/${id}`}>{name}</Link>
        {DEMO_WORDS[name] !== undefined && <Dim>{DEMO_WORDS[name]}</Dim>}
      </About>
      {place?.progress !== undefined && (
        <Marks
          role="img"
          aria-label={STAGES.map((stage) => `${stage.name} ${PROGRESS[place.progress?.[stage.id] ?? "empty"]}`).join(
            ", ",
          )}
        >
          {STAGES.map((stage) => (
            <Pip key={stage.id} progress={place.progress?.[stage.id] ?? "empty"} />
          ))}
        </Marks>
      )}
      {place?.checks !== undefined && (
        <Dim title={`The last run, ${when(place.checks.at)}`}>
          {place.checks.holding} of {place.checks.of} checks held
        </Dim>
      )}
      <Num>
        <Dim>revision {revision}</Dim>
      </Num>
      <Dim style={{ whiteSpace: "nowrap", flex: "none" }}>{when(updatedAt)}</Dim>
      <Button $small aria-label={`Copy ${name}`} onPress={onCopy}>
        Copy
      </Button>
      <Button $small aria-label={`Delete ${name}`} onPress={onDelete}>
        Delete
      </Button>
    </li>
  );
}
