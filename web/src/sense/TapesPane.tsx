import { type Mark, notedWithin, type TapeHead, writeCsv } from "@perceptum/core/readings";
import { markOfEach } from "@perceptum/core/teaching";
import { useState } from "react";
import styled from "styled-components";
import { saveFile } from "../browser/saveFile";
import { useReadingsVersion, useSession } from "../hooks/context";
import { useProject, useTargets } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { LightSelect } from "../lights/LightSelect";
import { watchingChosen } from "../model/store/sense";
import { markChosen, playheadMoved, tapeChosen, targetChosen } from "../model/store/view";
import { sentence } from "../server/api";
import { Chip } from "../targets/Chip";
import { amount } from "../ui/amount";
import { Button, QuietButton } from "../ui/Button";
import { EntryField, Wrong } from "../ui/EntryField";
import { Dim, Empty, Head, Num, Spacer, Title } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { Select } from "../ui/Select";
import { seconds } from "../ui/seconds";
import { takingName } from "../ui/typed";
import { ImportButtons } from "./ImportButtons";
import { type TapeEdits, useTapeEdits } from "./useTapeEdits";

const MarkEditor = lazily(() => import("./MarkEditor").then((m) => m.MarkEditor));

const List = styled.ul`
  list-style: none;
  margin: 2px 0 0;
  padding: 0;
`;
const Row = styled(QuietButton)<{ $here: boolean }>`
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  width: 100%;
  text-align: left;
  padding: 3px 4px;
  color: ${({ theme }) => theme.ink};
  background: ${({ $here, theme }) => ($here ? theme.sheet : "none")};
  & > span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  & i { font-style: normal; color: ${({ theme }) => theme.ink2}; }
`;
const Tools = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin: 4px 0;
`;

/** The tape that is looked at, what can be done with it, and its marks; and how another one gets in. */
export function TapesPane() {
  const { tapes } = useProject();
  const chosen = useAppSelector((state) => state.view.tape);
  const edits = useTapeEdits();
  const tape = tapes.find((t) => t.id === chosen);
  return (
    <section aria-label="Tapes">
      <Head style={{ margin: "10px 0 2px" }}>
        <Title>Tapes</Title>
        <Dim>{tapes.length}</Dim>
        <Spacer />
        <ImportButtons />
      </Head>
      {tapes.length === 0 && (
        <Empty style={{ padding: "2px 0" }}>No tape yet. Record one on the bench, or import readings.</Empty>
      )}
      {tape && <ChosenTape key={tape.id} tape={tape} edits={edits} />}
      {tape && <MarksOf tape={tape} edits={edits} />}
    </section>
  );
}

function ChosenTape({ tape, edits }: { tape: TapeHead; edits: TapeEdits }) {
  const project = useProject();
  const dispatch = useAppDispatch();
  useReadingsVersion();
  const playhead = useAppSelector((state) => state.view.playheads[tape.id] ?? 0);
  const shown = useAppSelector((state) => state.view.windows[tape.id]);
  const session = useSession();
  const readings = session.readings.get(tape.id);
  const damage = session.readings.damaged.get(tape.id);
  const sensor = project.sensors.find((s) => s.id === tape.sensor);
  const others = project.tapes.filter((t) => t.id !== tape.id && t.sensor === tape.sensor);
  const [joining, setJoining] = useState(false);
  const rename = takingName((name) => edits.rename(tape, name));
  const save = () => {
    if (readings === undefined || sensor === undefined) return;
    const mark = markOfEach(session.blocks.of(readings, sensor), tape.marks);
    const text = writeCsv(readings, (i) => {
      const own = tape.marks[mark[i] - 1];
      return own && { label: own.target, light: own.light ?? "", height: own.height };
    });
    saveFile(`${tape.name}.csv`, text, "text/csv");
  };
  const n = readings?.t.length ?? 0;
  const lit = notedWithin(tape, shown);
  return (
    <>
      {project.tapes.length > 1 && (
        <Select
          label="Tape to look at"
          hideLabel
          value={tape.id as string}
          options={project.tapes.map((t) => ({ id: t.id as string, text: t.name }))}
          onChange={(id) => {
            dispatch(watchingChosen("tape"));
            dispatch(tapeChosen(id as TapeHead["id"]));
          }}
        />
      )}
      <div style={{ marginTop: 4 }}>
        <EntryField wide label="Name of the tape" text={tape.name} take={rename} />
      </div>
      {damage !== undefined && <Wrong role="alert">{sentence(damage)}</Wrong>}
      <Dim style={{ display: "block", fontSize: 11.5, padding: "3px 0" }}>
        {n} {(tape.frames === undefined ? "reading" : "frame") + (n === 1 ? "" : "s")} of {sensor?.name},{" "}
        {seconds(readings?.t.at(-1) ?? 0, 1)},{" "}
        {{ live: "live", import: "imported", run: "from a run", bench: "from the bench" }[tape.origin]}
      </Dim>
      {lit.length > 0 && (
        <LightSelect
          label={
            shown === undefined ? "Light of all its marks" : `Light of ${amount(lit.length, "mark")} in what is shown`
          }
          light={lit.some((m) => m.light !== lit[0].light) ? "several" : lit[0].light}
          onChange={(light) => edits.setLight(tape, light, shown)}
        />
      )}
      <Tools>
        <Button
          $small
          why={shown === undefined && "All of the tape is shown. Zoom into the part that is to stay."}
          onPress={() => shown && edits.trim(tape, shown.from, shown.to)}
        >
          Trim to what is shown
        </Button>
        <Button
          $small
          why={(!(playhead > 0) || n < 2) && "Move the playhead to where it is to be cut."}
          onPress={() => edits.cut(tape, playhead)}
        >
          Cut at the playhead
        </Button>
        <Button $small why={n === 0 && "The tape has no readings."} onPress={() => edits.duplicate(tape)}>
          Duplicate
        </Button>
        {joining ? (
          <Select
            label="Join with"
            hideLabel
            placeholder="Join with …"
            value={null}
            options={others.map((t) => ({ id: t.id as string, text: t.name }))}
            onChange={(id) => {
              setJoining(false);
              const next = others.find((t) => t.id === id);
              if (next) edits.join(tape, next, sensor?.periodMs ?? 20);
            }}
          />
        ) : (
          <Button
            $small
            why={others.length === 0 && "There is no other tape of this sensor."}
            onPress={() => setJoining(true)}
          >
            Join …
          </Button>
        )}
        {tape.frames === undefined && (
          <Button $small why={n === 0 && "The tape has no readings."} onPress={save}>
            Export CSV
          </Button>
        )}
        <Button $small onPress={() => edits.remove(tape)}>
          Delete
        </Button>
      </Tools>
    </>
  );
}

/** So many marks are listed, those around the chosen one; a longer tape is walked through in its lanes. */
const MOST_LISTED = 200;

function MarksOf({ tape, edits }: { tape: TapeHead; edits: TapeEdits }) {
  const { lights } = useProject();
  const targets = useTargets();
  const dispatch = useAppDispatch();
  const chosen = useAppSelector((state) => state.view.mark);
  const at = tape.marks.findIndex((mark) => mark.id === chosen);
  const first = Math.max(0, Math.min(at - MOST_LISTED / 2, tape.marks.length - MOST_LISTED));
  const last = Math.min(first + MOST_LISTED, tape.marks.length);
  const go = ({ id, from, to, target }: Mark) => {
    dispatch(watchingChosen("tape"));
    dispatch(targetChosen(target));
    dispatch(markChosen(id));
    dispatch(playheadMoved({ source: tape.id, t: (from + to) / 2 }));
  };
  return (
    <>
      <Title style={{ marginTop: 8 }}>
        Marked stretches
        {tape.marks.length > MOST_LISTED && `, ${first + 1} to ${last} of ${tape.marks.length}`}
      </Title>
      {tape.marks.length === 0 && (
        <Empty style={{ padding: "2px 0" }}>
          {tape.frames === undefined
            ? "Nothing is marked on this tape. Drag along its lane “truth” to mark a stretch."
            : "None. Boxes on frames teach; a stretch of the lane “truth” says that a target is to be seen in all of its frames."}
        </Empty>
      )}
      <List aria-label="Marked stretches">
        {tape.marks.slice(first, last).map((mark) => {
          const isChosen = mark.id === chosen;
          const target = targets.get(mark.target);
          const light = lights.find((l) => l.id === mark.light)?.name ?? "light not noted";
          const length = seconds(mark.to - mark.from, 1);
          return (
            <li key={mark.id}>
              <Row
                $here={isChosen}
                aria-expanded={isChosen}
                aria-label={`${target?.name}, ${light}, ${length}, at ${seconds(mark.from, 1)}`}
                onPress={() => (isChosen ? dispatch(markChosen(null)) : go(mark))}
              >
                <Chip target={target} />
                <span>
                  {target?.name}, <i>{light}</i>
                </span>{" "}
                <Num>{length}</Num>
              </Row>
              {isChosen && <MarkEditor tape={tape} mark={mark} edits={edits} />}
            </li>
          );
        })}
      </List>
    </>
  );
}
