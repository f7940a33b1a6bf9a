export { applyFix } from "@perceptum/core/findings";
