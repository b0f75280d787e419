// Parts by name, one chip each: pointing at one lights it in the design.
import type { CSSProperties, MouseEvent } from "react";
import { useShown } from "../state/design";
import { words } from "../state/shape";
import { useView } from "../state/view";

export function PartChips({
  keys,
  most = 80,
  lit,
  title,
  style,
  onPress,
}: {
  keys: string[];
  /** So many are told one by one; the rest by their number. */
  most?: number;
  lit?: Set<string>;
  title?: string;
  style?: CSSProperties;
  onPress: (key: string, event: MouseEvent) => void;
}) {
  const shown = useShown();
  const point = useView((s) => s.point);
  const paths = new Map(shown?.built.parts.map((p) => [p.key, p.path]));
  return (
    <div className="chips" style={style}>
      {keys.slice(0, most).map((key) => (
        <button
          type="button"
          className="chip"
          key={key}
          title={title}
          aria-pressed={lit?.has(key)}
          onClick={(e) => onPress(key, e)}
          onMouseEnter={() => point(key)}
          onMouseLeave={() => point("")}
        >
          {words(paths.get(key) ?? key)}
        </button>
      ))}
      {keys.length > most && <span className="soft">and {keys.length - most} more</span>}
    </div>
  );
}
