import { Id } from "@perceptum/core/names";
import { takenIds } from "@perceptum/core/project";
import { useEdit, useProject } from "../session/project";
import { cellChosen } from "../state/act";
import { useAppDispatch, useAppSelector } from "../state/store";
import { Button, QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Num } from "../ui/layout";
import { type OwnNames as Kind, renameOwn, usesOfOwn, withBehaviour } from "./behaviourEdit";

const SINGULAR: Record<Kind, string> = { counters: "counter", lists: "list", routines: "routine" };

/** The counters, lists or routines of the behaviour: named anew, opened, deleted when nothing uses them, added. */
export function OwnNames({ kind }: { kind: Kind }) {
  const project = useProject();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const { behaviour } = project;
  const one = SINGULAR[kind];
  const names = kind === "routines" ? behaviour.routines.map((r) => r.id) : behaviour[kind];

  const problemOf = (name: string, own?: string) => {
    const checked = Id.safeParse(name);
    if (!checked.success) return `“${name}” cannot name a ${one}: ${checked.error.issues[0].message}.`;
    return name !== own && takenIds(project).has(name) ? `“${name}” is already there.` : undefined;
  };
  const add = (text: string) => {
    const name = text.trim();
    const problem = problemOf(name);
    if (problem !== undefined) return problem;
    edit(`the ${one} ${name}`, (p) =>
      withBehaviour(
        p,
        kind === "routines"
          ? { ...p.behaviour, routines: [...p.behaviour.routines, { id: name, name, steps: [] }] }
          : { ...p.behaviour, [kind]: [...p.behaviour[kind], name] },
      ),
    );
    if (kind === "routines") dispatch(cellChosen({ routine: name }));
    return undefined;
  };
  return (
    <div style={{ display: "flex", gap: 8, alignItems: "center", flexWrap: "wrap" }}>
      {names.map((name) => (
        <OwnName key={name} kind={kind} name={name} problemOf={problemOf} />
      ))}
      <EntryField clearAfter width={130} label={`Add a ${one}`} text="" placeholder={`Add a ${one}`} take={add} />
    </div>
  );
}

function OwnName({
  kind,
  name,
  problemOf,
}: {
  kind: Kind;
  name: string;
  problemOf: (name: string, own: string) => string | undefined;
}) {
  const project = useProject();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const chosen = useAppSelector((state) => {
    const { cell } = state.act;
    return cell !== null && "routine" in cell && cell.routine === name;
  });
  const one = SINGULAR[kind];
  const uses = usesOfOwn(project, kind, name);
  const rename = (text: string) => {
    const next = text.trim();
    const problem = problemOf(next, name);
    if (problem !== undefined) return problem;
    edit(`naming the ${one} ${next}`, (p) => renameOwn(p, kind, name, next));
    if (chosen) dispatch(cellChosen({ routine: next }));
    return undefined;
  };
  const remove = () => {
    edit(`deleting the ${one} ${name}`, (p) => {
      const { behaviour } = p;
      return withBehaviour(
        p,
        kind === "routines"
          ? { ...behaviour, routines: behaviour.routines.filter((r) => r.id !== name) }
          : { ...behaviour, [kind]: behaviour[kind].filter((n) => n !== name) },
      );
    });
    if (chosen) dispatch(cellChosen(null));
  };
  return (
    <Num style={{ display: "inline-flex", alignItems: "center", gap: 2 }}>
      <EntryField
        width={Math.max(48, name.length * 8 + 14)}
        label={`Name of the ${one} ${name}`}
        text={name}
        take={rename}
      />
      {kind === "routines" && (
        <Button
          $small
          aria-label={`Steps of the routine ${name}`}
          onPress={() => dispatch(cellChosen({ routine: name }))}
        >
          steps
        </Button>
      )}
      <QuietButton
        isDisabled={uses.length > 0}
        aria-label={uses.length > 0 ? `The ${one} ${name} is in use` : `Delete the ${one} ${name}`}
        onPress={remove}
      >
        ×
      </QuietButton>
    </Num>
  );
}
