// The parts that lie one behind the other where the scene was pressed.
import { useView } from "../../state/view";
import type { Under } from "./usePicking";

type Props = { under: Under; box: DOMRect; name: (key: string) => string; onChoose: (i: number) => void };

export function UnderPointer({ under, box, name, onChoose }: Props) {
  const view = useView();
  return (
    <div
      className="under"
      style={{
        left: Math.min(under.x - box.left + 14, box.width - 150),
        top: Math.min(under.y - box.top + 8, box.height - 24 * under.hits.length - 20),
      }}
      role="listbox"
      aria-label="Parts under the pointer"
    >
      {under.hits.map((h, i) => (
        <button
          type="button"
          key={h.key}
          role="option"
          aria-selected={i === under.chosen}
          onMouseEnter={() => view.point(h.key)}
          onMouseLeave={() => view.point("")}
          onClick={() => onChoose(i)}
        >
          {name(h.key)}
        </button>
      ))}
    </div>
  );
}
