// The corners in which a flange meets its neighbours: each as the part has it, or with a style and gap of its own.
import { ChoiceField } from "../fields/PlainField";
import { freshKey, type PlatePart, pointer } from "../lib/document";
import { choicesFor } from "../lib/forms";
import { useDesign, useShown } from "../state/design";
import { formOf, useForms } from "../state/forms";
import { words } from "../state/shape";
import { flangeName } from "./flangeFields";
import { RecordForm } from "./RecordForm";

const HOW = ["style"];

export function CornersSection({ partKey, board, flangeKey }: { partKey: string; board: PlatePart; flangeKey: string }) {
  const { commit } = useDesign.getState();
  const { bends } = useForms();
  const met = useShown()!.built.parts.find((p) => p.key === partKey)?.corners ?? [];
  const folding = board.folding!;
  const form = formOf(bends, "corner");
  const how = form?.fields.find((f) => f.name === "style");
  const neighbours = met.flatMap(([a, b]) => (a === flangeKey ? [b] : b === flangeKey ? [a] : []));
  if (!neighbours.length) return null;
  const at = ["parts", partKey, "folding", "corners"];
  const name = (key: string) => words(flangeName(key, folding.flanges));
  return (
    <section>
      <h3>Corners</h3>
      {neighbours.map((other) => {
        const [key, own] =
          Object.entries(folding.corners ?? {}).find(([, c]) => [c.a, c.b].sort().join() === [flangeKey, other].sort().join()) ??
          [];
        // said from this flange's side, whichever of the two the record names first
        const turned = own && own.a !== flangeKey;
        const style = own
          ? turned
            ? (({ a_covers: "b_covers", b_covers: "a_covers" } as Record<string, string>)[own.style] ?? own.style)
            : own.style
          : "";
        const label = `With ${name(other)}`;
        const covers = { a: `${name(flangeKey)} covers it`, b: `${name(other)} covers this` };
        const choices = [{ value: "", label: "as the part has it" }, ...(how ? choicesFor(how, covers) : [])];
        const choose = (v: string) =>
          void commit(`${board.name}: corner of ${name(flangeKey)} and ${name(other)}`, [
            v === ""
              ? { op: "remove", path: pointer(...at, key!) }
              : {
                  op: "add",
                  path: pointer(...at, key ?? freshKey(folding.corners ?? {}, "corner")),
                  value: { a: flangeKey, b: other, style: v, gap: own?.gap ?? folding.gap },
                },
          ]);
        return (
          <div key={other}>
            <ChoiceField label={label} value={style} data={choices} onSave={choose} />
            {own && form && (
              <RecordForm
                form={form}
                path={[...at, key!]}
                record={{ ...own }}
                title={`${board.name}, with ${name(other)}`}
                skip={HOW}
              />
            )}
          </div>
        );
      })}
    </section>
  );
}
