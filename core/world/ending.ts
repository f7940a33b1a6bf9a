export type Ending = "finished" | "left the course" | "time is over";
