// Issued sets: the papers as they left, kept as PDF under their revision.
import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { plural } from "../../lib/figures";
import { nextRevision } from "../../lib/paper";
import { useIssued } from "../../state/papers";

export function Issued({ base }: { base: string }) {
  const { issued, issue } = useIssued();
  const [typed, setTyped] = useState("");
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState("");
  const next = nextRevision(issued.map((s) => s.revision));

  async function go() {
    setBusy(true);
    const refused = await issue(typed.trim() || next);
    setBusy(false);
    setFault(refused);
    if (!refused) setTyped("");
  }

  return (
    <section aria-label="Issued sets">
      <h3 style={{ margin: "12px 0 4px" }}>Issued</h3>
      <div className="row" style={{ alignItems: "flex-end" }}>
        <TextInput
          label="Revision"
          value={typed}
          placeholder={next}
          maxLength={10}
          onChange={(e) => setTyped(e.currentTarget.value)}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === "Enter") void go();
          }}
        />
        <Button loading={busy} onClick={() => void go()}>
          Issue the set
        </Button>
      </div>
      {fault && (
        <div className="error" role="alert">
          {fault}
        </div>
      )}
      {issued.map((s) => (
        <div key={s.revision} className="row" style={{ marginTop: 6 }}>
          <a href={`${base}/papers/issued/${encodeURIComponent(s.revision)}`} aria-label={`Papers, revision ${s.revision}`}>
            {s.revision}
          </a>
          <span className="soft grow">
            {s.at.slice(0, 10)}, {plural(s.sheets, "page")}, {s.by}
          </span>
          <span className={s.stands ? "good" : "warn"}>{s.stands ? "as the design is" : "the design has changed since"}</span>
        </div>
      ))}
    </section>
  );
}
