import type { ModeId } from "@perceptum/core/names";
import { useProject } from "../hooks/project";
import { useAppSelector } from "../hooks/store";

/** The mode that is worked on: that of the chosen cell, else the one that the robot starts in. */
export function useChosenMode(): ModeId {
  const cell = useAppSelector((state) => state.act.cell);
  const { start, modes } = useProject().behaviour;
  return cell !== null && "mode" in cell && modes.some((mode) => mode.id === cell.mode) ? cell.mode : start;
}
