// The bends of a folded part: direction, angle, radius, allowance and deduction. A row lights its bend everywhere.
import { Button } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import type { FlatOut } from "../../api/types";
import { figure } from "../../lib/figures";
import { useDesign, useShown } from "../../state/design";
import { ownersOf, selectionOf, useView } from "../../state/view";

export function BendTable({ bends, part }: { bends: FlatOut["bends"]; part: string }) {
  const view = useView();
  const id = useDesign((s) => s.id);
  const display = useShown()!.doc.display;
  const lit = ownersOf(view.selection);
  const unit = display === "mm" ? "mm" : "in";
  return (
    <div className="bendtable" data-testid="bend-table">
      <div className="row">
        <span className="soft grow">Deductions refer to what the last column says.</span>
        <Button
          component="a"
          size="compact-xs"
          leftSection={<IconDownload size={14} />}
          href={`/api/designs/${id}/files/bend-table`}
        >
          Bend table, CSV
        </Button>
      </div>
      <table>
        <thead>
          <tr>
            <th>Bend</th>
            <th>Way</th>
            <th>Angle</th>
            <th>Radius, {unit}</th>
            <th>Length, {unit}</th>
            <th>Allowance, {unit}</th>
            <th>Deduction, {unit}</th>
            <th>Deduction to</th>
          </tr>
        </thead>
        <tbody>
          {bends.map((b) => (
            <tr
              key={b.number}
              className={lit.includes(b.owner) ? "lit" : ""}
              onClick={() => view.select(selectionOf(b.owner, part))}
            >
              <td>{b.number}</td>
              <td>{b.direction === "up" ? "▲ up" : "▼ down"}</td>
              <td>{Number(b.angle.toFixed(2))}°</td>
              <td>{figure(b.radius, display)}</td>
              <td>{figure(b.length, display)}</td>
              <td>{figure(b.allowance, display)}</td>
              <td>{figure(b.deduction, display)}</td>
              <td>{b.refers_to}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
