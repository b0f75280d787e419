// Folds the cut list or the job card away from the picture, and brings it back.
import { IconChevronLeft, IconChevronRight } from "@tabler/icons-react";
import { type Side, useFolded } from "../state/folded";

const WORDS: Record<Side, string> = { list: "cut list", card: "job card" };

export function FoldButton({ side }: { side: Side }) {
  const folded = useFolded((s) => s[side]);
  const toggle = useFolded((s) => s.toggle);
  const outward = (side === "list") === folded;
  const label = `${folded ? "Show" : "Fold away"} the ${WORDS[side]}`;
  return (
    <button
      type="button"
      className={`fold ${side}`}
      aria-label={label}
      aria-expanded={!folded}
      title={label}
      onClick={() => toggle(side)}
    >
      {outward ? <IconChevronRight size={14} /> : <IconChevronLeft size={14} />}
    </button>
  );
}
