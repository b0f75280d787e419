// What makes a board a folded part: the flanges on its plate, their radius and corners.
import { Button } from "@mantine/core";
import { useState } from "react";
import { EntryField } from "../fields/EntryField";
import { ChoiceField } from "../fields/PlainField";
import { type Board, type Flange, ordered, pointer } from "../lib/document";
import { length } from "../lib/figures";
import { useDesign, useShown } from "../state/design";
import { words } from "../state/shape";
import { useView } from "../state/view";
import { CORNERS, edgesOf, flangeName, KINDS, newFlange } from "./flangeFields";

export function FoldingSection({ partKey, board }: { partKey: string; board: Board }) {
  const shown = useShown()!;
  const { commit } = useDesign.getState();
  const view = useView();
  const [kind, setKind] = useState<Flange["kind"] | "tab">("flange");
  const [edge, setEdge] = useState("");
  const [adding, setAdding] = useState(false);
  const folding = board.folding;
  const metal = shown.doc.stocks[board.stock]?.hatch === "metal";
  if (!folding && !metal) return null;
  const base = ["parts", partKey, "folding"];
  const edges = edgesOf(board);
  const taken = new Set(Object.values(folding?.flanges ?? {}).map((f) => `${f.on}/${f.edge}`));
  const chosen = edges.some((e) => e.value === edge) ? edge : (edges.find((e) => !taken.has(e.value)) ?? edges[0]).value;

  async function add() {
    const { key, value } = newFlange(
      folding,
      kind,
      chosen,
      kind === "hem" ? "8 mm" : kind === "line" ? "40 mm" : "25 mm",
      "8 mm",
    );
    const patch = folding
      ? [{ op: "add", path: pointer(...base, "flanges", key), value }]
      : [{ op: "add", path: pointer(...base), value: { flanges: { [key]: value } } }];
    if (
      await commit(
        `${board.name}: ${KINDS.find((k) => k.value === kind)!.label.split(":")[0]} on its ${words(value.edge)}`,
        patch,
      )
    ) {
      setAdding(false);
      view.select({ kind: "flange", part: partKey, key });
    }
  }

  return (
    <section>
      <h3>
        <span>Bends</span>
        <Button size="compact-xs" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          Add a flange
        </Button>
      </h3>
      {adding && (
        <>
          <ChoiceField label="What" value={kind} data={KINDS} onSave={(v) => setKind(v as Flange["kind"])} />
          <ChoiceField label="On" value={chosen} data={edges} onSave={setEdge} />
          <div className="row">
            <Button variant="filled" onClick={() => void add()}>
              Bend it up
            </Button>
            <Button onClick={() => setAdding(false)}>Cancel</Button>
          </div>
        </>
      )}
      {ordered(folding?.flanges ?? {}).map(([key, f]) => {
        const field = { profile: "legs/0/length", line: "at" }[f.kind as string] ?? "length";
        const value = shown.built.values[`${pointer(...base, "flanges", key)}/${field}`]?.value;
        const broken = shown.built.problems.some((p) => [`flange:${partKey}:${key}`, `bend:${partKey}:${key}`].includes(p.owner));
        return (
          <button
            type="button"
            className={`linkrow ${f.out ? "leftout" : ""}`}
            key={key}
            onClick={() => view.select({ kind: "flange", part: partKey, key })}
          >
            <span className="swatch" style={{ background: broken ? "var(--cut)" : "var(--joint)" }} />
            <span className="grow clip title">{words(flangeName(f))}</span>
            <span className={`figure ${broken ? "error" : "soft"}`}>
              {value === undefined ? "" : length(value, shown.doc.display)}
            </span>
          </button>
        );
      })}
      {folding && (
        <>
          <EntryField
            path={pointer(...base, "radius")}
            label="Inside radius"
            optional
            placeholder="as the stock says"
            edit={`${board.name}, inside radius`}
          />
          <ChoiceField
            label="Corners"
            value={folding.corner}
            data={CORNERS}
            onSave={(v) =>
              void commit(`${board.name}: corners ${v}`, [{ op: "add", path: pointer(...base, "corner"), value: v }])
            }
          />
          {folding.corner !== "open" && (
            <EntryField path={pointer(...base, "gap")} label="Gap in corners" edit={`${board.name}, gap in its corners`} />
          )}
          <EntryField
            path={pointer(...base, "rounding")}
            label="Round sharp corners"
            optional
            placeholder="left sharp"
            edit={`${board.name}, rounded corners`}
          />
        </>
      )}
    </section>
  );
}
