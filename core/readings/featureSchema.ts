import * as z from "zod";
import { FEATURES } from "./feature";

/** The schema of a feature's name. */
export const FeatureSchema = z.enum(FEATURES);
