// A problem, said where it is: value, rule, source, the obvious mend as one press, and keeping it with a reason.
import { Button, Popover, Select, TextInput } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Patch, ProblemOut, Session } from "../api/types";
import { pointer } from "../lib/document";
import { isOf, readOwner } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { operate } from "../state/operations";
import { selectionOf, useView } from "../state/view";

export function ProblemList({ problems, empty }: { problems: ProblemOut[]; empty?: string }) {
  if (!problems.length) return empty ? <p className="good">{empty}</p> : null;
  return (
    <>
      {problems.map((p) => (
        <Problem key={p.id} problem={p} />
      ))}
    </>
  );
}

/** The problems of a card, under their own heading; nothing where there are none. */
export function ProblemSection({ problems }: { problems: ProblemOut[] }) {
  if (!problems.length) return null;
  return (
    <section>
      <h3>Problems</h3>
      <ProblemList problems={problems} />
    </section>
  );
}

export function Problem({ problem: p }: { problem: ProblemOut }) {
  const commit = useDesign((s) => s.commit);
  const view = useView();
  const user = useQueryClient().getQueryData<Session>(["session"])?.user ?? "";
  const [reason, setReason] = useState("");
  const [open, setOpen] = useState(false);
  const go = () => {
    if (p.owner && !isOf(p.owner, "size")) view.select(selectionOf(p.owner, p.part));
    else if (isOf(p.owner, "size")) view.select({ kind: "size", key: readOwner(p.owner).key });
    else if (p.part) view.select({ kind: "part", key: p.part });
  };
  return (
    <div className={`problem ${p.kept ? "kept" : p.severity}`} role="group" aria-label={p.message}>
      <button type="button" className="linkrow" style={{ padding: 0, fontWeight: 600 }} onClick={go}>
        {p.message}
      </button>
      <div className="rule">
        Rule: {p.rule}
        {p.source && ` · ${p.source}`}
      </div>
      {p.kept && (
        <div className="rule">
          Kept by {p.kept.by}: {p.kept.reason}
        </div>
      )}
      {p.reopened && <div className="rule warn">It was kept before; its value or its rule has changed since.</div>}
      <div className="mends">
        {p.mends.map((m) => (
          <Button
            key={m.label}
            size="compact-xs"
            color="leaf"
            variant="outline"
            onClick={() => void commit(m.label, m.patch as Patch)}
          >
            {m.label}
          </Button>
        ))}
        {p.lost && <Repoint lost={p.lost} />}
        {p.kept ? (
          <Button
            size="compact-xs"
            onClick={() => void commit("Open a kept problem again", [{ op: "remove", path: pointer("kept", p.id) }])}
          >
            Open it again
          </Button>
        ) : (
          <Popover opened={open} onChange={setOpen} withArrow trapFocus>
            <Popover.Target>
              <Button size="compact-xs" variant="subtle" onClick={() => setOpen(!open)}>
                Keep it
              </Button>
            </Popover.Target>
            <Popover.Dropdown>
              <form
                className="row"
                onSubmit={(e) => {
                  e.preventDefault();
                  setOpen(false);
                  void commit(`Keep: ${p.message}`, [
                    { op: "add", path: pointer("kept", p.id), value: { reason, by: user, value: p.value, rule: p.rule } },
                  ]);
                }}
              >
                <TextInput
                  aria-label="Reason"
                  placeholder="Why is it all right?"
                  value={reason}
                  onChange={(e) => setReason(e.target.value)}
                  maxLength={300}
                  required
                />
                <Button type="submit" disabled={!reason.trim()}>
                  Keep
                </Button>
              </form>
            </Popover.Dropdown>
          </Popover>
        )}
      </div>
    </div>
  );
}

/** A name that stands for nothing is pointed at something else, in every entry that uses it. */
function Repoint({ lost }: { lost: string }) {
  const shown = useShown()!;
  const [fault, setFault] = useState("");
  const handed = Object.values(shown.doc.copies).flatMap((c) => Object.values(c.names ?? {}));
  const names = [
    ...Object.values(shown.doc.parts).map((p) => p.name),
    ...handed,
    ...Object.values(shown.doc.sizes).map((s) => s.name),
  ].filter((n) => n !== lost);
  return (
    <>
      <Select
        size="xs"
        searchable
        selectFirstOptionOnChange
        aria-label={`Point ${lost} at`}
        placeholder={`point ${lost} at…`}
        data={[...new Set(names)].map((value) => ({ value, label: value.replaceAll("_", " ") }))}
        onChange={async (name) => name && setFault(await operate({ operation: "repoint", key: lost, name }))}
      />
      {fault && <div className="error">{fault}</div>}
    </>
  );
}
