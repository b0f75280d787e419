// Two parts picked, then the joints that are possible there with a preview, and why the others are not.
import { Button, Select } from "@mantine/core";
import { useMemo, useState } from "react";
import type { PartOut } from "../api/types";
import { freshKey, nextOrder, pointer } from "../lib/document";
import { id } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { useOffers } from "../state/joints";
import { useView } from "../state/view";
import { JointFigure } from "./JointFigure";
import { useDraftFault, useTried } from "./useDraft";

/** Every board in every place that it has: a joint may be to a copy. */
function boards(parts: PartOut[]) {
  return parts
    .filter((p) => p.kind !== "item" && p.kind !== "rod")
    .map((p) => ({ value: p.key, label: p.path.replaceAll("_", " ") }));
}

export function JointDraft({ a, b }: { a?: string; b?: string }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const shown = useShown()!;
  const { setDraft, select } = useView.getState();
  const { offers, fault } = useOffers(a, b);
  const [picked, setPicked] = useState("");
  const chosen = offers.find((o) => `${o.kind} ${o.order}` === picked && !o.refused) ?? offers.find((o) => !o.refused) ?? null;
  const key = useMemo(() => freshKey(doc.joints, `${a ?? "a"}-${b ?? "b"}`), [doc.joints, a, b]);

  const possible = offers.some((o) => !o.refused);
  const ends = chosen?.order === "ba" ? [b, a] : [a, b];
  const patch =
    chosen && a && b
      ? [
          {
            op: "add",
            path: pointer("joints", key),
            value: { kind: chosen.kind, a: ends[0], b: ends[1], order: nextOrder(doc.joints) },
          },
        ]
      : null;
  useTried(patch);
  const problem = useDraftFault(pointer("joints", key), id.joint(key));
  const tried = shown.built.joints.find((j) => j.key === key);

  return (
    <>
      <h2>Join two parts</h2>
      <p className="soft" style={{ margin: "2px 0 10px" }}>
        {!a
          ? "Press the first part, in the picture or the list."
          : !b
            ? "Now press the second part."
            : "Choose how they are joined."}
      </p>
      <div className="row">
        <Select
          className="grow"
          aria-label="First part"
          placeholder="first part"
          value={a ?? null}
          data={boards(shown.built.parts).filter((x) => x.value !== b)}
          onChange={(v) => setDraft({ kind: "joint", a: v ?? undefined, b })}
        />
        <Select
          className="grow"
          aria-label="Second part"
          placeholder="second part"
          value={b ?? null}
          data={boards(shown.built.parts).filter((x) => x.value !== a)}
          onChange={(v) => setDraft({ kind: "joint", a, b: v ?? undefined })}
        />
      </div>
      {fault && <p className="error">{fault}</p>}
      <section>
        {offers && !possible && <p className="warn">These two cannot be joined as they stand.</p>}
        {offers
          .filter((o) => !o.refused)
          .map((o) => (
            <button
              key={o.kind + o.order}
              type="button"
              className="starter"
              aria-pressed={o === chosen}
              style={{ width: "100%", marginBottom: 5, padding: "6px 10px", justifyItems: "start", textAlign: "left", gap: 0 }}
              onClick={() => setPicked(`${o.kind} ${o.order}`)}
            >
              <b>{o.title.replaceAll("_", " ")}</b>
              {o.note && (
                <span className="warn" style={{ fontSize: 12 }}>
                  {o.note}
                </span>
              )}
            </button>
          ))}
        {offers.some((o) => o.refused) && (
          <details style={{ marginTop: 6 }} open={!possible}>
            <summary className="soft">{possible ? "Why not the others" : "Why not"}</summary>
            {[...new Set(offers.filter((o) => o.refused).map((o) => o.refused))].map((reason) => (
              <div key={reason} style={{ margin: "6px 0", fontSize: 12.5 }}>
                <div className="soft">
                  {offers
                    .filter((o) => o.refused === reason)
                    .map((o) => o.title.replaceAll("_", " "))
                    .join("; ")}
                </div>
                <div>Not here: {reason}.</div>
              </div>
            ))}
          </details>
        )}
      </section>
      {tried && !tried.refused && <JointFigure joint={tried} doc={shown.doc} />}
      {problem && chosen && <p className="error">{problem.message}</p>}
      <div className="row" style={{ marginTop: 12 }}>
        <Button
          variant="filled"
          disabled={!patch}
          onClick={() => {
            if (patch && chosen) void commit(chosen.title, patch).then((fine) => fine && select({ kind: "joint", key }));
          }}
        >
          Join them
        </Button>
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </>
  );
}
