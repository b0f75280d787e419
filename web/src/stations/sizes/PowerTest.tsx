// Speed and power, tried on a piece of the stock: a grid of squares as a program, and the one that came out best taken over.
import { Button, NumberInput, SegmentedControl, Select } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import { useState } from "react";
import type { PowerTestOut } from "../../api/types";
import { type Cutter, pointer } from "../../lib/document";
import { clock } from "../../lib/program";
import { useDesign } from "../../state/design";
import { testQuery, usePowerTest } from "../../state/program";

type What = "cut" | "mark";
const FIELDS = { cut: ["cut_speed", "power"], mark: ["mark_speed", "mark_power"] } as const;

/** From well under to well over what is set now. */
function around(speed: number, power: number) {
  return {
    slow: Math.max(0.1, Math.round(speed * 5) / 10),
    fast: Math.round(speed * 15) / 10,
    weak: Math.max(5, Math.round(power * 0.4)),
    strong: Math.min(100, Math.max(10, Math.round(power * 1.2))),
  };
}

export function PowerTest({ cutter }: { cutter: Cutter }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const stocks = Object.keys(cutter.work).filter((k) => doc.stocks[k]);
  const [stock, setStock] = useState(stocks[0] ?? "");
  const [what, setWhat] = useState<What>("cut");
  const work = cutter.work[stock];
  const [own, setOwn] = useState<Partial<ReturnType<typeof around>>>({});
  const [speedField, powerField] = FIELDS[what];
  const range = { ...around(Number(work?.[speedField] ?? 10), Number(work?.[powerField] ?? 100)), ...own };
  const asked = { stock, what, ...range };
  const { test, fault } = usePowerTest(asked, Boolean(work));
  const id = useDesign((s) => s.id);
  if (!work) return null;
  const field = (name: keyof typeof range, label: string, suffix: string) => (
    <NumberInput
      label={label}
      suffix={suffix}
      value={range[name]}
      min={0}
      onChange={(v) => typeof v === "number" && setOwn({ ...own, [name]: v })}
      style={{ width: 118 }}
    />
  );
  const take = (speed: number, power: number) =>
    void commit(`${doc.stocks[stock].name}: ${what} at ${speed} mm/s, ${power} %`, [
      { op: "add", path: pointer("cutters", doc.cutter, "work", stock, speedField), value: speed },
      { op: "add", path: pointer("cutters", doc.cutter, "work", stock, powerField), value: power },
    ]);
  return (
    <section aria-label="Speed and power tried">
      <h3 style={{ margin: "14px 0 4px" }}>Speed and power tried</h3>
      <p className="soft" style={{ margin: "2px 0 6px" }}>
        Cut the piece from the stock, look at its squares, and press the one that came out best.
      </p>
      <div className="row" style={{ flexWrap: "wrap", alignItems: "flex-end" }}>
        <Select
          label="Tried in"
          value={stock}
          data={stocks.map((k) => ({ value: k, label: doc.stocks[k].name }))}
          onChange={(v) => {
            setStock(v ?? stock);
            setOwn({});
          }}
          allowDeselect={false}
        />
        <SegmentedControl
          aria-label="What is tried"
          value={what}
          data={[
            { value: "cut", label: "Cutting" },
            { value: "mark", label: "Marking" },
          ]}
          onChange={(v) => {
            setWhat(v as What);
            setOwn({});
          }}
        />
        {field("slow", "Slowest", " mm/s")}
        {field("fast", "Fastest", " mm/s")}
        {field("weak", "Weakest", " %")}
        {field("strong", "Strongest", " %")}
        <Button
          component="a"
          leftSection={<IconDownload size={14} />}
          data-disabled={!test || undefined}
          href={test ? `/api/designs/${id}/files/power-test/${stock}?${testQuery(asked)}` : undefined}
        >
          Program
        </Button>
      </div>
      {fault && (
        <p className="error" role="alert">
          {fault}.
        </p>
      )}
      {test && <Grid test={test} now={[Number(work[speedField]), Number(work[powerField])]} onTake={take} />}
    </section>
  );
}

type GridProps = { test: PowerTestOut; now: [number, number]; onTake: (speed: number, power: number) => void };

/** The squares as they lie on the piece: the strongest on top. */
function Grid({ test, now, onTake }: GridProps) {
  return (
    <>
      <table className="powergrid">
        <tbody>
          {[...test.powers].reverse().map((power) => (
            <tr key={power}>
              <th className="mono">{power} %</th>
              {test.speeds.map((speed) => (
                <td key={speed}>
                  <Button
                    size="compact-xs"
                    variant={speed === now[0] && power === now[1] ? "filled" : "default"}
                    aria-label={`Take ${speed} mm/s, ${power} %`}
                    onClick={() => onTake(speed, power)}
                  >
                    ▢
                  </Button>
                </td>
              ))}
            </tr>
          ))}
          <tr>
            <th />
            {test.speeds.map((speed) => (
              <th key={speed} className="mono">
                {speed}
              </th>
            ))}
            <th className="soft">mm/s</th>
          </tr>
        </tbody>
      </table>
      <p className="soft">
        {test.size} × {test.size} mm, {clock(test.seconds)}. Set now: {now[0]} mm/s, {now[1]} %.
      </p>
    </>
  );
}
