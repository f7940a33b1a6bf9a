import { renew } from "@perceptum/core/project";
import type { Unsent } from "./kept";

/** Brings unsent work that a page of an earlier version kept into the shape of now; fetched only where there is some. */
export const renewUnsent = ({ document }: Unsent): void => renew(document);
