// The quick bar: type what you want ("mirror front", "3 shelves between left and right", "width 430"), see what it would do, Enter does it.
import { Modal } from "@mantine/core";
import { useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import type { DesignRow, Form } from "../api/types";
import { useTried } from "../cards/useDraft";
import { type Doc, isPlaced } from "../lib/document";
import { plural } from "../lib/figures";
import { type Asked, DEEDS, type Deed, sentenceOf, type Things } from "../lib/sentence";
import { useDesign } from "../state/design";
import { listed, useDesigns } from "../state/designs";
import { type Done, useDone } from "../state/doing";
import { useForms } from "../state/forms";
import { COMMANDS, type Command, keyOf, useKeys } from "../state/keys";
import { STATIONS } from "../state/stations";
import { useView } from "../state/view";
import { runCommand } from "./commands";

type Offer = { key?: string; words: string; note: string; picture?: string; run: () => void };

export function QuickBar() {
  const opened = useView((s) => s.dialog === "quick");
  const setDialog = useView((s) => s.setDialog);
  return (
    <Modal.Root opened={opened} onClose={() => setDialog("")} yOffset={80} size="lg">
      {/* what a sentence would do is seen behind it */}
      <Modal.Overlay backgroundOpacity={0.12} />
      <Modal.Content aria-label="Quick bar">
        <Modal.Body p={0}>{opened && <Bar close={() => setDialog("")} />}</Modal.Body>
      </Modal.Content>
    </Modal.Root>
  );
}

function Bar({ close }: { close: () => void }) {
  const doc = useDesign((s) => s.doc)!;
  const own = useKeys((s) => s.own);
  const [text, setText] = useState("");
  const [chosen, setChosen] = useState(0);
  const kinds = useForms().joints;
  const navigate = useNavigate();
  const rows = useDesigns().data;
  const here = useDesign((s) => s.id);
  const sentence = useMemo(() => sentenceOf(text, thingsOf(doc, kinds)), [doc, text, kinds]);
  const { done, why, busy } = useDone(sentence.asked);
  useTried(done?.patch ?? null);
  const first = sentence.asked && !why ? doingOf(doc, sentence.asked, done) : null;
  const found = useMemo(() => find(doc, text, own, kinds), [doc, text, own, kinds]);
  const offers = [
    ...(first ? [first] : []),
    ...found,
    ...designOffers(rows ?? [], here, text, (to) => navigate(`/designs/${to}`)),
  ];
  const [waiting, setWaiting] = useState(false);
  const go = (offer: Offer | undefined) => {
    if (!offer) return;
    // Enter before it is worked out does it once it is
    if (busy && offer.key === FIRST) {
      setWaiting(true);
      return;
    }
    close();
    offer.run();
  };
  useEffect(() => {
    if (waiting && !busy) {
      setWaiting(false);
      if (first) go(first);
    }
  });
  return (
    <div>
      <input
        autoFocus
        aria-label="What do you want?"
        placeholder="mirror front · 3 shelves between left and right · groove floor left 6 deep · width 430"
        value={text}
        className="quickinput"
        onChange={(e) => {
          setText(e.target.value);
          setChosen(0);
          setWaiting(false);
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
      {sentence.asked && <Effect why={why} busy={busy} patched={Boolean(done?.patch)} />}
      <div
        role="listbox"
        aria-label="What can be done"
        style={{ borderTop: "1px solid var(--rule)", maxHeight: 330, overflow: "auto" }}
      >
        {offers.map((o, i) => (
          <button
            type="button"
            key={o.key ?? `${o.words} ${o.note}`}
            role="option"
            aria-selected={i === chosen}
            className="linkrow"
            style={{ padding: "7px 16px", background: i === chosen ? "var(--marker-soft)" : undefined }}
            onMouseEnter={() => setChosen(i)}
            onClick={() => go(o)}
          >
            {o.picture && <img src={o.picture} alt="" width={40} height={28} />}
            <span className="grow">{o.words}</span>
            <span className="soft">{o.note}</span>
          </button>
        ))}
        {!offers.length && !why && <NotUnderstood {...sentence} />}
      </div>
    </div>
  );
}

/** What a sentence would come to, as it is tried in the picture; or why it cannot be. */
function Effect({ why, busy, patched }: { why: string; busy: boolean; patched: boolean }) {
  const head = useDesign((s) => s.head);
  const trying = useDesign((s) => s.trying);
  const refused = useDesign((s) => s.tryFault);
  const fault = why || (patched && refused?.message);
  const [before, after] = [head?.parts.length ?? 0, trying?.built.parts.length ?? 0];
  const more = (trying?.built.problems.length ?? 0) - (head?.problems.length ?? 0);
  return (
    <p className={fault ? "error" : "soft"} role="status" style={{ margin: 0, padding: "0 16px 9px" }}>
      {fault ||
        (busy
          ? "Working out what it would do…"
          : patched && trying
            ? `Shown in the picture: ${plural(after, "part")}${after === before ? "" : ` instead of ${before}`}, ${more > 0 ? `${plural(more, "problem")} more` : "no new problem"}. Enter does it.`
            : "Enter does it.")}
    </p>
  );
}

function NotUnderstood({ understood, unknown }: { understood: string[]; unknown: string[] }) {
  return (
    <p className="soft" role="status" style={{ margin: 0, padding: "10px 16px" }}>
      {understood.length ? `Understood: ${understood.join(", ").replaceAll("_", " ")}. ` : ""}
      {unknown.length
        ? `Not understood: ${unknown.join(", ")}.`
        : understood.length
          ? "More has to be said: what, and which parts."
          : "Type what you want, in your words."}
    </p>
  );
}

function thingsOf(doc: Doc, joints: Form[]): Things {
  const named = (records: Record<string, { name: string }>) => Object.entries(records).map(([key, r]) => ({ key, name: r.name }));
  const placed = Object.fromEntries(Object.entries(doc.parts).filter(([, p]) => isPlaced(p)));
  return { parts: named(placed), sizes: named(doc.sizes), joints };
}

/** The key of what a sentence asks for. */
const FIRST = "sentence";

/** What stands at the head of the list for a sentence: what it is called, and what Enter does. */
function doingOf(doc: Doc, asked: Asked, done: Done | null): Offer {
  const view = useView.getState();
  const { commit } = useDesign.getState();
  const edit = () => void (done && commit(done.label, done.patch));
  if ("key" in asked)
    return { key: FIRST, words: `${doc.sizes[asked.key]?.name} = ${asked.text}`, note: "set the size", run: edit };
  if (!("parts" in asked))
    return { key: FIRST, words: done?.label ?? "…", note: asked.do === "join" ? "join them" : "place them", run: edit };
  const names = asked.parts.map((k) => doc.parts[k]?.name.replaceAll("_", " ")).join(", ");
  const looks: Partial<Record<Deed, () => void>> = {
    hide: () => view.hide(asked.parts),
    show: () => asked.parts.filter((k) => view.hidden[k]).forEach(view.toggleHidden),
    glass: () => view.seeThrough(asked.parts),
    isolate: () => view.isolate(asked.parts, useDesign.getState().head?.parts.map((p) => p.key) ?? []),
    select: () => view.selectMany(asked.parts, []),
  };
  const look = looks[asked.do];
  return {
    key: FIRST,
    words: look ? `${DEEDS[asked.do][0]} ${names}` : (done?.label ?? `${asked.do} ${names}`),
    note: look ? "look" : "change",
    run: look ?? edit,
  };
}

/** So many other designs are offered. */
const MOST_DESIGNS = 5;

/** The maker's other designs, the latest first, with their pictures. */
function designOffers(rows: DesignRow[], here: string, text: string, open: (id: string) => void): Offer[] {
  return listed(rows, text.replace(/^open\s+/i, ""), "latest")
    .filter((d) => d.id !== here)
    .slice(0, MOST_DESIGNS)
    .map((d) => ({
      key: d.id,
      words: d.name,
      note: "open the design",
      picture: `/api/designs/${d.id}/picture?revision=${d.revision}`,
      run: () => open(d.id),
    }));
}

function find(doc: Doc, text: string, own: Partial<Record<Command, string>>, kinds: Form[]): Offer[] {
  const typed = text.trim().toLowerCase();
  const view = useView.getState();
  const words = typed.split(/\s+/).filter(Boolean);
  const offers: Offer[] = [];
  const named = (name: string) => name.toLowerCase().replaceAll("_", " ");

  for (const { title: heading } of kinds) {
    const title = heading.toLowerCase();
    if (words.length === 1 && title.split(/[\s-]+/).some((w) => w.startsWith(words[0])))
      offers.push({ words: `${title} …`, note: "name two parts, or pick them", run: () => view.setDraft({ kind: "joint" }) });
  }
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
    if (fits(named(s.name)))
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
