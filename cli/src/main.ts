#!/usr/bin/env node
import { perceptum } from "./perceptum";

// Who reads the output may have enough of it, or have no room for it: neither is a fault of this program.
process.stdout.on("error", (error: NodeJS.ErrnoException) => {
  if (error.code === "EPIPE") process.exit(process.exitCode ?? 0);
  process.stderr.write(`perceptum: the output cannot be written: ${error.message}\n`);
  process.exit(1);
});

process.exitCode = await perceptum(process.argv.slice(2));
