// Fits by stock on the chosen cutter: the four clearances, whether they were tried on a comb, and with which kerf.
import { Button, Menu } from "@mantine/core";
import type { FitOut, Form } from "../../api/types";
import { RecordTable } from "../../cards/RecordTable";
import { barsOf, type Display, freshKey, pointer, sheetsOf } from "../../lib/document";
import { length } from "../../lib/figures";
import { useDesign, useShown } from "../../state/design";
import { operate } from "../../state/operations";
import { TestPieces } from "./TestPieces";

export function FitTable({ form }: { form: Form }) {
  const doc = useDesign((s) => s.doc)!;
  const states = useShown()!.built.fits;
  const commit = useDesign((s) => s.commit);
  async function make(test: Test, stock: string) {
    const fault = await operate({ ...test, stock, cutter: doc.cutter });
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
      <ShaftFits />
      <TestPieces kinds={["comb", "round_comb", "kerf"]} />
    </>
  );
}

/** A test piece to make. */
type Test = { operation: "comb" } | { operation: "kerf_test" } | { operation: "round_comb"; shaft: string };

/** How shafts lie in holes, where that was tried. */
function ShaftFits() {
  const doc = useDesign((s) => s.doc)!;
  const rows = Object.entries(doc.fits)
    .filter(([, f]) => f.cutter === doc.cutter)
    .flatMap(([key, f]) => Object.entries(f.shafts ?? {}).map(([shaft, own]) => ({ key: `${key} ${shaft}`, f, shaft, own })));
  if (!rows.length) return null;
  return (
    <section aria-label="Shafts in holes" style={{ margin: "8px 0" }}>
      <h3>Shafts in holes: hole minus shaft</h3>
      {rows.map(({ key, f, shaft, own }) => (
        <div key={key} className="row" style={{ gap: 8 }}>
          <span className="grow">
            {doc.stocks[shaft]?.name ?? shaft} in {doc.stocks[f.stock]?.name}
          </span>
          <span>
            fixed <span className="figure">{own.fixed?.text}</span>
          </span>
          <span>
            running <span className="figure">{own.running?.text}</span>
          </span>
        </div>
      ))}
      <div className="soft" style={{ fontSize: 12 }}>
        Write &ldquo;fixed&rdquo; or &ldquo;running&rdquo; as the fit of a bore, and these stand in for it.
      </div>
    </section>
  );
}

/** Whether the fits in a stock were tried, and what to try them with. */
function Tried(props: { name: string; state?: FitOut; onMake: (test: Test) => void }) {
  const { name, state, onMake } = props;
  const doc = useDesign((s) => s.doc)!;
  const display = doc.display;
  const rounds = barsOf(doc).filter(([, s]) => s.shape === "round" && !s.wall);
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
          <Menu.Item onClick={() => onMake({ operation: "kerf_test" })}>Make a kerf test</Menu.Item>
          <Menu.Item onClick={() => onMake({ operation: "comb" })}>Make a test comb</Menu.Item>
          {rounds.map(([key, bar]) => (
            <Menu.Item key={key} onClick={() => onMake({ operation: "round_comb", shaft: key })}>
              Make a comb of holes for {bar.name}
            </Menu.Item>
          ))}
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
