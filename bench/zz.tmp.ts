import { benchRun } from "./run";
import { table } from "./table";

console.log(table(benchRun()));
