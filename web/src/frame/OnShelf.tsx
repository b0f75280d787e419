// How many there are on the shelf of what a stock of the design is sold in; nothing where none of it is counted.
import { ordered, type Stock } from "../lib/document";
import { sheetSize, typedOut } from "../lib/shelf";
import { useShelf } from "../state/shelf";

export function OnShelf({ stockKey, stock }: { stockKey: string; stock: Stock }) {
  const counted = useShelf().data?.on_hand?.[stockKey] ?? {};
  const sizes =
    stock.kind === "bar"
      ? ordered(stock.lengths).map(([k, bar]) => [k, typedOut(bar.length)])
      : ordered(stock.sheets).map(([k, s]) => [k, sheetSize(s.length, s.width)]);
  const there = sizes.filter(([k]) => k in counted);
  if (!there.length) return null;
  return (
    <span className="soft">
      On the shelf:{" "}
      {there.map(([k, words], n) => (
        <span key={k} className="figure">
          {n > 0 && ", "}
          {counted[k]} of {words}
        </span>
      ))}
    </span>
  );
}
