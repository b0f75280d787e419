// The shortcuts in one list, the history, and the choice between two values when edits clash.
import { Button, Modal } from "@mantine/core";
import { useState } from "react";
import { at } from "../lib/document";
import { useDesign } from "../state/design";
import { useHistory } from "../state/history";
import { COMMANDS, type Command, clashOf, keyOf, pressed, useKeys } from "../state/keys";
import { useView } from "../state/view";

export function Dialogs() {
  const dialog = useView((s) => s.dialog);
  const close = () => useView.getState().setDialog("");
  return (
    <>
      <Modal opened={dialog === "keys"} onClose={close} title="Shortcuts" size="md">
        {dialog === "keys" && <Keys />}
      </Modal>
      <Modal opened={dialog === "history"} onClose={close} title="History" size="lg">
        {dialog === "history" && <History />}
      </Modal>
      <ClashDialog />
    </>
  );
}

function Keys() {
  const { own, set, reset } = useKeys();
  const [asking, setAsking] = useState<Command | null>(null);
  const [clash, setClash] = useState("");
  return (
    <>
      <p className="soft" style={{ marginTop: 0 }}>
        Each letter stands for a word of ours. Press a key's button, then the key you would rather have; yours stay yours.
      </p>
      <table className="plain">
        <tbody>
          {(Object.keys(COMMANDS) as Command[]).map((c) => (
            <tr key={c}>
              <td>
                {COMMANDS[c].words}
                {COMMANDS[c].from && <span className="soft"> · {COMMANDS[c].from}</span>}
              </td>
              <td className="num">
                <Button
                  size="compact-xs"
                  variant={asking === c ? "filled" : "default"}
                  aria-label={`Key for: ${COMMANDS[c].words}: ${asking === c ? "press a key…" : keyOf(c, own)}`}
                  onClick={() => {
                    setAsking(c);
                    setClash("");
                  }}
                  onKeyDown={(e) => {
                    if (asking !== c || ["Shift", "Control", "Alt", "Meta"].includes(e.key)) return;
                    e.preventDefault();
                    e.stopPropagation();
                    const key = pressed(e);
                    const taken = clashOf(c, key, own);
                    if (taken)
                      setClash(`${key} is already the key for “${COMMANDS[taken].words}”. Give that one another key first.`);
                    else {
                      set(c, key);
                      setClash("");
                    }
                    setAsking(null);
                  }}
                >
                  <span className="mono">{asking === c ? "press a key…" : keyOf(c, own)}</span>
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {clash && (
        <p className="error" role="alert">
          {clash}
        </p>
      )}
      <Button mt={10} onClick={reset}>
        All as they came
      </Button>
    </>
  );
}

function History() {
  const edits = useHistory();
  if (!edits.data) return <p className="soft">{edits.isError ? edits.error.message : "Fetching…"}</p>;
  if (!edits.data.length) return <p className="soft">Nothing has been changed yet.</p>;
  const state = { done: "", undone: "undone", dropped: "undone, then passed over" } as Record<string, string>;
  return (
    <table className="plain">
      <thead>
        <tr>
          <th className="num">Rev.</th>
          <th>Edit</th>
          <th>By</th>
          <th>When</th>
        </tr>
      </thead>
      <tbody>
        {[...edits.data].reverse().map((e) => (
          <tr key={e.revision} style={{ opacity: e.state === "done" ? 1 : 0.6 }}>
            <td className="num figure">{e.revision}</td>
            <td>
              {e.kind === "undo" && <b>Undo </b>}
              {e.kind === "redo" && <b>Redo </b>}
              {e.label} <span className="soft">{e.kind === "edit" ? state[e.state] : ""}</span>
            </td>
            <td>{e.author}</td>
            <td className="figure">
              {new Date(e.at).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" })}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function ClashDialog() {
  const clash = useDesign((s) => s.clash);
  const doc = useDesign((s) => s.doc);
  const settle = useDesign((s) => s.settle);
  if (!clash || !doc) return null;
  const show = (value: unknown) =>
    value && typeof value === "object" && "text" in value ? String((value as { text: string }).text) : JSON.stringify(value);
  return (
    <Modal opened onClose={() => void settle(false)} title="Changed elsewhere meanwhile">
      <p style={{ marginTop: 0 }}>While you were working on “{clash.edit.label}”, the same entry was changed elsewhere.</p>
      <table className="plain">
        <thead>
          <tr>
            <th>Yours</th>
            <th>The one that is there now</th>
          </tr>
        </thead>
        <tbody>
          {clash.edit.patch.map((op, i) => (
            <tr key={i}>
              <td className="mono">{op.op === "remove" ? "removed" : show(op.value)}</td>
              <td className="mono">{show(at(doc, String(op.path))) ?? "removed"}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="row" style={{ marginTop: 14, justifyContent: "flex-end" }}>
        <Button onClick={() => void settle(false)}>Keep the one that is there</Button>
        <Button variant="filled" onClick={() => void settle(true)}>
          Take mine
        </Button>
      </div>
    </Modal>
  );
}
