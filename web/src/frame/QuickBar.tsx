// The quick bar: type what you want ("finger joint front floor", "board", "width 430").
import { Modal } from "@mantine/core";
import { useMemo, useState } from "react";
import { said } from "../api/client";
import type { Form } from "../api/types";
import { type Doc, freshKey, isPlaced, nextOrder, pointer } from "../lib/document";
import { useDesign } from "../state/design";
import { useForms } from "../state/forms";
import { possibleJoints } from "../state/joints";
import { COMMANDS, type Command, keyOf, useKeys } from "../state/keys";
import { STATIONS } from "../state/stations";
import { useView } from "../state/view";
import { runCommand } from "./commands";

type Offer = { words: string; note: string; run: () => void };

export function QuickBar() {
  const opened = useView((s) => s.dialog === "quick");
  const setDialog = useView((s) => s.setDialog);
  return (
    <Modal
      opened={opened}
      onClose={() => setDialog("")}
      withCloseButton={false}
      yOffset={80}
      centered={false}
      size="lg"
      padding={0}
      aria-label="Quick bar"
    >
      {opened && <Bar close={() => setDialog("")} />}
    </Modal>
  );
}

function Bar({ close }: { close: () => void }) {
  const doc = useDesign((s) => s.doc)!;
  const own = useKeys((s) => s.own);
  const [text, setText] = useState("");
  const [chosen, setChosen] = useState(0);
  const kinds = useForms().joints;
  const offers = useMemo(() => find(doc, text, own, kinds), [doc, text, own, kinds]);
  const go = (offer: Offer | undefined) => {
    if (!offer) return;
    close();
    offer.run();
  };
  return (
    <div>
      <input
        autoFocus
        aria-label="What do you want?"
        placeholder="finger joint front floor · board · width 430 · flats left"
        value={text}
        style={{
          width: "100%",
          border: 0,
          outline: 0,
          padding: "13px 16px",
          fontSize: 16,
          background: "var(--paper-raised)",
          color: "var(--ink)",
          fontFamily: "inherit",
        }}
        onChange={(e) => {
          setText(e.target.value);
          setChosen(0);
        }}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === "Escape") close();
          if (e.key === "ArrowDown" || e.key === "ArrowUp") {
            e.preventDefault();
            setChosen((c) => (c + (e.key === "ArrowDown" ? 1 : offers.length - 1)) % Math.max(1, offers.length));
          }
          if (e.key === "Enter") go(offers[chosen]);
        }}
      />
      <div role="listbox" style={{ borderTop: "1px solid var(--rule)", maxHeight: 330, overflow: "auto" }}>
        {offers.map((o, i) => (
          <button
            type="button"
            key={o.words + o.note}
            role="option"
            aria-selected={i === chosen}
            className="linkrow"
            style={{ padding: "7px 16px", background: i === chosen ? "var(--marker-soft)" : undefined }}
            onMouseEnter={() => setChosen(i)}
            onClick={() => go(o)}
          >
            <span className="grow">{o.words}</span>
            <span className="soft">{o.note}</span>
          </button>
        ))}
        {!offers.length && (
          <div className="soft" style={{ padding: "10px 16px" }}>
            Nothing goes by that name here.
          </div>
        )}
      </div>
    </div>
  );
}

function find(doc: Doc, text: string, own: Partial<Record<Command, string>>, kinds: Form[]): Offer[] {
  const typed = text.trim().toLowerCase();
  const view = useView.getState();
  const { commit } = useDesign.getState();
  const words = typed.split(/\s+/).filter(Boolean);
  const offers: Offer[] = [];
  const named = (name: string) => name.toLowerCase().replaceAll("_", " ");
  const parts = Object.entries(doc.parts).filter(([, p]) => isPlaced(p));

  for (const { title: heading, kind } of kinds) {
    const title = heading.toLowerCase();
    const own = title.split(/[\s-]+/);
    if (!words.length || !own.some((w) => w.startsWith(words[0]) && w !== "and" && w !== "joint" && w !== "in")) continue;
    const rest = words.flatMap((w) => w.split("-")).filter((w) => !own.some((t) => t.startsWith(w)));
    const hits = rest.map(
      (w) => parts.find(([, p]) => p.name.toLowerCase() === w) ?? parts.find(([, p]) => p.name.toLowerCase().startsWith(w)),
    );
    if (hits.length === 2 && hits[0] && hits[1] && hits[0][0] !== hits[1][0]) {
      const [a, b] = [hits[0], hits[1]];
      offers.push({
        words: `${title} ${named(a[1].name)} ${named(b[1].name)}`,
        note: "join them",
        run: () => void join(kind, a[0], b[0]),
      });
    } else
      offers.push({
        words: `${title} …`,
        note: "name two parts, or pick them",
        run: () => view.setDraft({ kind: "joint", a: hits[0]?.[0] }),
      });
  }
  // "width 430": a size and its new value
  const size = Object.entries(doc.sizes).find(([, s]) => s.name.toLowerCase() === words[0]);
  const entry = text
    .trim()
    .slice(words[0]?.length ?? 0)
    .replace(/^\s*=?\s*/, "");
  if (size && entry)
    offers.unshift({
      words: `${size[1].name} = ${entry}`,
      note: "set the size",
      run: () =>
        void commit(`${size[1].name}: ${entry}`, [
          { op: "replace", path: pointer("sizes", size[0], "entry"), value: { text: entry, unit: doc.unit } },
        ]),
    });
  const fits = (words_: string) => words.every((w) => words_.toLowerCase().includes(w));
  for (const c of Object.keys(COMMANDS) as Command[])
    if (c !== "quick" && fits(COMMANDS[c].words))
      offers.push({ words: COMMANDS[c].words, note: keyOf(c, own), run: () => runCommand(c) });
  for (const [key, p] of Object.entries(doc.parts)) {
    if (fits(named(p.name))) offers.push({ words: named(p.name), note: "part", run: () => view.select({ kind: "part", key }) });
    for (const s of STATIONS)
      if (words.length > 1 && fits(`${s} ${named(p.name)}`))
        offers.push({
          words: `${s}: ${named(p.name)}`,
          note: "show it there",
          run: () => {
            view.go(s);
            view.select({ kind: "part", key });
          },
        });
  }
  for (const [key, s] of Object.entries(doc.sizes))
    if (!entry && fits(named(s.name)))
      offers.push({
        words: named(s.name),
        note: "size; type a value behind it",
        run: () => {
          view.go("sizes");
          view.select({ kind: "size", key });
        },
      });
  return offers.slice(0, 14);
}

async function join(kind: string, a: string, b: string): Promise<void> {
  const { doc, commit } = useDesign.getState();
  if (!doc) return;
  try {
    const offers = await possibleJoints(a, b);
    const offer = offers.find((o) => o.kind === kind && !o.refused);
    if (!offer) {
      useDesign.setState({ fault: offers.find((o) => o.kind === kind)?.refused ?? "That joint cannot be there." });
      return;
    }
    const [x, y] = offer.order === "ba" ? [b, a] : [a, b];
    const key = freshKey(doc.joints, `${x}-${y}`);
    if (
      await commit(offer.title, [
        { op: "add", path: pointer("joints", key), value: { kind, a: x, b: y, order: nextOrder(doc.joints) } },
      ])
    )
      useView.getState().select({ kind: "joint", key });
  } catch (error) {
    useDesign.setState({ fault: said(error) });
  }
}
