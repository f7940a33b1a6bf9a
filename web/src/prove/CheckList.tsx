import { nextId } from "@perceptum/core/names";
import { completions, tellProblem } from "@perceptum/core/phrases";
import {
  CHECK_KINDS,
  type Check,
  type Course,
  checkSentence,
  ENDING_WORDS,
  machineOf,
  nameIn,
  OUTCOME_WORDS,
  parseCheck,
  parseCheckFrom,
  shownCheck,
} from "@perceptum/core/world";
import styled from "styled-components";
import { usePhraseWords } from "../hooks/phraseWords";
import { useEdit, useProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { useGoTo } from "../hooks/useGoTo";
import type { LastRun } from "../model/judging/Mentor";
import { openSet } from "../model/store/view";
import { Button, QuietButton } from "../ui/Button";
import { Dim, Empty, Head, Num, Spacer, Title } from "../ui/layout";
import { PhraseField } from "../ui/PhraseField";
import { Select } from "../ui/Select";
import { SIGN_OF_OUTCOME, Sign } from "../ui/Sign";
import { Status } from "../ui/Status";
import { seconds } from "../ui/seconds";
import { unbroken } from "../ui/unbroken";
import { useFocusNext } from "../ui/useFocusNext";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Face = styled(QuietButton)`
  width: 100%;
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto;
  gap: 0 8px;
  padding: 5px 2px;
  border-bottom: 1px solid ${({ theme }) => theme.ruleSoft};
  border-radius: 0;
  font-size: 12px;
  text-align: left;
  color: ${({ theme }) => theme.ink};
  &[data-disabled] { color: ${({ theme }) => theme.ink}; }
`;

/** Why a check does not hold. */
const Why = styled.small`
  grid-column: 2;
  font-size: 11.5px;
  color: ${({ theme }) => theme.ink2};
  white-space: normal;
`;

/** What the run has to show, decided as the run goes on; pressing one goes to the time at which it was decided. */
export function CheckList({
  course,
  run,
  t,
  stale,
}: {
  course: Course;
  run: LastRun | null;
  t: number;
  stale: boolean;
}) {
  const goTo = useGoTo("run");
  const name = nameIn(useProject());
  const editing = useAppSelector((state) => state.view.open === "checks");
  const dispatch = useAppDispatch();
  const sameChecks = run !== null && JSON.stringify(run.trace.course.checks) === JSON.stringify(course.checks);
  const results = course.checks.map((check, i) => {
    const verdict = sameChecks ? run?.verdicts[i] : undefined;
    const decided = verdict !== undefined && t >= (verdict.t ?? run?.trace.endMs ?? 0);
    return { sentence: checkSentence(check, name), verdict, decided };
  });
  const holding = results.filter((r) => r.decided && r.verdict?.outcome === "holds").length;
  const ended = run !== null && t >= run.trace.endMs;
  return (
    <section aria-label="Checks">
      <Head>
        <Title>Checks</Title>
        <Button $small aria-pressed={editing} onPress={() => dispatch(openSet(editing ? null : "checks"))}>
          {editing ? "Done" : "Edit checks"}
        </Button>
        <Spacer />
        <Status label="Checks that hold">
          {results.length === 0
            ? "none"
            : run === null
              ? "not run"
              : `${holding} of ${results.length} hold${ended ? "" : " so far"}`}
        </Status>
      </Head>
      {results.length === 0 && !editing && (
        <Empty>This course has no checks yet. Press Edit checks and say what the run has to show.</Empty>
      )}
      {editing && <CheckEditor course={course} />}
      {!editing && (
        <List>
          {results.map(({ sentence, verdict, decided }) => {
            const outcome = verdict === undefined || !decided ? "open" : verdict.outcome;
            const why = decided ? verdict?.why : undefined;
            return (
              <li key={sentence}>
                <Face
                  isDisabled={verdict === undefined}
                  aria-label={`${outcome === "open" ? "open" : OUTCOME_WORDS[outcome]}: ${[sentence, decided ? verdict?.figure : "—", why].filter(Boolean).join(", ")}`}
                  onPress={() => goTo(verdict?.t ?? run?.trace.endMs ?? 0)}
                >
                  <Sign kind={outcome === "open" ? "open" : SIGN_OF_OUTCOME[outcome]} />
                  <span>{sentence}</span> <Num>{decided ? verdict?.figure : "—"}</Num>{" "}
                  {why !== undefined && <Why>{unbroken(why)}</Why>}
                </Face>
              </li>
            );
          })}
        </List>
      )}
      {run !== null && ended && (
        <Dim style={{ display: "block", marginTop: 5, fontSize: 12 }}>
          {ENDING_WORDS[run.trace.ending]} after {seconds(run.trace.endMs)}
          {rolling(run.trace)}.
        </Dim>
      )}
      {stale && (
        <p style={{ marginTop: 5, fontSize: 12, fontWeight: 650 }}>
          The project was changed since this run. Run it again to see what it does now.
        </p>
      )}
    </section>
  );
}

/** Slower than this a robot stands, in mm/s. */
const STANDS = 2;

/** How fast the robot still rolls when the run ends, in words. */
function rolling({ speed, ending }: LastRun["trace"]): string {
  const last = Math.abs(speed.at(-1) ?? 0);
  return ending === "finished" && last > STANDS ? `; the robot still rolls at ${(last / 10).toFixed(1)} cm/s` : "";
}

/** The checks as phrases: changed, ordered, removed, added by typing or from a menu. */
function CheckEditor({ course }: { course: Course }) {
  const project = useProject();
  const edit = useEdit();
  const words = usePhraseWords();
  const { names } = words;
  const focusNext = useFocusNext();
  const complete = (text: string) => completions(text, names, parseCheckFrom);
  const add = (check: Check) =>
    edit("addCheck", { course: course.id, check: { ...check, id: nextId("check", course.checks) } });
  const taking = (take: (check: Check) => string | undefined) => (text: string) => {
    const parsed = parseCheck(text.trim(), names);
    if ("problem" in parsed) return tellProblem(parsed.problem);
    const check = parsed.value;
    if ("endsIn" in check && !course.zones.some((z) => z.name === check.endsIn))
      return `This course has no zone “${check.endsIn}”.`;
    return take(check);
  };
  const of = (background: boolean) =>
    project.targets.filter((t) => (t.kind === "background") === background).map((t) => t.id);
  const known = {
    targets: of(false),
    backgrounds: of(true),
    counters: project.behaviour.counters,
    zones: course.zones.map((z) => z.name),
    lamps: project.robot.lamps,
    servos: project.robot.servos.map((servo) => servo.id),
    crates: (machineOf(project.robot).belt?.crates ?? []).map((crate) => crate.id),
  };
  const menu = CHECK_KINDS.filter((kind) => kind.courses?.includes(course.kind) ?? true).flatMap((kind) => {
    const fresh = kind.fresh(known);
    return fresh === undefined ? [] : [{ id: kind.key, text: kind.word, fresh }];
  });
  return (
    <>
      {course.checks.map((check, i) => (
        <div key={check.id} style={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr) auto", marginBottom: 3 }}>
          <PhraseField
            label={`Check ${i + 1}`}
            text={shownCheck(check, words)}
            complete={complete}
            take={taking((changed) => edit("replaceCheck", { course: course.id, check: { ...changed, id: check.id } }))}
          />
          <QuietButton
            aria-label={`Remove check ${i + 1}`}
            onPress={() => {
              edit("deleteCheck", { course: course.id, check: check.id });
              focusNext(`Remove check ${Math.min(i + 1, course.checks.length - 1)}`, "Add a check");
            }}
          >
            ×
          </QuietButton>
        </div>
      ))}
      <PhraseField
        clearAfter
        label="Add a check"
        text=""
        placeholder={`Type a check: answers every ${project.targets.find((t) => t.kind !== "background")?.name ?? "target"} once`}
        complete={complete}
        take={taking(add)}
      />
      <div style={{ marginTop: 5 }}>
        <Select
          label="Add a check of a kind"
          hideLabel
          value={null}
          placeholder="Or choose one …"
          options={menu}
          onChange={(key) => {
            const fresh = menu.find((m) => m.id === key)?.fresh;
            if (fresh) add(fresh);
          }}
        />
      </div>
    </>
  );
}
