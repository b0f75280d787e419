// How many there are of what a stock is sold in, on the workshop's shelf.
import { NumberInput } from "@mantine/core";
import { useEffect, useId, useState } from "react";
import { useCounting, useShelf } from "../state/shelf";

const MOST = 10_000;

type Props = { stock: string; size: string; unit: "sheets" | "bars"; label?: string };

export function StockCount({ stock, size, unit, label = "In stock" }: Props) {
  const id = useId();
  const shelf = useShelf();
  const { say, fault } = useCounting(stock, size);
  const there = shelf.data?.on_hand?.[stock]?.[size];
  const [typed, setTyped] = useState<number | string>(there ?? "");
  useEffect(() => setTyped(there ?? ""), [there]);

  function save() {
    const count = typeof typed === "number" ? typed : null;
    if (count !== (there ?? null)) void say(count);
  }

  return (
    <div className="entry">
      <label htmlFor={id}>{label}</label>
      <NumberInput
        id={id}
        aria-label={label}
        value={typed}
        onChange={setTyped}
        onBlur={save}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === "Enter") save();
          if (e.key === "Escape") setTyped(there ?? "");
        }}
        min={0}
        max={MOST}
        allowDecimal={false}
        clampBehavior="blur"
        suffix={typed === 1 ? ` ${unit.slice(0, -1)}` : ` ${unit}`}
        placeholder="not counted"
        classNames={{ input: "mono" }}
      />
      {fault && (
        <span className="error" role="alert">
          {fault}
        </span>
      )}
    </div>
  );
}

/** Whether a stock of a design is on the shelf in this size, so that it can be counted. */
export function useIsOnShelf(): (stock: string, size: string) => boolean {
  const stocks = useShelf().data?.stocks ?? {};
  return (stock, size) => {
    const record = stocks[stock] as { sheets?: object; lengths?: object } | undefined;
    return size in { ...record?.sheets, ...record?.lengths };
  };
}
