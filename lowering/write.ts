import { writeFileSync } from "node:fs";
import { MADE, madeFile } from "./sources";

writeFileSync(MADE, madeFile());
