// Mirrors and repeats as rows that open their cards.
import type { Copy } from "../lib/document";
import { useView } from "../state/view";

export function CopyList({ copies }: { copies: [string, Copy][] }) {
  const view = useView();
  if (!copies.length) return null;
  return (
    <section>
      <h3>Mirrored and repeated</h3>
      {copies.map(([k, c]) => (
        <button
          type="button"
          className={`linkrow ${c.out ? "leftout" : ""}`}
          key={k}
          onClick={() => view.select({ kind: "copy", key: k })}
        >
          <span className="grow clip title">{c.name}</span>
          <span className="soft">{c.kind}</span>
        </button>
      ))}
    </section>
  );
}
