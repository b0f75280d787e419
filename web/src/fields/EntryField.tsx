// An entry of the document, bound to its pointer: typing previews, Enter or leaving makes one edit, Escape takes it back.
import { ActionIcon, Menu } from "@mantine/core";
import { IconDotsVertical } from "@tabler/icons-react";
import { useEffect, useRef, useState } from "react";
import type { Patch, ProblemOut } from "../api/types";
import type { Axis, Entry } from "../lib/document";
import { entryAt, useDesign, type Waiting } from "../state/design";
import { operate } from "../state/operations";
import { EntryInput } from "./EntryInput";

type Props = {
  path: string;
  label: string;
  edit: string;
  kind?: string;
  axis?: Axis;
  /** names of fits may be typed: of joints, or also of shafts in holes */
  fits?: boolean | "shaft";
  optional?: boolean;
  placeholder?: string;
  hideLabel?: boolean;
};

export function EntryField({ path, label, edit, kind = "length", axis, fits, optional, placeholder, hideLabel }: Props) {
  const doc = useDesign((s) => s.doc)!;
  const head = useDesign((s) => s.head)!;
  const trying = useDesign((s) => s.trying);
  const tryFault = useDesign((s) => s.tryFault);
  const { preview, commit } = useDesign.getState();
  const kept = entryAt(doc, path);
  const empty: Entry = { text: "", unit: doc.unit };
  const [typed, setTyped] = useState<Entry | null>(null);
  const [refused, setRefused] = useState("");
  const latest = useRef<Entry | null>(null);
  /** what is on its way to the server: leaving the field right after Enter does not send it again */
  const sending = useRef("");
  // what is not kept yet, because the server cannot, still stands where it was typed
  const unkept = useDesign((s) => waitingAt(s.waiting, path));
  const entry = typed ?? unkept ?? kept ?? empty;

  // an edit from elsewhere shows as soon as nothing is being typed here
  useEffect(() => {
    if (!kept) return;
    if (latest.current && latest.current.text === kept.text && latest.current.unit === kept.unit) {
      latest.current = null;
      setTyped(null);
      setRefused("");
    }
  }, [kept]);

  function patchFor(next: Entry): Patch {
    if (optional && !next.text.trim()) return kept ? [{ op: "remove", path }] : [];
    return [{ op: "add", path, value: { text: next.text, unit: next.unit } }];
  }

  function change(next: Entry) {
    latest.current = next;
    setTyped(next);
    setRefused("");
    const patch = patchFor(next);
    preview(patch.length ? patch : null);
  }

  async function done(next: Entry, chosen = false) {
    if (chosen) change(next);
    if (!latest.current) return;
    if (next.text === (kept?.text ?? "") && next.unit === (kept?.unit ?? next.unit)) {
      cancel();
      return;
    }
    const text = `${next.text} ${next.unit}`;
    if (sending.current === text) return;
    sending.current = text;
    const asked = latest.current;
    const fine = await commit(`${edit}: ${next.text.trim() || "as it comes"}`, patchFor(next));
    sending.current = "";
    const fault = useDesign.getState().fault;
    // taken back or typed on meanwhile: the answer is about what no longer stands here
    if (latest.current !== asked) {
      if (fault) useDesign.getState().clearFault();
      // the answer took the preview with it
      if (latest.current) preview(patchFor(latest.current));
      return;
    }
    if (fine || useDesign.getState().offline) {
      latest.current = null;
      setTyped(null);
    } else if (fault) {
      setRefused(fault);
      useDesign.getState().clearFault();
      preview(patchFor(next)); // what is typed stays, and so do the ways to read it
    }
  }

  function cancel() {
    latest.current = null;
    setTyped(null);
    setRefused("");
    preview(null);
  }

  const built = typed && trying ? trying.built : head;
  const problem = built.problems.find(
    (p) =>
      p.entry === path && ["broken_expression", "cycle", "bad_value", "joint_value", "bad_copy", "bad_outline"].includes(p.code),
  );
  const live = typed
    ? tryFault?.entry?.startsWith(path) || (tryFault && !trying)
      ? tryFault?.message
      : problem?.message
    : problem?.message;
  const fault = refused || live || "";
  const result = built.values[path];

  return (
    <EntryInput
      label={label}
      entry={entry}
      doc={doc}
      values={built.values}
      result={result && !result.stale && (typed || !unkept) ? result : undefined}
      fault={fault}
      readings={fault ? readingsOf(problem) : []}
      kind={kind}
      axis={axis}
      fits={fits}
      placeholder={placeholder}
      hideLabel={hideLabel}
      onChange={change}
      onDone={(next, chosen) => void done(next, chosen)}
      onCancel={cancel}
      menu={
        kept && /[\p{L}_]\w*/u.test(kept.text.replace(/\b(mm|cm|m|in|ft|deg|rad|ga)\b/g, "")) && result && !result.stale ? (
          <EntryMenu path={path} />
        ) : undefined
      }
    />
  );
}

/** What an entry will be once all that waits is kept; undefined where nothing of it waits. */
export function waitingAt(waiting: Waiting[], path: string): Entry | undefined {
  const ops = waiting.flatMap((edit) => edit.patch).filter((op) => op.path === path && op.op !== "remove");
  return ops.at(-1)?.value as Entry | undefined;
}

/** The texts that an entry's problem offers in its place. */
export function readingsOf(problem?: ProblemOut): string[] {
  return (problem?.mends ?? []).flatMap((m) =>
    m.patch.filter((op) => op.path === `${problem?.entry}/text`).map((op) => String(op.value)),
  );
}

/** What it comes to stands in its place; what cannot be is said where the design's faults are. */
async function freeze(path: string): Promise<void> {
  const fault = await operate({ operation: "freeze", entry: path });
  if (fault) useDesign.setState({ fault });
}

function EntryMenu({ path }: { path: string }) {
  return (
    <Menu>
      <Menu.Target>
        <ActionIcon size="xs" aria-label="More for this entry" tabIndex={-1}>
          <IconDotsVertical size={13} />
        </ActionIcon>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item onClick={() => void freeze(path)}>Freeze at its present value</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
