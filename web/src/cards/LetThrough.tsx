// The boards that a rod or a member of a frame goes through or ends in, and a way to more of them.
import { Button } from "@mantine/core";
import { useState } from "react";
import { isPlate } from "../lib/document";
import { useDesign } from "../state/design";
import { operate } from "../state/operations";
import { words } from "../state/shape";
import { useView } from "../state/view";

export function LetThrough({ partKey }: { partKey: string }) {
  const doc = useDesign((s) => s.doc)!;
  const { select, setDraft } = useView.getState();
  const [fault, setFault] = useState("");
  const bores = Object.entries(doc.bores).filter(([, b]) => b.member === partKey);
  if (!Object.values(doc.parts).some((p) => isPlate(p))) return null;
  return (
    <section>
      <h3>
        <span>Boards round it</span>
        <Button size="compact-xs" onClick={async () => setFault(await operate({ operation: "let_through", member: partKey }))}>
          Let it through
        </Button>
      </h3>
      {fault && <div className="soft">{fault}</div>}
      {bores.map(([key, bore]) => (
        <button type="button" className="linkrow" key={key} onClick={() => select({ kind: "bore", key })}>
          <span className="grow clip">
            {Object.keys(bore.parts)
              .map((k) => words(doc.parts[k]?.name ?? k))
              .join(", ")}
          </span>
        </button>
      ))}
      {doc.parts[partKey]?.kind === "rod" && (
        <Button size="compact-xs" mt={6} onClick={() => setDraft({ kind: "crank", rod: partKey })}>
          Put a crank on it
        </Button>
      )}
    </section>
  );
}
