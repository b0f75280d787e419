// One stock's sheets: what they come to, how they are laid, by the search or by hand, and what came before.

import { Button, Menu } from "@mantine/core";
import { IconColumns2, IconHandStop, IconLock, IconLockOpen } from "@tabler/icons-react";
import { useState } from "react";
import type { BuiltOut, LayoutOut, SheetOut, StockState } from "../../api/types";
import { ChoiceField } from "../../fields/PlainField";
import { OnShelf } from "../../frame/OnShelf";
import { SheetDrawing } from "../../frame/SheetMini";
import { type Doc, ordered, pointer, sheetOf } from "../../lib/document";
import { distance, duration, lengths, money, percent, plural } from "../../lib/figures";
import { useDesign } from "../../state/design";
import { useOffcutChanges } from "../../state/offcuts";
import { useView } from "../../state/view";
import { Compare, type Other } from "./Compare";
import { arrangement, laidKey } from "./hand";
import { LaidBar } from "./LaidBar";
import { StockOffcuts } from "./StockOffcuts";
import { useLaying } from "./useLaying";

type Props = {
  plan: BuiltOut["plans"][number];
  state: StockState | undefined;
  doc: Doc;
  lit: string[];
  running: boolean;
  name: (part: string) => string;
};

export function StockSheets({ plan, state, doc, lit, running, name }: Props) {
  const { commit, askNest } = useDesign.getState();
  const [other, setOther] = useState<Other | null>(null);
  const stock = sheetOf(doc, plan.stock)!;
  const layout = state?.layout;
  const old = !!layout && layout.digest !== plan.digest;
  const hand = useLaying(plan.stock, layout, !old && !!state?.current, name);
  const locked = layout?.sheets.reduce((n, s) => n + s.parts.filter((p) => p.locked && !s.cut).length, 0) ?? 0;
  const byHand = !!state?.by_hand;
  const found = byHand && state?.found && !same(state.found, layout) ? state.found : null;

  async function keepOther(kept: LayoutOut): Promise<void> {
    const path = pointer("nest", "arranged", plan.stock);
    const locks = new Set(layout?.sheets.flatMap((s) => s.parts.filter((p) => p.locked).map(laidKey)));
    if (other?.kind === "found" && !locks.size) await commit(`${stock.name}: as the search laid it`, [{ op: "remove", path }]);
    else {
      const value = arrangement(kept);
      for (const s of Object.values(value.sheets)) for (const [k, p] of Object.entries(s.placed)) p.locked = locks.has(k);
      const label = other?.kind === "found" ? "as the search laid it round the locked pieces" : "an earlier layout";
      await commit(`${stock.name}: ${label}`, [{ op: "add", path, value }]);
    }
    await askNest(true);
  }

  /** Leaves the laying to the search again; sheets that are cut stay as they are. */
  async function release(): Promise<void> {
    const path = pointer("nest", "arranged", plan.stock);
    const value = layout && arrangement(layout);
    if (value) for (const [key, s] of Object.entries(value.sheets)) if (!s.cut) delete value.sheets[key];
    const left = value && Object.keys(value.sheets).length > 0;
    await commit(`${stock.name}: laid by the search again`, [left ? { op: "replace", path, value } : { op: "remove", path }]);
    await askNest(true);
  }

  return (
    <section style={{ marginBottom: 26 }} aria-label={stock?.name}>
      <StockHead plan={plan} state={state} doc={doc} old={old} />
      {layout && state && (
        <HowLaid
          state={state}
          doc={doc}
          locked={locked}
          running={running}
          onRelease={() => void release()}
          onCompare={setOther}
        />
      )}
      {found && !running && (
        <div className="notice row">
          <span className="grow">
            A search{locked ? ` round your ${plural(locked, "locked piece")}` : ""} found {plural(found.sheets.length, "sheet")},{" "}
            {percent(found.share)} used, {money(found.sheet_cost, doc.currency)}.
          </span>
          <Button size="compact-sm" variant="filled" onClick={() => setOther({ kind: "found" })}>
            Compare the two
          </Button>
        </div>
      )}
      {byHand && state?.found && !found && !running && (
        <div className="soft" style={{ marginBottom: 6 }}>
          The search found nothing better: it lays the pieces as they lie.
        </div>
      )}
      {other && state && <Compare doc={doc} state={state} other={other} onClose={() => setOther(null)} onKeep={keepOther} />}
      {!ordered(stock.sheets).length && <div className="problem">This stock has no sheet size. Give it one in Sizes.</div>}
      {Object.entries(layout?.unplaced ?? {}).map(([key, n]) => (
        <div className="problem" key={key}>
          {name(key)}: {plural(n, "piece")} found no place: {layout?.reasons[key]}.
        </div>
      ))}
      {!layout && stock && ordered(stock.sheets).length > 0 && <div className="soft">Being laid out…</div>}
      {stock && <OnShelf stockKey={plan.stock} stock={stock} />}
      <StockOffcuts
        doc={doc}
        stockKey={plan.stock}
        thickness={plan.thickness}
        cut={layout?.sheets.filter((s) => s.cut).map((s) => s.size) ?? []}
      />
      {hand.says && <div className="problem warning">{hand.says}</div>}
      {layout && (
        <DrawnSheets
          doc={doc}
          stock={plan.stock}
          layout={layout}
          hand={hand}
          lit={lit}
          name={name}
          ready={!old && !!state?.current}
          old={old}
        />
      )}
      {layout && (
        <LaidBar hand={hand} sheets={layout.sheets} display={doc.display} mirror={stock.faces === "alike"} name={name} />
      )}
    </section>
  );
}

type DrawnProps = {
  doc: Doc;
  stock: string;
  layout: LayoutOut;
  hand: ReturnType<typeof useLaying>;
  lit: string[];
  name: (part: string) => string;
  ready: boolean;
  old: boolean;
};

/** Each sheet with what lies on it, and the one that a piece in the hand would begin. */
function DrawnSheets({ doc, stock, layout, hand, lit, name, ready, old }: DrawnProps) {
  const view = useView();
  const tint = sheetOf(doc, stock)?.tint ?? "#ccc";
  const longest = Math.max(0, ...layout.sheets.map((s) => s.length), hand.fresh?.length ?? 0);
  return (
    <>
      {layout.sheets.map((sheet, i) => (
        <div key={i} className={old ? "estimate" : undefined} style={{ marginBottom: 14 }}>
          <SheetDrawing
            sheet={sheet}
            tint={tint}
            lit={lit}
            hover={view.hover}
            onPoint={view.point}
            onPick={(key) => view.select({ kind: "part", key })}
            names={name}
            kerf={layout.kerf}
            longest={longest}
            hand={{
              svg: (element) => {
                hand.sheets.current[i] = element;
                hand.sheets.current.length = layout.sheets.length + (hand.fresh ? 1 : 0);
              },
              onGrab: (e, piece) => hand.grab(e, i, piece),
              picked: hand.picked,
              carried: hand.ghost ? laidKey(hand.ghost.piece) : "",
              ghost: hand.ghost?.sheet === i ? hand.ghost : null,
            }}
          />
          <SheetFacts doc={doc} stock={stock} sheet={sheet} number={i + 1} hand={hand} ready={ready} />
        </div>
      ))}
      {hand.fresh && hand.fresh.length > 0 && (
        <div style={{ marginBottom: 14 }}>
          <SheetDrawing
            sheet={{ ...EMPTY, length: hand.fresh.length, width: hand.fresh.width }}
            tint={tint}
            lit={[]}
            hover=""
            names={name}
            longest={longest}
            hand={{
              svg: (element) => {
                hand.sheets.current[layout.sheets.length] = element;
              },
              onGrab: () => undefined,
              picked: "",
              carried: "",
              ghost: hand.ghost?.sheet === layout.sheets.length ? hand.ghost : null,
            }}
          />
          <div className="soft" style={{ fontSize: 12.5 }}>
            A new sheet: let go here to begin it.
          </div>
        </div>
      )}
    </>
  );
}

type HeadProps = { plan: Props["plan"]; state: StockState | undefined; doc: Doc; old: boolean };

/** The stock, what its sheets come to, and by what its pieces may be turned. */
function StockHead({ plan, state, doc, old }: HeadProps) {
  const { commit } = useDesign.getState();
  const stock = sheetOf(doc, plan.stock)!;
  const layout = state?.layout;
  return (
    <div className="row" style={{ marginBottom: 6, flexWrap: "wrap" }}>
      <h2>
        <span className="swatch" style={{ background: stock?.tint }} />
        {stock?.name}
      </h2>
      <span className="soft grow">
        {plural(plan.copies, "piece")}
        {layout &&
          `, ${plural(layout.sheets.length, "sheet")}, ${percent(layout.share)} used, ${money(layout.sheet_cost, doc.currency)}`}
        {layout && state && ` · of revision ${state.revision}`}
        {old && <span className="stale">stale: a flat in it has changed; the new layout is on its way</span>}
      </span>
      <div style={{ width: 250, marginBottom: -5 }}>
        <ChoiceField
          label="Turns allowed"
          value={stock.turn}
          data={[
            { value: "none", label: "none" },
            { value: "180", label: "by 180°" },
            { value: "90", label: stock.grain === "along" ? "by 90°, grain: 180°" : "by 90°" },
            ...["45", "30", "15", "5"].map((v) => ({
              value: v,
              label: stock.grain === "along" ? `by ${v}°, grain: 180°` : `by ${v}°`,
            })),
            { value: "free", label: stock.grain === "along" ? "free, grain: 180°" : "free" },
          ]}
          onSave={(v) =>
            void commit(`${stock.name}: turns ${v}`, [{ op: "replace", path: pointer("stocks", plan.stock, "turn"), value: v }])
          }
        />
      </div>
    </div>
  );
}

type LaidProps = {
  state: StockState;
  doc: Doc;
  /** pieces that stay where they are */
  locked: number;
  running: boolean;
  onRelease: () => void;
  onCompare: (other: Other) => void;
};

/** Whether the hand or the search laid it, what can be asked of the search, and earlier layouts. */
function HowLaid({ state, doc, locked, running, onRelease, onCompare }: LaidProps) {
  const { askNest } = useDesign.getState();
  return (
    <div className="row" style={{ marginBottom: 8, flexWrap: "wrap", gap: 6 }}>
      {state.by_hand ? (
        <>
          <span className="tag">
            <IconHandStop size={14} /> laid by hand{locked ? `, ${locked} locked` : ""}
          </span>
          <Button size="compact-sm" disabled={running} onClick={() => void askNest(false, doc.nest.seconds, state.stock)}>
            {locked ? `Nest the rest round ${plural(locked, "locked piece")}` : "Search for comparison"}
          </Button>
          <Button size="compact-sm" variant="subtle" onClick={onRelease}>
            Let the search lay it
          </Button>
        </>
      ) : (
        <span className="soft">Drag a piece to lay it by hand.</span>
      )}
      <span className="grow" />
      {state.earlier.length > 0 && (
        <Menu position="bottom-end">
          <Menu.Target>
            <Button size="compact-sm" leftSection={<IconColumns2 size={15} />}>
              Compare with an earlier layout
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            {state.earlier.map((e) => (
              <Menu.Item
                key={e.id}
                onClick={() => onCompare({ kind: "earlier", id: e.id, revision: e.revision, stale: e.stale })}
              >
                Revision {e.revision}
                {e.hand ? ", by hand" : ""}: {plural(e.sheets, "sheet")}, {percent(e.share)}, {money(e.cost, doc.currency)}
                {e.stale ? " · flats have changed since" : ""}
              </Menu.Item>
            ))}
          </Menu.Dropdown>
        </Menu>
      )}
    </div>
  );
}

const EMPTY: SheetOut = {
  size: "",
  is_offcut: false,
  cut: false,
  outline: "",
  price: 0,
  length: 0,
  width: 0,
  roll: false,
  used_length: 0,
  share: 0,
  parts: [],
  offcut: null,
  cut_length: 0,
  pierces: 0,
  seconds: 0,
  cost: 0,
  known: true,
};

type FactsProps = {
  doc: Doc;
  stock: string;
  sheet: SheetOut;
  number: number;
  hand: ReturnType<typeof useLaying>;
  ready: boolean;
};

function SheetFacts({ doc, stock, sheet, number, hand, ready }: FactsProps) {
  const { shelve } = useOffcutChanges();
  const [kept, setKept] = useState("");

  /** The sheet has been cut: nothing on it moves any more, and what is left goes on the shelf. */
  async function finish(): Promise<void> {
    await hand.keep(`Sheet ${number} of ${doc.stocks[stock].name} cut`, (a) => {
      a.sheets[`s${number}`].cut = true;
    });
    const fault = await shelve(stock, number, (made) => {
      const labels = made.map((o) => `${o.label} (${lengths([o.length, o.width], doc.display)})`);
      setKept(
        labels.length ? `On the shelf: write ${labels.join(" and ")} on what is left.` : "Nothing worth keeping is left of it.",
      );
    });
    if (fault) setKept(fault);
  }
  const keys = sheet.parts.map(laidKey);
  const all = sheet.parts.every((p) => p.locked);
  return (
    <div className="row soft facts">
      <span>
        {sheet.is_offcut ? "Offcut" : "Sheet"} {number}:{" "}
        <span className="figure">{lengths([sheet.length, sheet.width], doc.display)}</span>
        {sheet.roll && " of the roll"}, {percent(sheet.share)} used
        {sheet.price > 0 && `, ${money(sheet.price, doc.currency)}`}
        {sheet.cut && <b> · cut</b>}
        {sheet.offcut && !sheet.cut && (
          <>
            ,{" "}
            <span className="good">
              offcut <span className="figure">{lengths([sheet.offcut[2], sheet.offcut[3]], doc.display)}</span>
            </span>
          </>
        )}
      </span>
      <span className="grow" />
      <span>
        <span className="figure">{distance(sheet.cut_length, doc.display)}</span> of cut, {plural(sheet.pierces, "pierce")}
        {sheet.known && `, ${duration(sheet.seconds)}, ${money(sheet.cost, doc.currency)}`}
      </span>
      {kept && (
        <span className="good" role="status">
          {kept}
        </span>
      )}
      {!sheet.cut && (
        <Button size="compact-xs" disabled={!ready} onClick={() => void finish()}>
          It is cut: keep the rest
        </Button>
      )}
      {!sheet.cut && (
        <Button
          size="compact-xs"
          variant="subtle"
          leftSection={all ? <IconLockOpen size={13} /> : <IconLock size={13} />}
          onClick={() => void hand.lock(keys, !all, `Sheet ${number}`)}
        >
          {all ? "Unlock all" : "Lock all"}
        </Button>
      )}
    </div>
  );
}

/** Whether two layouts are laid alike. */
function same(a: LayoutOut, b: LayoutOut | null | undefined): boolean {
  const laid = (l: LayoutOut) => JSON.stringify(l.sheets.map((s) => [s.size, s.parts.map((p) => p.outside).sort()]));
  return !!b && laid(a) === laid(b);
}
