import { freeId, type TargetId } from "@perceptum/core/names";
import { takenIds } from "@perceptum/core/project";
import { freeTargetCode, TARGET_CODE, type Target } from "@perceptum/core/rules";
import { useState } from "react";
import { useEdit, useProject } from "../hooks/project";
import { Button, Choice } from "../ui/Button";
import { Box, Wrong } from "../ui/EntryField";
import { LabelledRow } from "../ui/fields";
import { Info } from "../ui/Info";
import { Spacer } from "../ui/layout";
import { Sheet, SheetButtons } from "../ui/Sheet";
import { nameProblem } from "../ui/typed";
import { Chip } from "./Chip";
import { usesOf } from "./usesOf";

const KINDS = [
  { id: "tag", text: "Tag" },
  { id: "piece", text: "Piece" },
  { id: "card", text: "Card" },
  { id: "background", text: "Background" },
] as const;

/** Adds a target, or changes or deletes one. */
export function TargetSheet({ target, onClose }: { target: Target | null; onClose: () => void }) {
  const project = useProject();
  const edit = useEdit();
  const others = project.targets.filter((t) => t.id !== target?.id);
  const codeFor = (ofName: string, ofKind: Target["kind"]) =>
    freeTargetCode(
      ofName,
      ofKind,
      others.map((t) => t.code),
    );
  const [name, setName] = useState(target?.name ?? "");
  // A code that was made from the name goes on with it.
  const [code, setCode] = useState(() =>
    target === null || target.code === codeFor(target.name, target.kind) ? "" : target.code,
  );
  const [kind, setKind] = useState<Target["kind"]>(target?.kind ?? "tag");
  const [paint, setPaint] = useState(target?.paint ?? "#808080");
  const letters = code === "" ? codeFor(name, kind) : code;
  const uses = target === null ? [] : usesOf(project, target.id);
  const wrong = problemOf(others, name, letters, paint);

  const save = () => {
    const made = { name: name.trim(), code: letters, kind, paint };
    if (target === null) {
      const id = freeId<TargetId>(made.name, takenIds(project));
      edit("addTarget", { target: { id, ...made } });
    } else edit("changeTarget", { target: target.id, change: made });
    onClose();
  };
  return (
    <Sheet title={target === null ? "New target" : target.name} isOpen onClose={onClose}>
      <LabelledRow>
        Name
        <Box type="text" $wide value={name} onChange={(event) => setName(event.target.value)} />
      </LabelledRow>
      <LabelledRow>
        Code
        <Box
          type="text"
          value={code}
          placeholder={letters}
          maxLength={2}
          onChange={(event) => setCode(event.target.value)}
        />
      </LabelledRow>
      <span style={{ display: "flex", gap: 6, alignItems: "center" }}>
        <Choice label="Kind" value={kind} options={KINDS} onChange={setKind} />
        <Info word="kinds of target" />
      </span>
      <LabelledRow>
        Paint
        <span style={{ display: "flex", gap: 8, alignItems: "center" }}>
          <input
            type="color"
            value={isHex(paint) ? paint : "#808080"}
            onChange={(event) => setPaint(event.target.value)}
          />
          <Box
            aria-label="Paint as a number"
            value={paint}
            maxLength={7}
            style={{ width: 80 }}
            onChange={(event) => setPaint(event.target.value.trim().toLowerCase())}
          />
          <Chip
            target={{
              id: "new" as TargetId,
              name,
              code: letters.padEnd(2, "x").slice(0, 2),
              kind,
              paint: isHex(paint) ? paint : "#808080",
            }}
          />
        </span>
      </LabelledRow>
      {wrong !== undefined && name !== "" && <Wrong role="alert">{wrong}</Wrong>}
      {uses.length > 0 && <p>Used by {uses.join(", ")}; it cannot be deleted as long as it is.</p>}
      <SheetButtons>
        {target !== null && (
          <Button
            why={
              uses.length > 0
                ? "It is in use."
                : project.targets.length === 1 && "A project needs one target: its grounds are of it."
            }
            onPress={() => {
              edit("deleteTarget", { target: target.id });
              onClose();
            }}
          >
            Delete
          </Button>
        )}
        <Spacer />
        <Button onPress={onClose}>Cancel</Button>
        <Button $main why={wrong ?? false} onPress={save}>
          {target === null ? "Add" : "Save"}
        </Button>
      </SheetButtons>
    </Sheet>
  );
}

const isHex = (paint: string) => /^#[0-9a-f]{6}$/.test(paint);

function problemOf(others: readonly Target[], name: string, code: string, paint: string): string | undefined {
  const wrong = nameProblem(
    name,
    others.map((t) => t.name),
  );
  if (wrong !== undefined) return wrong;
  if (!isHex(paint)) return "The paint is # and six digits from 0 to f: red, green, blue, as in #e4573d.";
  if (!TARGET_CODE.test(code)) return "The code is two letters, or a letter and a digit.";
  const other = others.find((t) => t.code === code);
  return other && `${other.name} already has the code ${code}.`;
}
