import { benchJudge } from "./judge";
console.log(benchJudge().map(r=>r.what+": "+r.measured).join("\n"));
