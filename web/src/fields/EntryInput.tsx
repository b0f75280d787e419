// The box that an entry is typed into: names suggested while typing, the result before Enter, the fault where it is broken.
import { type KeyboardEvent, type ReactNode, useId, useMemo, useRef, useState } from "react";
import type { ValueOut } from "../api/types";
import type { Axis, Doc, Entry } from "../lib/document";
import { value as shown } from "../lib/figures";
import { useDesign } from "../state/design";
import { useWriting, type Waits } from "../state/writing";
import { nudged, type Suggestion, suggestions, wordAt } from "./suggest";

type Props = {
  label: string;
  entry: Entry;
  doc: Doc;
  values: Record<string, ValueOut>;
  result?: ValueOut;
  fault?: string;
  /** the ways in which a broken entry could be meant */
  readings?: string[];
  kind?: string;
  axis?: Axis;
  fits?: boolean | "shaft";
  placeholder?: string;
  hideLabel?: boolean;
  menu?: ReactNode;
  onChange: (entry: Entry) => void;
  /** `chosen`: one of the readings was pressed */
  onDone: (entry: Entry, chosen?: boolean) => void;
  onCancel: () => void;
};

const PIXELS_A_STEP = 3;

/** The names of fits that may be typed. */
const fitNames = (fits: Props["fits"]) => [
  ...(fits ? ["press", "snug", "slip", "loose"] : []),
  ...(fits === "shaft" ? ["fixed", "running"] : []),
];

export function EntryInput(props: Props) {
  const { entry, doc, kind = "length" } = props;
  const id = useId();
  const input = useRef<HTMLInputElement>(null);
  const [caret, setCaret] = useState<number | null>(null);
  const [chosen, setChosen] = useState(0);
  const word = caret === null ? { start: 0, word: "" } : wordAt(entry.text, caret);
  const worth = (key: string) => {
    const v = props.values[`/sizes/${key}/entry`];
    return v ? shown(v, doc.display) : "";
  };
  /** The named places of a piece of hardware, where something is typed behind its name. */
  const placesOf = (part: string) => useDesign.getState().head?.parts.find((p) => p.path === part)?.hardware?.places ?? [];
  const offers = caret === null ? [] : suggestions(doc, word.word, worth, props.axis, fitNames(props.fits), placesOf);
  const pullable = nudged(entry.text, entry.unit, 0, kind) !== null;
  const untouched = useRef(true);
  const waits = useWaits(props.axis, (name, more) => {
    const [from, to] = untouched.current
      ? [0, entry.text.length]
      : [input.current?.selectionStart ?? 0, input.current?.selectionEnd ?? 0];
    untouched.current = false;
    const next = entry.text.slice(0, from) + name + entry.text.slice(to);
    const place = from + name.length;
    props.onChange({ ...entry, text: next });
    setCaret(more ? place : null);
    requestAnimationFrame(() => input.current?.setSelectionRange(place, place));
  });
  const bare = kind === "length" && hasBareLength(entry.text);

  function insert(text: string, more?: boolean) {
    const next = entry.text.slice(0, word.start) + text + entry.text.slice(caret ?? entry.text.length);
    props.onChange({ ...entry, text: next });
    const place = word.start + text.length;
    setCaret(more ? place : null);
    requestAnimationFrame(() => input.current?.setSelectionRange(place, place));
  }

  function key(event: KeyboardEvent<HTMLInputElement>) {
    event.stopPropagation();
    if (offers.length && (event.key === "ArrowDown" || event.key === "ArrowUp")) {
      event.preventDefault();
      setChosen((chosen + (event.key === "ArrowDown" ? 1 : offers.length - 1)) % offers.length);
    } else if (offers.length && event.key === "Tab" && word.word) {
      event.preventDefault();
      insert(offers[chosen % offers.length].insert, offers[chosen % offers.length].more);
    } else if (event.key === "Enter") {
      setCaret(null);
      useWriting.getState().leave(waits);
      props.onDone(entry);
    } else if (event.key === "Escape") {
      setCaret(null);
      props.onCancel();
      input.current?.blur();
    } else if ((event.key === "ArrowUp" || event.key === "ArrowDown") && pullable) {
      event.preventDefault();
      const next = nudged(entry.text, entry.unit, (event.key === "ArrowUp" ? 1 : -1) * (event.shiftKey ? 10 : 1), kind);
      if (next !== null) props.onChange({ ...entry, text: next });
    }
  }

  return (
    <div className={props.hideLabel ? "entry bare" : "entry"}>
      {!props.hideLabel && <PullLabel {...props} htmlFor={id} kind={kind} />}
      <div className={props.fault ? "entrybox broken" : "entrybox"}>
        <input
          ref={input}
          id={id}
          aria-label={props.label}
          aria-invalid={Boolean(props.fault)}
          value={entry.text}
          placeholder={props.placeholder}
          spellCheck={false}
          autoComplete="off"
          onFocus={() => {
            untouched.current = true;
            if (kind === "length") useWriting.getState().wait(waits);
          }}
          onChange={(e) => {
            untouched.current = false;
            setCaret(e.target.selectionStart);
            setChosen(0);
            // the unit of a bare number is the design's unless one stood beside the field already
            const unit = hasBareLength(entry.text) ? entry.unit : doc.unit;
            props.onChange({ text: e.target.value, unit });
          }}
          onKeyDown={key}
          onBlur={() => {
            useWriting.getState().leave(waits);
            setCaret(null);
            props.onDone(entry);
          }}
        />
        {bare && (
          <UnitButton
            entry={entry}
            onChange={(next) => {
              props.onChange(next);
              if (document.activeElement !== input.current) props.onDone(next);
            }}
          />
        )}
        {!props.fault && props.result && (
          <span className="result mono">{plain(entry, props.result, doc) ? "" : `= ${shown(props.result, doc.display)}`}</span>
        )}
        {props.menu}
      </div>
      {!props.fault && props.result?.reading && <div className="readas mono">read as {props.result.reading}</div>}
      {offers.length > 0 && <Offers offers={offers} chosen={chosen} onTake={(o) => insert(o.insert, o.more)} />}
      {props.fault && (
        <FaultLine fault={props.fault} readings={props.readings} onTake={(text) => props.onDone({ ...entry, text }, true)} />
      )}
    </div>
  );
}

/** What writes a name that is pressed elsewhere into this entry; the same object as long as it stands. */
function useWaits(axis: Axis | undefined, write: Waits["write"]): Waits {
  const latest = useRef(write);
  latest.current = write;
  return useMemo(() => ({ axis, write: (name: string, more?: boolean) => latest.current(name, more) }), [axis]);
}

type PullProps = Pick<Props, "label" | "entry" | "onChange" | "onDone" | "onCancel"> & { htmlFor: string; kind: string };

/** The label; of a plain value it can be pulled sideways to try others. */
function PullLabel({ label, entry, htmlFor, kind, onChange, onDone, onCancel }: PullProps) {
  const pull = useRef<{ x: number; from: string; steps: number } | null>(null);
  const pullable = nudged(entry.text, entry.unit, 0, kind) !== null;
  return (
    <label
      htmlFor={htmlFor}
      className={pullable ? "scrub" : undefined}
      title={pullable ? "Pull sideways to try values" : undefined}
      onPointerDown={(e) => {
        if (!pullable) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        pull.current = { x: e.clientX, from: entry.text, steps: 0 };
      }}
      onPointerMove={(e) => {
        if (!pull.current) return;
        const steps = Math.round((e.clientX - pull.current.x) / PIXELS_A_STEP);
        if (steps === pull.current.steps) return;
        pull.current.steps = steps;
        const next = nudged(pull.current.from, entry.unit, steps, kind);
        if (next !== null) onChange({ ...entry, text: next });
      }}
      onPointerUp={(e) => {
        const moved = pull.current?.steps;
        pull.current = null;
        if (moved) {
          e.preventDefault();
          onDone(entry);
        }
      }}
      onPointerCancel={() => {
        pull.current = null;
        onCancel();
      }}
    >
      {label}
    </label>
  );
}

/** What a bare number is in, and the way to the other unit. */
function UnitButton({ entry, onChange }: { entry: Entry; onChange: (next: Entry) => void }) {
  const inches = entry.unit === "in";
  return (
    <button
      type="button"
      className="unit"
      title={`A bare number here is in ${entry.unit}; press to take ${inches ? "millimetres" : "inches"}`}
      onMouseDown={(e) => e.preventDefault()}
      onClick={() => onChange({ ...entry, unit: inches ? "mm" : "in" })}
    >
      {entry.unit}
    </button>
  );
}

/** The names that could stand at the caret. */
function Offers({ offers, chosen, onTake }: { offers: Suggestion[]; chosen: number; onTake: (offer: Suggestion) => void }) {
  return (
    <div className="suggest" role="listbox">
      {offers.map((o, i) => (
        <button
          key={o.words}
          type="button"
          role="option"
          aria-selected={i === chosen % offers.length}
          onMouseDown={(e) => {
            e.preventDefault();
            onTake(o);
          }}
        >
          <span className="mono">{o.words}</span>
          <span className="soft">{o.note}</span>
        </button>
      ))}
    </div>
  );
}

/** What is wrong, and the ways in which the entry could be meant. */
function FaultLine({ fault, readings, onTake }: { fault: string; readings?: string[]; onTake: (text: string) => void }) {
  return (
    <div className="fault" role="alert">
      {fault}
      {readings?.length ? <br /> : null}
      {readings?.map((text) => (
        <button
          key={text}
          type="button"
          className="reading mono"
          onMouseDown={(e) => e.preventDefault()}
          onClick={() => onTake(text)}
        >
          {text}
        </button>
      ))}
    </div>
  );
}

/** Whether the entry has a bare number that stands for a length: one that is neither a factor nor a divisor, nor has a unit. */
function hasBareLength(text: string): boolean {
  for (const found of text.matchAll(/(?<![\w.])\d+(?:[-/ ]\d+)*(?:\.\d+)?/g)) {
    const before = text.slice(0, found.index).trimEnd().slice(-1);
    const after = text.slice(found.index + found[0].length).trimStart();
    if (/^[0.]+$/.test(found[0])) continue; // nought has no unit
    if ("*/".includes(before || " ") || /^[*/.\d]/.test(after) || /^(mm|cm|m|in|ft|deg|rad|ga)\b|^["'°]/.test(after)) continue;
    return true;
  }
  return false;
}

/** Whether the entry shows its result already, so that repeating it would say nothing. */
function plain(entry: Entry, result: ValueOut, doc: Doc): boolean {
  const figure = shown(result, doc.display);
  const typed = entry.text.trim();
  return (
    typed === figure ||
    (entry.unit === doc.display && `${typed} ${entry.unit}` === figure) ||
    (result.kind !== "length" && typed === figure)
  );
}
