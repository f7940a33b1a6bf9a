import * as z from "zod";
import type { Condition } from "./condition";
import { CONDITIONS } from "./conditionTable";

/** The schema of a condition: whatever the table knows. */
export const ConditionSchema: z.ZodType<Condition> = z.lazy(() =>
  z.union(CONDITIONS.schemas as unknown as [z.ZodType<Condition>, z.ZodType<Condition>]),
);
