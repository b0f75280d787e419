// A new part of any kind: its key and first name, the form that it is drafted in, and the edit that adds it.
import { Button, TextInput } from "@mantine/core";
import { type ReactNode, useId, useMemo, useState } from "react";
import { freshKey, pointer } from "../lib/document";
import { useDesign } from "../state/design";
import { type Operation, useWorkedOut } from "../state/operations";
import { useView } from "../state/view";
import { useDraftFault, useTried } from "./useDraft";

export type NewPart = { key: string; base: string; name: string; setName: (name: string) => void };

/** A part that is not there yet; its key begins with a letter, its name is the first of `stem_1`, `stem_2` that is free. */
export function useNewPart(letter: string, stem: string): NewPart {
  const parts = useDesign((s) => s.doc)!.parts;
  const key = useMemo(() => freshKey(parts, `${letter}${Math.random().toString(36).slice(2, 8)}`), [parts, letter]);
  const [name, setName] = useState(() => {
    const taken = new Set(Object.values(parts).map((p) => p.name));
    for (let n = 1; ; n++) if (!taken.has(`${stem}_${n}`)) return `${stem}_${n}`;
  });
  return { key, base: pointer("parts", key), name, setName };
}

/** Tries a record of the part while it is drafted; what is wrong with it, and what adds it. Nothing is tried while there is none. */
export function useDraftedPart(part: NewPart, record: Record<string, unknown> | null) {
  const commit = useDesign((s) => s.commit);
  const select = useView((s) => s.select);
  const patch = record && [{ op: "add", path: part.base, value: { name: part.name, ...record } }];
  useTried(patch);
  const fault = useDraftFault(part.base);
  const add = () => {
    if (patch)
      void commit(`Add ${part.name}`, patch).then((fine) => {
        if (fine) select({ kind: "part", key: part.key });
      });
  };
  return { fault, add };
}

/** Tries an operation while it is drafted; its fault, and what makes it one edit and selects its first part. Nothing is tried while there is none. */
export function useDraftedOperation(body: Operation | null): { fault: string; add: (() => void) | null } {
  const { label, patch, fault, fresh } = useWorkedOut(body);
  const commit = useDesign((s) => s.commit);
  const select = useView((s) => s.select);
  useTried(patch);
  if (!patch || !fresh) return { fault, add: null };
  const key = String(patch[0].path ?? "").split("/")[2];
  return { fault, add: () => void commit(label, patch).then((fine) => fine && select({ kind: "part", key })) };
}

export function NameField({ part }: { part: NewPart }) {
  const id = useId();
  return (
    <div className="entry">
      <label htmlFor={id}>Name</label>
      <TextInput
        id={id}
        value={part.name}
        onChange={(e) => part.setName(e.target.value)}
        maxLength={40}
        onKeyDown={(e) => e.stopPropagation()}
      />
    </div>
  );
}

type FormProps = { title: string; words: string; fault: string; onAdd: (() => void) | null; children: ReactNode };

/** The form of a draft: its fields, what is wrong with it as a whole, and the button that adds it, which is off while nothing does. */
export function NewPartForm({ title, words, fault, onAdd, children }: FormProps) {
  const setDraft = useView((s) => s.setDraft);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onAdd?.();
      }}
    >
      <h2>{title}</h2>
      {children}
      {fault && (
        <p className="error" role="alert">
          {fault}
        </p>
      )}
      <div className="row" style={{ marginTop: 12 }}>
        {words && (
          <Button type="submit" variant="filled" disabled={!onAdd}>
            {words}
          </Button>
        )}
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </form>
  );
}
