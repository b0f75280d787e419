// Lengths from bars: what is wanted, what there is, and the cheapest way to cut it, with what is proven of it.
import { Button, NumberInput, Select, TextInput } from "@mantine/core";
import { IconPlus, IconX } from "@tabler/icons-react";
import { useState } from "react";
import { BarPlan } from "../fields/BarPlan";
import { PageHead } from "../frame/PageHead";
import type { BarStock } from "../lib/document";
import { barsOfStock } from "../lib/shelf";
import { type Bar, type Job, type Piece, useBarPlan } from "../state/bars";
import { useOffcuts } from "../state/offcuts";
import { useShelf } from "../state/shelf";

const KEPT = "zygon.bars";
const EMPTY: Job = {
  pieces: [{ name: "", length: "", quantity: 1 }],
  bars: [{ length: "6000 mm", count: 0, price: 1 }],
  kerf: "3 mm",
  trim: "",
};

function remembered(): Job {
  try {
    return { ...EMPTY, ...JSON.parse(localStorage.getItem(KEPT) ?? "{}") };
  } catch {
    return EMPTY;
  }
}

export function Bars() {
  const [job, setJob] = useState(remembered);
  const plan = useBarPlan();
  const wanted = job.pieces.some((p) => p.length.trim());

  function change(next: Partial<Job>) {
    const changed = { ...job, ...next };
    setJob(changed);
    plan.reset();
    localStorage.setItem(KEPT, JSON.stringify(changed));
  }

  return (
    <main className="home">
      <PageHead title="Cut bars" />
      <form
        className="together"
        style={{ gridTemplateColumns: "440px minmax(0, 1fr)" }}
        onSubmit={(e) => {
          e.preventDefault();
          plan.mutate(job);
        }}
      >
        <section aria-label="What is cut from what">
          <h2>Pieces</h2>
          <PieceRows pieces={job.pieces} onChange={(pieces) => change({ pieces })} />
          <Button
            size="compact-sm"
            style={{ marginTop: 8 }}
            leftSection={<IconPlus size={14} />}
            disabled={job.pieces.length >= 40}
            onClick={() => change({ pieces: [...job.pieces, { name: "", length: "", quantity: 1 }] })}
          >
            Another piece
          </Button>
          <h2 style={{ marginTop: 18 }}>Bars</h2>
          <div className="soft" style={{ fontSize: 12.5 }}>
            Remainders from the rack are bars of which there is one, at a low price.
          </div>
          <FromShelf onTake={change} />
          <BarRows bars={job.bars} onChange={(bars) => change({ bars })} />
          <Button
            size="compact-sm"
            style={{ marginTop: 8 }}
            leftSection={<IconPlus size={14} />}
            onClick={() => change({ bars: [...job.bars, { length: "", count: 0, price: 1 }] })}
          >
            Another bar
          </Button>
          <div className="row" style={{ marginTop: 18 }}>
            <TextInput
              label="Kerf"
              value={job.kerf}
              placeholder="0 mm"
              onChange={(e) => change({ kerf: e.currentTarget.value })}
            />
            <TextInput
              label="End trim"
              value={job.trim}
              placeholder="0 mm, at both ends"
              onChange={(e) => change({ trim: e.currentTarget.value })}
            />
            <Button type="submit" variant="filled" style={{ alignSelf: "flex-end" }} disabled={!wanted} loading={plan.isPending}>
              Work it out
            </Button>
          </div>
        </section>
        <section aria-label="How the bars are cut">
          {plan.isError && (
            <div className="problem" role="alert">
              {plan.error.message}
            </div>
          )}
          {plan.data ? (
            <BarPlan plan={plan.data} price={(x) => `cost ${x.toFixed(2)}`} display="mm" />
          ) : (
            !plan.isError && (
              <p className="soft">
                Write what you need and what bars there are. The plan says how many bars it takes, and whether fewer could do.
              </p>
            )
          )}
        </section>
      </form>
    </main>
  );
}

/** A stock of the shelf, with what is left of other bars of it. */
function FromShelf({ onTake }: { onTake: (next: Partial<Job>) => void }) {
  const shelf = useShelf();
  const offcuts = useOffcuts();
  const [said, setSaid] = useState("");
  const stocks = Object.entries(shelf.data?.stocks ?? {}).filter(([, s]) => s.kind === "bar") as unknown as [string, BarStock][];

  function take(key: string): void {
    const stock = stocks.find(([k]) => k === key)?.[1];
    if (!stock) return;
    const left = (offcuts.data ?? []).filter((o) => o.stock_name === stock.name && !o.reserved);
    const found = barsOfStock(stock, shelf.data?.on_hand?.[key] ?? {}, left);
    setSaid(found.bars.length ? "" : `Of ${stock.name} nothing is on the shelf.`);
    if (found.bars.length) onTake(found);
  }

  return (
    <>
      <Select
        aria-label="Bars from the shelf"
        placeholder="take what the shelf has of…"
        searchable
        value={null}
        style={{ marginTop: 6 }}
        data={stocks.map(([value, s]) => ({ value, label: s.name }))}
        onChange={(key) => key && take(key)}
      />
      {said && (
        <div className="warn" role="status">
          {said}
        </div>
      )}
    </>
  );
}

/** The pieces that are wanted, a row each. */
function PieceRows({ pieces, onChange }: { pieces: Piece[]; onChange: (next: Piece[]) => void }) {
  const piece = (n: number, next: Partial<Piece>) => onChange(pieces.map((p, i) => (i === n ? { ...p, ...next } : p)));
  return (
    <>
      {pieces.map((p, n) => (
        <div className="row" key={n} style={{ marginTop: 6 }}>
          <TextInput
            aria-label={`Name of piece ${n + 1}`}
            placeholder={`Piece ${n + 1}`}
            value={p.name}
            maxLength={40}
            onChange={(e) => piece(n, { name: e.currentTarget.value })}
          />
          <TextInput
            aria-label={`Length of piece ${n + 1}`}
            placeholder="length, 620 mm"
            value={p.length}
            onChange={(e) => piece(n, { length: e.currentTarget.value })}
          />
          <NumberInput
            aria-label={`How many of piece ${n + 1}`}
            value={p.quantity}
            min={1}
            max={5000}
            allowDecimal={false}
            suffix=" ×"
            style={{ width: 90 }}
            onChange={(v) => piece(n, { quantity: Number(v) || 1 })}
          />
          <TakeOut what="piece" n={n} of={pieces} onChange={onChange} />
        </div>
      ))}
    </>
  );
}

/** The bars that there are, a row a length. */
function BarRows({ bars, onChange }: { bars: Bar[]; onChange: (next: Bar[]) => void }) {
  const bar = (n: number, next: Partial<Bar>) => onChange(bars.map((b, i) => (i === n ? { ...b, ...next } : b)));
  return (
    <>
      {bars.map((b, n) => (
        <div className="row" key={n} style={{ marginTop: 6 }}>
          <TextInput
            aria-label={`Length of bar ${n + 1}`}
            placeholder="length, 6 m"
            value={b.length}
            onChange={(e) => bar(n, { length: e.currentTarget.value })}
          />
          <NumberInput
            aria-label={`How many of bar ${n + 1}`}
            value={b.count}
            min={0}
            max={5000}
            allowDecimal={false}
            suffix={b.count ? " there" : " = any number"}
            style={{ width: 130 }}
            onChange={(v) => bar(n, { count: Number(v) || 0 })}
          />
          <NumberInput
            aria-label={`Price of bar ${n + 1}`}
            value={b.price}
            min={0.01}
            step={0.5}
            prefix="price "
            style={{ width: 120 }}
            onChange={(v) => bar(n, { price: Number(v) || 1 })}
          />
          <TakeOut what="bar" n={n} of={bars} onChange={onChange} />
        </div>
      ))}
    </>
  );
}

type TakeOutProps<Row> = { what: string; n: number; of: Row[]; onChange: (next: Row[]) => void };

/** Takes a row out; one is left. */
function TakeOut<Row>({ what, n, of, onChange }: TakeOutProps<Row>) {
  return (
    <Button
      size="compact-sm"
      variant="subtle"
      aria-label={`Take ${what} ${n + 1} out`}
      disabled={of.length < 2}
      onClick={() => onChange(of.filter((_, i) => i !== n))}
    >
      <IconX size={14} />
    </Button>
  );
}
