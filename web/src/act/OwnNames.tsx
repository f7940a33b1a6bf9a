import { type OwnNames as Kind, OWN_NAMES } from "@perceptum/core/behaviour";
import { Id } from "@perceptum/core/names";
import { takenIds, tellUses } from "@perceptum/core/project";
import { useEdit, useProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { cellChosen } from "../model/store/act";
import { Button, QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Num } from "../ui/layout";

/** The counters, lists or routines of the behaviour: named anew, opened, deleted when nothing uses them, added. */
export function OwnNames({ kind }: { kind: Kind }) {
  const project = useProject();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const { behaviour } = project;
  const one = OWN_NAMES[kind];
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
    const wrong = edit("addOwnName", { kind, name });
    if (wrong === undefined && kind === "routines") dispatch(cellChosen({ routine: name }));
    return wrong;
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
  const one = OWN_NAMES[kind];
  const uses = tellUses(project, OWN_NAMES[kind], name);
  const rename = (text: string) => {
    const next = text.trim();
    const problem = problemOf(next, name);
    if (problem !== undefined) return problem;
    const wrong = edit("renameOwnName", { kind, name, to: next });
    if (wrong === undefined && chosen) dispatch(cellChosen({ routine: next }));
    return wrong;
  };
  const remove = () => {
    edit("deleteOwnName", { kind, name });
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
