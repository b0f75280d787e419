// Leaves a record out of the design for now, without deleting it.
import { Switch } from "@mantine/core";
import { useDesign } from "../state/design";

export function OutSwitch({ path, name, out }: { path: string; name: string; out: boolean }) {
  const { commit } = useDesign.getState();
  return (
    <Switch
      size="sm"
      label="left out for now"
      checked={out}
      onChange={(e) => {
        const value = e.currentTarget.checked;
        void commit(`${name}: ${value ? "left out" : "back in"}`, [{ op: "add", path: `${path}/out`, value }]);
      }}
    />
  );
}
