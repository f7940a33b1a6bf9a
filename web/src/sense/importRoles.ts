import { type Channel, type ImportPlan, REPORT_KINDS } from "@perceptum/core/readings";

/** What a column can be. */
export type Role = "none" | "t_ms" | "t_s" | "t_us" | "label" | "light" | "height" | Channel;
const TIMES = { t_ms: 1, t_s: 1000, t_us: 0.001 } as const;

/** All that a column can be by a plan. */
export function rolesOf(plan: ImportPlan): { id: Role; text: string }[] {
  return [
    { id: "none", text: "not used" },
    { id: "t_ms", text: "time in ms" },
    { id: "t_s", text: "time in s" },
    { id: "t_us", text: "time in µs" },
    ...REPORT_KINDS.get(plan.report).channels.map((channel) => ({ id: channel as Role, text: `raw ${channel}` })),
    { id: "label", text: "label" },
    { id: "light", text: "light" },
    { id: "height", text: "height in mm" },
  ];
}

/** What a column is by a plan. */
export function roleOf(plan: ImportPlan, column: number): Role {
  if ("column" in plan.time && plan.time.column === column) {
    const { unitMs } = plan.time;
    return unitMs === 1000 ? "t_s" : unitMs === 0.001 ? "t_us" : "t_ms";
  }
  for (const role of ["label", "light", "height"] as const) if (plan[role] === column) return role;
  return (Object.entries(plan.channels).find(([, at]) => at === column)?.[0] as Channel | undefined) ?? "none";
}

/** The plan with a column given another role; a role that another column had is taken from it. */
export function withRole(plan: ImportPlan, column: number, role: Role, everyMs: number): ImportPlan {
  const { report, time, only } = plan;
  const next: ImportPlan = { report, channels: {}, time, ...(only && { only }) };
  for (const [channel, at] of Object.entries(plan.channels))
    if (at !== column && channel !== role) next.channels[channel as Channel] = at;
  for (const note of ["label", "light", "height"] as const)
    if (plan[note] !== undefined && plan[note] !== column && note !== role) next[note] = plan[note];
  if ("column" in plan.time && plan.time.column === column) next.time = { everyMs };
  if (role in TIMES) next.time = { column, unitMs: TIMES[role as keyof typeof TIMES] };
  else if (role === "label" || role === "light" || role === "height") next[role] = column;
  else if (role !== "none") next.channels[role as Channel] = column;
  return next;
}
