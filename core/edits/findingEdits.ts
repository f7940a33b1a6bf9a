import * as z from "zod";
import { applyFix, asideOf, type Finding, FixChange } from "../findings";
import type { ProjectDocument } from "../project";
import { applyChange, Change } from "../rules";
import { editKind } from "./editKind";

const Title = z.string().max(400);

/** The fix that a finding offers, made. */
export const mend = editKind(
  { title: Title, change: FixChange },
  {
    words: ({ title }) => `“${title}” mended`,
    apply: (project, { change }) => applyFix(project, change),
  },
);

/** The bound, or the reject distance, by which a reading would have another label. */
export const makeItSo = editKind(
  { label: z.string().max(80), change: Change },
  {
    words: ({ label }) => `reading made ${label}`,
    apply: (project, { change }) => applyChange(project, change),
  },
);

const othersAside = ({ putAside = [] }: ProjectDocument, finding: string) =>
  putAside.filter((aside) => aside.finding !== finding);

/** A finding as far as it is known by it. */
const Known = z.looseObject({
  code: z.string(),
  title: Title,
  sentence: z.string(),
  place: z.looseObject({ stage: z.string() }),
});
const asKnown = (finding: z.infer<typeof Known>) => asideOf(finding as unknown as Finding);

export const putFindingAside = editKind(
  { finding: Known },
  {
    words: ({ finding }) => `“${finding.title}” put aside`,
    apply(project, { finding }) {
      const aside = asKnown(finding);
      return { ...project, putAside: [...othersAside(project, aside.finding), aside] };
    },
  },
);

export const takeFindingBack = editKind(
  { finding: Known },
  {
    words: ({ finding }) => `“${finding.title}” taken back`,
    apply(project, { finding }) {
      const { putAside: _, ...rest } = project;
      const left = othersAside(project, asKnown(finding).finding);
      return left.length === 0 ? rest : { ...rest, putAside: left };
    },
  },
);
