// The drilling list: every hole that the cutter leaves to a drill, with the edge and face that it is measured from.
import { Button } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import { figure, unitOf } from "../../lib/figures";
import { useShown } from "../../state/design";
import { useDrilling } from "../../state/drilling";
import { useView } from "../../state/view";

export function DrillingTable({ base }: { base: string }) {
  const { doc } = useShown()!;
  const view = useView();
  const rows = useDrilling();
  if (!rows.length) return null;
  const f = (x: number) => figure(Number(x.toFixed(3)), doc.display);
  return (
    <div className="paper">
      <div className="row" style={{ marginBottom: 4 }}>
        <h2 className="grow">Drilling list</h2>
        <Button component="a" leftSection={<IconDownload size={15} />} href={`${base}/drilling-list`}>
          Drilling list, CSV
        </Button>
      </div>
      <p className="soft" style={{ margin: "0 0 6px" }}>
        Mating boards are measured from the same end and the same side, so that their holes meet. All in {unitOf(doc.display)}.
      </p>
      <table className="plain" aria-label="Drilling list">
        <thead>
          <tr>
            <th>Part</th>
            <th>Into its</th>
            <th className="num">⌀</th>
            <th className="num">Deep</th>
            <th className="num">Along</th>
            <th>from its</th>
            <th className="num">Across</th>
            <th>from its</th>
            <th>Leans</th>
            <th>For</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r, i) => (
            <tr
              key={`${r.key}${r.owner}${i}`}
              onClick={() => view.select({ kind: "part", key: r.key })}
              onMouseEnter={() => view.point(r.key)}
              onMouseLeave={() => view.point("")}
            >
              <td>
                <b>{r.part.replaceAll("_", " ")}</b>
              </td>
              <td>
                {r.side} {r.surface}
              </td>
              <td className="num figure">
                {f(r.diameter)}
                {r.countersink > 0 && ` sunk to ${f(r.countersink)}`}
              </td>
              <td className="num figure">{r.depth == null ? "through" : f(r.depth)}</td>
              <td className="num figure">{f(r.along)}</td>
              <td className="soft">{r.along_from}</td>
              <td className="num figure">{f(r.across)}</td>
              <td className="soft">{r.across_from}</td>
              <td>{r.lean ? `${f(r.lean)}° to the ${r.toward}` : ""}</td>
              <td className="soft">{r.joint.replaceAll("_", " ")}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
