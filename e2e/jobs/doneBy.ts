import type { Session } from "../session";
import { HANDS } from "./Hands";
import { deskOf } from "./Job";
import type { MachineJob } from "./machineJobs";

/** Does a job from the list of projects on, by pointer, touch or keyboard. */
export async function doneBy(
  { page, screen, server }: Session,
  by: keyof typeof HANDS,
  job: MachineJob,
): Promise<void> {
  await page.goto(`${server.url}/?list`);
  await screen.see("button", "New project");
  await job.perform(deskOf(page, screen, HANDS[by](screen)).desk);
}
