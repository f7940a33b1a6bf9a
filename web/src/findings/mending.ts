export { applyFix, putAside, takenBack } from "@perceptum/core/findings";
