import { writeFileSync } from "node:fs";
import { madeFile } from "./made";
import { MADE } from "./sources";

writeFileSync(MADE, madeFile());
