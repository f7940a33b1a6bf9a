import { useEffect, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import { readProjectFile } from "../session/readProjectFile";
import { failureText, useAddProjectMutation, useProjectsQuery, useRemoveProjectMutation } from "../state/api";
import { closed } from "../state/document";
import { useAppDispatch } from "../state/store";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";
import { FileButton } from "../ui/FileButton";
import { Dim, Empty, Num, Spacer } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { Mark } from "./Mark";
import { Message } from "./Message";

const Orphans = lazily(() => import("./Orphans").then((m) => m.Orphans));
const DeleteSheet = lazily(() => import("./DeleteSheet").then((m) => m.DeleteSheet));

const Page = styled.main`
  max-width: 760px;
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
    align-items: center;
    gap: 14px;
    padding: 10px 14px;
    border-top: 1px solid ${({ theme }) => theme.ruleSoft};
  }
  & li:first-child { border-top: 0; }
  & a { font-weight: 650; color: inherit; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
`;

/** What an empty project is made of brings the schemas with it, so it comes only when it is asked for. */
const newProject = () => import("../session/newProject").then((m) => m.newProject());

/** The projects at the server. A new database opens its first demo at once. */
export function ProjectsPage() {
  const { data, error, isLoading } = useProjectsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [add] = useAddProjectMutation();
  const [remove] = useRemoveProjectMutation();
  const [deleting, setDeleting] = useState<{ id: string; name: string } | null>(null);
  const [wrong, setWrong] = useState<string>();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();

  const untouched = !search.has("list") && data?.every((p) => p.openedAt === null) ? data[0] : undefined;
  useEffect(() => {
    dispatch(closed());
    document.title = "Perceptum";
  }, [dispatch]);
  useEffect(() => {
    if (untouched) void navigate(`/p/${untouched.id}/sense`, { replace: true });
  }, [untouched, navigate]);

  if (error && data === undefined)
    return (
      <Message title="The projects cannot be read">
        {failureText(error)} Start the server with npm start, then load this page again.
      </Message>
    );
  if (isLoading || data === undefined || untouched) return <Message title="Opening …" />;

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
  return (
    <Page>
      <Top>
        <Mark />
        <h1>Projects</h1>
        <Spacer />
        <FileButton text="Open a project file" accept=".json" label="Project file" onFile={(file) => void take(file)} />
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
        <List>
          {data.map(({ id, name, revision, updatedAt }) => (
            <li key={id}>
              <Link to={`/p/${id}/sense`}>{name}</Link>
              <Spacer />
              <Num>
                <Dim>revision {revision}</Dim>
              </Num>
              <Dim>{new Date(updatedAt).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" })}</Dim>
              <Button $small aria-label={`Delete ${name}`} onPress={() => setDeleting({ id, name })}>
                Delete
              </Button>
            </li>
          ))}
        </List>
      )}
      {deleting !== null && (
        <DeleteSheet
          name={deleting.name}
          onKeep={() => setDeleting(null)}
          onDelete={() => {
            setWrong(undefined);
            remove(deleting.id)
              .unwrap()
              .catch((failure: unknown) => setWrong(`${deleting.name} was not deleted: ${failureText(failure)}`));
            setDeleting(null);
          }}
        />
      )}
    </Page>
  );
}
