// Fits by stock on the chosen cutter: the four clearances, whether they were tried on a comb, and with which kerf.
import { Button, Menu } from "@mantine/core";
import type { FitOut, Form } from "../../api/types";
import { RecordTable } from "../../cards/RecordTable";
import { type Display, freshKey, pointer, sheetsOf } from "../../lib/document";
import { length } from "../../lib/figures";
import { useDesign, useShown } from "../../state/design";
import { operate } from "../../state/operations";
import { TestPieces } from "./TestPieces";

export function FitTable({ form }: { form: Form }) {
  const doc = useDesign((s) => s.doc)!;
  const states = useShown()!.built.fits;
  const commit = useDesign((s) => s.commit);
  async function make(operation: "comb" | "kerf_test", stock: string) {
    const fault = await operate({ operation, stock, cutter: doc.cutter });
    if (fault) useDesign.setState({ fault });
  }
  const rows = sheetsOf(doc).map(([key, s]) => {
    const found = Object.entries(doc.fits).find(([, f]) => f.stock === key && f.cutter === doc.cutter);
    return {
      key,
      name: s.name,
      path: ["fits", found?.[0] ?? ""],
      record: found && { ...found[1] },
      instead: (
        <Button
          size="compact-xs"
          onClick={() =>
            void commit(`Fits for ${s.name}`, [
              { op: "add", path: pointer("fits", freshKey(doc.fits, key)), value: { stock: key, cutter: doc.cutter } },
            ])
          }
        >
          Give fits of its own
        </Button>
      ),
      last: <Tried name={s.name} state={states.find((f) => f.stock === key)} onMake={(test) => void make(test, key)} />,
    };
  });
  return (
    <>
      <h3 style={{ margin: "14px 0 2px" }}>{form.title}</h3>
      <p className="soft" style={{ margin: "0 0 4px", fontSize: 12.5 }}>
        Kerf first, then fit: cut the kerf test and set the kerf, then cut the comb and say which slot fits how.
      </p>
      <RecordTable form={{ ...form, title: "Fits" }} head="Stock" of="in" rows={rows} last="Tried" />
      <TestPieces kinds={["comb", "kerf"]} />
    </>
  );
}

/** Whether the fits in a stock were tried, and what to try them with. */
function Tried(props: { name: string; state?: FitOut; onMake: (operation: "comb" | "kerf_test") => void }) {
  const { name, state, onMake } = props;
  const display = useDesign((s) => s.doc)!.display;
  return (
    <div className="row" style={{ gap: 6 }}>
      <span className={`grow ${!state ? "soft" : state.state === "tested" ? "good" : "warn"}`} style={{ fontSize: 12 }}>
        {state ? tried(state, display) : "not in use"}
      </span>
      <Menu position="bottom-end">
        <Menu.Target>
          <Button size="compact-xs" aria-label={`Test pieces for ${name}`}>
            Test…
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => onMake("kerf_test")}>Make a kerf test</Menu.Item>
          <Menu.Item onClick={() => onMake("comb")}>Make a test comb</Menu.Item>
        </Menu.Dropdown>
      </Menu>
    </div>
  );
}

/** Whether fits were tried, in words. */
function tried(fit: FitOut, display: Display): string {
  switch (fit.state) {
    case "tested":
      return "on a comb";
    case "outdated":
      return `not since the kerf changed from ${length(fit.tested_kerf ?? 0, display)}`;
    case "edited":
      return "not since they were changed by hand";
    default:
      return "not yet";
  }
}
