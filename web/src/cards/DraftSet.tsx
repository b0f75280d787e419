// The head and the size of the screw in a bore that is being drafted; the rest is on its card once it is there.
import { ChoiceField } from "../fields/PlainField";
import type { Bore } from "../lib/document";
import { useForms } from "../state/forms";

type Said = NonNullable<Bore["hardware"]>;

export function DraftSet({ said, onChange }: { said: Said; onChange: (said: Said) => void }) {
  const form = useForms().hardware;
  if (!form) return null;
  const heads = form.fields.find((f) => f.name === "head")?.choices.filter((c) => c.value !== "none") ?? [];
  return (
    <>
      <ChoiceField
        label="Screw"
        value={said.head}
        data={[...heads]}
        onSave={(head) => onChange(withHead(said, head as Said["head"], form.sizes))}
      />
      <ChoiceField
        label="Size"
        value={said.size}
        data={(form.sizes[said.head] ?? []).map((s) => ({ value: s, label: /^\d/.test(s) ? `${s} mm` : s }))}
        onSave={(size) => onChange({ ...said, size })}
      />
    </>
  );
}

/** The same with another head: in the size next to what it was, without what that head does not take. */
export function withHead(said: Said, head: Said["head"], sizes: Record<string, string[]>): Said {
  const thick = (size: string) => Number(size.replace(/^\D+/, ""));
  const own = sizes[head] ?? [];
  const size = own.includes(said.size)
    ? said.size
    : [...own].sort((a, b) => Math.abs(thick(a) - thick(said.size)) - Math.abs(thick(b) - thick(said.size)))[0];
  return { ...said, head, size: size ?? said.size };
}
