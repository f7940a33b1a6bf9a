import { traceCsv, traceJsonLines } from "@perceptum/core/world";
import { saveFile } from "../browser/saveFile";
import type { LastRun } from "../model/judging/Mentor";
import { Select } from "../ui/Select";

const FORMS = {
  csv: { text: "CSV", make: traceCsv, type: "text/csv" },
  jsonl: { text: "JSON lines", make: traceJsonLines, type: "application/jsonl" },
} as const;

/** Every tick of the run as a file. */
export function SaveTrace({ run }: { run: LastRun | null }) {
  if (run === null) return null;
  const { course, seed } = run.trace;
  return (
    <Select
      label="Save the trace"
      hideLabel
      value={null}
      placeholder="Save trace …"
      options={Object.entries(FORMS).map(([id, { text }]) => ({ id: id as keyof typeof FORMS, text }))}
      onChange={(form) => saveFile(`${course.id}-seed-${seed}.${form}`, FORMS[form].make(run.trace), FORMS[form].type)}
    />
  );
}
