import type { Session } from "../session";
import { HANDS } from "./Hands";
import { deskOf } from "./Job";
import type { MachineJob } from "./machineJobs";

/** Does a job from the list of projects on, by pointer, touch or keyboard. */
export async function doneBy({ page, screen, goTo }: Session, by: keyof typeof HANDS, job: MachineJob): Promise<void> {
  await goTo("/?list");
  await screen.see("button", "New project");
  await job.perform(deskOf(page, screen, HANDS[by](screen)).desk);
}
