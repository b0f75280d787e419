// The files that go to the cutter, sheet by sheet or all at once, and the solids.
import { Button, SegmentedControl } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import { useDesign, useShown } from "../../state/design";
import { useFormats } from "../../state/forms";

export type Kerf = "compensated" | "nominal";

type Props = { base: string; kerf: Kerf; setKerf: (kerf: Kerf) => void };

export function CutFiles({ base, kerf, setKerf }: Props) {
  const { doc, built } = useShown()!;
  const nest = useDesign((s) => s.nest);
  const drawings = useFormats("drawing");
  const laid = built.plans
    .map((p) => ({ plan: p, layout: nest?.stocks.find((s) => s.stock === p.stock)?.layout }))
    .filter((x) => x.layout && x.layout.digest === x.plan.digest);
  return (
    <div className="paper">
      <div className="row" style={{ marginBottom: 10 }}>
        <h2 className="grow">Cut files</h2>
        <SegmentedControl
          value={kerf}
          onChange={(v) => setKerf(v as Kerf)}
          aria-label="Kerf in files"
          data={[
            { value: "compensated", label: "With kerf allowance" },
            { value: "nominal", label: "Nominal" },
          ]}
        />
        <Button component="a" variant="filled" leftSection={<IconDownload size={15} />} href={`${base}/all?kerf=${kerf}`}>
          Everything, one ZIP
        </Button>
      </div>
      <p className="soft" style={{ margin: "0 0 8px" }}>
        {kerf === "compensated"
          ? "The paths stand half the kerf off the nominal line; parts come out at their nominal size. Do not let the cutter's program compensate again."
          : "The lines are the parts' nominal sizes; the cutter's program still has to take half its kerf on each side."}{" "}
        Every file says which it is, in its name and on its note layer.
      </p>
      <div className="row" style={{ flexWrap: "wrap" }}>
        {laid.flatMap(({ plan, layout }) =>
          layout!.sheets.map((_, i) => (
            <span
              key={`${plan.stock}-${i}`}
              className="row"
              style={{ border: "1px solid var(--rule)", padding: "4px 8px", gap: 6 }}
            >
              {doc.stocks[plan.stock]?.name}, sheet {i + 1}
              {drawings.map(({ suffix }) => (
                <a key={suffix} href={`${base}/sheets/${plan.stock}/${i + 1}?to=${suffix}&kerf=${kerf}`}>
                  {suffix.toUpperCase()}
                </a>
              ))}
            </span>
          )),
        )}
        {laid.length < built.plans.length && <span className="soft">Some sheets are still being laid out.</span>}
      </div>
    </div>
  );
}

export function Solids({ base }: { base: string }) {
  const formats = useFormats("solid");
  const exact = formats
    .filter((f) => f.exact)
    .map((f) => f.suffix.toUpperCase())
    .join(", ");
  return (
    <div className="paper">
      <div className="row" style={{ flexWrap: "wrap" }}>
        <h2 className="grow">Solids</h2>
        {formats.map(({ suffix: to }) => (
          <Button key={to} component="a" leftSection={<IconDownload size={15} />} href={`${base}/solids?to=${to}`}>
            {to.toUpperCase()}
          </Button>
        ))}
      </div>
      <p className="soft" style={{ margin: "6px 0 0" }}>
        All parts in their places, at nominal size: {exact} {exact.includes(",") ? "are" : "is"} exact, the others are meshes.
        Single parts are in the cut list.
      </p>
    </div>
  );
}
