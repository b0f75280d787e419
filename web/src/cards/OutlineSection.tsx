// The outline of a board: a rectangle, or disc, ring, link, one taken over from a drawing, or traced from a neighbour.
import { Button, FileButton } from "@mantine/core";
import { useState } from "react";
import { ApiError, api, got } from "../api/client";
import type { Patch } from "../api/types";
import { EntryField } from "../fields/EntryField";
import { ChoiceField } from "../fields/PlainField";
import { type Axis, FACES, FRAME, isPlate, type PlatePart, pointer } from "../lib/document";
import { fresh, useDesign } from "../state/design";
import { words } from "../state/shape";

const KINDS = [
  { value: "rectangle", label: "rectangle" },
  { value: "disc", label: "disc" },
  { value: "ring", label: "ring" },
  { value: "link", label: "link: two circles and their tangents" },
  { value: "traced", label: "traced from a neighbour" },
  { value: "drawn", label: "from a drawing (DXF, SVG)" },
];

const upper = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);

export function OutlineSection({ partKey, board }: { partKey: string; board: PlatePart }) {
  const doc = useDesign((s) => s.doc)!;
  const id = useDesign((s) => s.id);
  const { commit } = useDesign.getState();
  const [fault, setFault] = useState("");
  const [wanted, setWanted] = useState("");
  const base = ["parts", partKey, "outline"];
  const kind = wanted || board.outline?.kind || "rectangle";
  const entry = fresh;
  const values = useDesign((s) => s.head)!.values;
  const reach = (axis: Axis) =>
    (values[pointer("parts", partKey, "spans", axis, "high")]?.value ?? 0) -
    (values[pointer("parts", partKey, "spans", axis, "low")]?.value ?? 0);
  const frame = FRAME[board.plane];
  const ends = FACES[reach(frame.u) >= reach(frame.v) ? frame.u : frame.v]; // a link lies along its longer side
  const others = Object.entries(doc.parts).filter(([k, p]) => isPlate(p) && k !== partKey) as [string, PlatePart][];

  function choose(next: string) {
    setFault("");
    setWanted("");
    if (next === "drawn") {
      setWanted("drawn");
      return;
    }
    const first = others.find(([, p]) => p.plane === board.plane) ?? others[0];
    const value: Record<string, unknown> | null =
      next === "disc"
        ? { kind: "disc" }
        : next === "ring"
          ? { kind: "ring", inner: entry("40 mm") }
          : next === "link"
            ? { kind: "link", bore_low: entry("8 mm"), bore_high: entry("8 mm") }
            : next === "traced" && first
              ? { kind: "traced", part: first[0], offset: entry("0") }
              : null;
    if (next === "traced" && !first) {
      setFault("There is no other board to trace.");
      return;
    }
    void commit(`${board.name}: ${next}`, [
      value ? { op: "add", path: pointer(...base), value } : { op: "remove", path: pointer(...base) },
    ]);
  }

  async function read(file: File | null) {
    if (!file) return;
    const form = new FormData();
    form.append("file", file);
    try {
      const found = await got(
        api.POST("/api/designs/{design_id}/outline", {
          params: { path: { design_id: id } },
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        }),
      );
      const frame = FRAME[board.plane];
      const low = (axis: "x" | "y" | "z") => board.spans[axis]!.low;
      const patch: Patch = [
        { op: "add", path: pointer(...base), value: found.outline },
        ...(
          [
            [frame.u, found.width],
            [frame.v, found.height],
          ] as const
        ).map(([axis, size]) => ({
          op: "replace",
          path: pointer("parts", partKey, "spans", axis, "high"),
          value: { text: `${low(axis).text} + ${size} mm`, unit: low(axis).unit },
        })),
      ];
      if (await commit(`${board.name}: outline from ${file.name}`, patch)) setWanted("");
    } catch (error) {
      setFault(error instanceof ApiError || error instanceof Error ? error.message : String(error));
    }
  }

  return (
    <section>
      <h3>Outline</h3>
      <ChoiceField label="Shape" value={kind} data={KINDS} onSave={choose} />
      {board.outline?.kind === "ring" && (
        <EntryField path={pointer(...base, "inner")} label="Opening, diameter" edit={`${board.name}, opening`} />
      )}
      {board.outline?.kind === "link" &&
        [
          ["low", `${upper(ends[0])} end, diameter`, "as wide as it is"],
          ["high", `${upper(ends[1])} end, diameter`, "as wide as it is"],
          ["bore_low", `Bore in the ${ends[0]} end`, "none"],
          ["bore_high", `Bore in the ${ends[1]} end`, "none"],
        ].map(([field, label, placeholder]) => (
          <EntryField
            key={field}
            path={pointer(...base, field)}
            label={label}
            optional
            placeholder={placeholder}
            edit={`${board.name}, ${label.toLowerCase()}`}
          />
        ))}
      {board.outline?.kind === "traced" && (
        <>
          <ChoiceField
            label="Traced from"
            value={String(board.outline.part)}
            data={others.map(([value, p]) => ({ value, label: words(p.name) }))}
            onSave={(v) =>
              void commit(`${board.name}: traced from ${doc.parts[v].name}`, [
                { op: "replace", path: pointer(...base, "part"), value: v },
              ])
            }
          />
          <EntryField path={pointer(...base, "offset")} label="Outward by" edit={`${board.name}, offset of its outline`} />
        </>
      )}
      {kind === "drawn" && (
        <div className="row">
          <FileButton onChange={(f) => void read(f)} accept=".dxf,.svg">
            {(props) => <Button {...props}>{board.outline?.kind === "drawn" ? "Another drawing…" : "Choose a drawing…"}</Button>}
          </FileButton>
          <span className="soft clip">{String(board.outline?.source ?? "its largest closed outline, with its holes")}</span>
        </div>
      )}
      {fault && (
        <div className="error" role="alert">
          {fault}
        </div>
      )}
    </section>
  );
}
