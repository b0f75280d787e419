// Fits by stock on the chosen cutter: the four clearances, whether they were tried on a comb, and with which kerf.
import { Button, Menu } from "@mantine/core";
import type { FitOut } from "../../api/types";
import { operate } from "../../cards/edits";
import { EntryField } from "../../fields/EntryField";
import { type Display, freshKey, pointer, sheetsOf } from "../../lib/document";
import { length } from "../../lib/figures";
import { useDesign, useShown } from "../../state/design";
import { TestPieces } from "./TestPieces";

const NAMES = ["press", "snug", "slip", "loose"] as const;

export function FitTable() {
  const doc = useDesign((s) => s.doc)!;
  const states = useShown()!.built.fits;
  const commit = useDesign((s) => s.commit);
  async function make(operation: "comb" | "kerf_test", stock: string) {
    const fault = await operate({ operation, stock, cutter: doc.cutter });
    if (fault) useDesign.setState({ fault });
  }
  return (
    <>
      <h3 style={{ margin: "14px 0 2px" }}>Fits: slot minus tab, all of it</h3>
      <p className="soft" style={{ margin: "0 0 4px", fontSize: 12.5 }}>
        Kerf first, then fit: cut the kerf test and set the kerf, then cut the comb and say which slot fits how.
      </p>
      <table className="plain" aria-label="Fits">
        <thead>
          <tr>
            <th style={{ width: "25%" }}>Stock</th>
            {NAMES.map((n) => (
              <th key={n}>{n[0].toUpperCase() + n.slice(1)}</th>
            ))}
            <th style={{ width: "22%" }}>Tried</th>
          </tr>
        </thead>
        <tbody>
          {sheetsOf(doc).map(([key, s]) => {
            const found = Object.entries(doc.fits).find(([, f]) => f.stock === key && f.cutter === doc.cutter);
            const state = states.find((f) => f.stock === key);
            return (
              <tr key={key}>
                <td>{s.name}</td>
                {found ? (
                  NAMES.map((n) => (
                    <td key={n}>
                      <EntryField
                        path={pointer("fits", found[0], n)}
                        label={`${n} in ${s.name}`}
                        hideLabel
                        edit={`${s.name}, ${n}`}
                      />
                    </td>
                  ))
                ) : (
                  <td colSpan={4}>
                    <Button
                      size="compact-xs"
                      onClick={() =>
                        void commit(`Fits for ${s.name}`, [
                          {
                            op: "add",
                            path: pointer("fits", freshKey(doc.fits, key)),
                            value: { stock: key, cutter: doc.cutter },
                          },
                        ])
                      }
                    >
                      Give fits of its own
                    </Button>
                  </td>
                )}
                <td>
                  <div className="row" style={{ gap: 6 }}>
                    <span
                      className={`grow ${!state ? "soft" : state.state === "tested" ? "good" : "warn"}`}
                      style={{ fontSize: 12 }}
                    >
                      {state ? tried(state, doc.display) : "not in use"}
                    </span>
                    <Menu position="bottom-end">
                      <Menu.Target>
                        <Button size="compact-xs" aria-label={`Test pieces for ${s.name}`}>
                          Test…
                        </Button>
                      </Menu.Target>
                      <Menu.Dropdown>
                        <Menu.Item onClick={() => void make("kerf_test", key)}>Make a kerf test</Menu.Item>
                        <Menu.Item onClick={() => void make("comb", key)}>Make a test comb</Menu.Item>
                      </Menu.Dropdown>
                    </Menu>
                  </div>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <TestPieces kinds={["comb", "kerf"]} />
    </>
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
