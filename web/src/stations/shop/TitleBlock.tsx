// Which fields the title block has, and what a workshop puts in the place of one.
import { Checkbox } from "@mantine/core";
import type { Patch } from "../../api/types";
import { pointer } from "../../lib/document";
import { useDesign, useShown } from "../../state/design";
import { Committed } from "./Committed";

/** Fields that may be left out, as the block calls them; those that ISO 7200 asks for stay. */
const FIELDS = {
  checked: "Checked by",
  status: "Status",
  tolerance: "General tolerances",
  stock: "Stock",
  finished: "Finished size",
  mass: "Mass",
  pieces: "Pieces",
  grain: "Grain",
} as const;

export function TitleBlock() {
  const { doc } = useShown()!;
  const block = doc.papers?.block ?? {};
  const commit = (label: string, change: Patch[number]) => useDesign.getState().commit(label, [change]);
  return (
    <fieldset className="sections" aria-label="Title block">
      <b>Title block</b>
      <span className="soft">A field that is left out gives its room to the others, or to one of your own.</span>
      {Object.entries(FIELDS).map(([name, label]) => {
        const own = block[name as keyof typeof FIELDS];
        const at = pointer("papers", "block", name);
        const put = (value: { label: string; text: string }) =>
          commit(`${value.label || "Nothing"} in place of ${label.toLowerCase()}`, { op: "add", path: at, value });
        return (
          <div key={name}>
            <Checkbox
              label={label}
              checked={!own}
              onChange={(e) =>
                void (e.currentTarget.checked
                  ? commit(`${label} in the title block`, { op: "remove", path: at })
                  : put({ label: "", text: "" }))
              }
            />
            {own && (
              <div className="row" style={{ alignItems: "end" }}>
                <Committed
                  label="In its place"
                  placeholder="nothing"
                  maxLength={24}
                  value={own.label ?? ""}
                  onSave={(v) => put({ label: v, text: own.text ?? "" })}
                />
                <Committed
                  label="Words"
                  placeholder="filled in by hand"
                  maxLength={60}
                  value={own.text ?? ""}
                  onSave={(v) => put({ label: own.label ?? "", text: v })}
                />
              </div>
            )}
          </div>
        );
      })}
    </fieldset>
  );
}
