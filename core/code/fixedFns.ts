import { readFns } from "../tree";

/** How labels become what is seen. */
export const steadyingFns = readFns(`
fn among(eye: int, label: int, newest: int): int
  "How many of the newest labels of a sensor are a label."
  let found = 0
  for i in 0..min(newest, recent_count[eye])
    if recent[eye * RECENT + i] == label
      found += 1
  return found

fn steady(eye: int, label: int, t_ms: num)
  "Takes in one label of a sensor. What it sees is then in seen[eye]; departs[eye] and arrives[eye] say what happened, 0 for nothing."
  let keep = max(OF[eye], RELEASE[eye])
  let last = min(recent_count[eye], keep - 1)
  let i = last
  while i > 0
    recent[eye * RECENT + i] = recent[eye * RECENT + i - 1]
    i -= 1
  recent[eye * RECENT] = label
  recent_count[eye] = last + 1
  departs[eye] = 0
  arrives[eye] = 0
  let before = seen[eye]
  let now = before
  if label != 0 and label != before and among(eye, label, OF[eye]) >= HITS[eye]
    now = label
  elif before != 0 and recent_count[eye] >= RELEASE[eye] and among(eye, before, RELEASE[eye]) == 0
    now = 0
  if now == before
    return
  seen[eye] = now
  # Back soon enough, and nothing else between: the same visit.
  let rejoins = before == 0 and now == visited[eye] and t_ms - departed_at[eye] <= REJOIN_MS[eye]
  if before != 0
    departs[eye] = before
    departed_at[eye] = t_ms
  if now == 0
    return
  visited[eye] = now
  departed_at[eye] = nan
  if not rejoins
    arrives[eye] = now
    visit[eye] += 1

fn forget()
  "As it was at the start: nothing is seen, and nothing was."
  for eye in 0..STEADIED
    seen[eye] = 0
    recent_count[eye] = 0
    visit[eye] = 0
    visited[eye] = 0
    departed_at[eye] = nan
    departs[eye] = 0
    arrives[eye] = 0
`);
