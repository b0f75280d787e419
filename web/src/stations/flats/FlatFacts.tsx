// The line under a flat: what the pointer is over, or what the whole drawing shows.
import { figure, length } from "../../lib/figures";
import { useShown } from "../../state/design";
import type { Contour, Display } from "./flatSides";

type FactLineProps = { contour: Contour | null; kerf: number; asCut: boolean; measured: boolean; faces: string[] };

/** What the pointer is over, or what the whole drawing shows. */
export function FactLine({ contour: pointed, kerf, asCut: cut, measured, faces }: FactLineProps) {
  const { doc } = useShown()!;
  const display = doc.display;
  const tool = { laser: "Kerf", router: "Bit", saw: "Blade" }[doc.cutters[doc.cutter]?.kind ?? "laser"];
  return (
    <div className="hint" style={{ pointerEvents: "auto", right: 10 }} data-testid="flat-facts">
      {pointed ? (
        <Facts contour={pointed} kerf={kerf} display={display} />
      ) : (
        <>
          {cut
            ? `As cut: the ${tool === "Bit" ? "bit" : tool === "Blade" ? "blade" : "beam"}'s middle, ${length(kerf / 2, display)} off the nominal line; its width is drawn in. `
            : "Nominal: no kerf in these lines. "}
          {tool} {length(kerf, display)}. Cut in the order: marks, depths, inside, outside.
          {measured && ` ▲ Holes are measured from here${faces.length ? `, and in the edges from the ${faces.join(", ")}` : ""}.`}
        </>
      )}
    </div>
  );
}

function Facts({ contour, kerf, display }: { contour: Contour; kerf: number; display: Display }) {
  const [x0, y0, x1, y1] = contour.bounds;
  const size = contour.circle
    ? `⌀ ${length(contour.circle[2] * 2, display)}`
    : `${figure(x1 - x0, display)} × ${length(y1 - y0, display)}`;
  const deep = contour.depth ? `, ${length(contour.depth, display)} deep` : "";
  const words = {
    mark: "Engraved",
    inside: "Cut inside",
    outside: "Cut outside",
    depth: "Pocket",
    drill: "Left to a drill",
    note: "Worked to by hand",
    "bend-up": "▲ Bends up, along this line",
    "bend-down": "▼ Bends down, along this line",
  }[contour.operation];
  const online = contour.circle
    ? `⌀ ${length(contour.on_line[0], display)}`
    : `${figure(contour.on_line[0], display)} × ${length(contour.on_line[1], display)}`;
  return (
    <>
      <b>{words}</b>{" "}
      <span className="figure">
        {size}
        {deep}
      </span>
      {(contour.operation === "inside" || contour.operation === "outside") && kerf > 0 && (
        <>
          . If it were cut on the line it would measure <span className="figure">{online}</span>.
        </>
      )}
    </>
  );
}
