// Margins of their own at the four edges of a sheet, where clamps or a bent edge need them.
import { Button } from "@mantine/core";
import { useState } from "react";
import { EntryField } from "../../fields/EntryField";
import type { Doc } from "../../lib/document";

const EDGES = ["left", "right", "bottom", "top"] as const;

export function EdgeMargins({ doc }: { doc: Doc }) {
  const own = EDGES.filter((e) => doc.nest.edges?.[e]);
  const [open, setOpen] = useState(own.length > 0);
  if (!open)
    return (
      <div style={{ gridColumn: "1 / -1" }}>
        <Button size="compact-xs" variant="subtle" onClick={() => setOpen(true)}>
          A margin of its own for each edge
        </Button>
      </div>
    );
  return (
    <div style={{ gridColumn: "1 / -1", display: "grid", gridTemplateColumns: "repeat(4, minmax(0, 1fr))", gap: "0 18px" }}>
      {EDGES.map((e) => (
        <EntryField
          key={e}
          path={`/nest/edges/${e}`}
          label={`Margin ${e}`}
          optional
          placeholder="as Margin"
          edit={`Margin at the ${e} edge`}
        />
      ))}
    </div>
  );
}
