import type { LightId } from "@perceptum/core/names";
import { useProject } from "../hooks/project";
import { Select } from "../ui/Select";

const NOT_NOTED = "none";

/** Chooses the light that something is noted in: one of the project's, or none. */
export function LightSelect(props: {
  label: string;
  hideLabel?: boolean;
  /** Undefined: none is noted; "several": not the same one everywhere. */
  light: LightId | "several" | undefined;
  onChange: (light: LightId | undefined) => void;
}) {
  const { label, hideLabel = false, light, onChange } = props;
  const { lights } = useProject();
  return (
    <Select
      label={label}
      hideLabel={hideLabel}
      value={light === "several" ? null : ((light as string | undefined) ?? NOT_NOTED)}
      placeholder="several"
      options={[
        { id: NOT_NOTED, text: "not noted" },
        ...lights.map(({ id, name }) => ({ id: id as string, text: name })),
      ]}
      onChange={(id) => onChange(id === NOT_NOTED ? undefined : (id as LightId))}
    />
  );
}
