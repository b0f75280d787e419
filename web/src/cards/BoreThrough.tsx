// What a bore does to a part for a rod that ends or turns in it, and what it does to single copies of the part.
import { Button, Checkbox, Menu } from "@mantine/core";
import { EntryField } from "../fields/EntryField";
import { ChoiceField } from "../fields/PlainField";
import { type Bore, type BoreDoes, pointer } from "../lib/document";
import { useDesign, useShown } from "../state/design";
import { ACTED } from "./BoreAction";

type Through = Bore["parts"][string];

/** How deep a blind hole is beyond the rod that ends in it, and whether what is not round turns in a round hole. */
export function ForRod({ bore, part, path, through }: { bore: Bore; part: string; path: string; through: Through }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const record = doc.parts[bore.member ?? ""];
  const name = doc.parts[part]?.name ?? part;
  const onLine = through.action === "cut" && doc.cutters[doc.cutter]?.kind !== "router" && (
    <Checkbox
      size="xs"
      style={{ margin: "4px 0 8px" }}
      label="Cut on its line: wider by the kerf"
      checked={Boolean(through.on_line)}
      onChange={(e) =>
        void commit(`${bore.name}: ${e.currentTarget.checked ? "on its line" : "as wide as it is drawn"} in ${name}`, [
          { op: "add", path: `${path}/on_line`, value: e.currentTarget.checked },
        ])
      }
    />
  );
  if (record?.kind !== "rod") return onLine || null;
  const stock = doc.stocks[record.stock];
  return (
    <>
      {onLine}
      {stock?.kind === "bar" && stock.shape !== "round" && (
        <Checkbox
          size="xs"
          style={{ margin: "4px 0 8px" }}
          label="A round hole, in which it turns"
          checked={Boolean(through.round)}
          onChange={(e) =>
            void commit(`${bore.name}: ${e.currentTarget.checked ? "a round hole" : "a hole of its shape"} in ${name}`, [
              { op: "add", path: `${path}/round`, value: e.currentTarget.checked },
            ])
          }
        />
      )}
      <EntryField
        path={`${path}/deeper`}
        label="Deeper, where it ends"
        optional
        placeholder="1 mm"
        edit={`${bore.name} in ${name}, deeper`}
      />
    </>
  );
}

const DOES: BoreDoes[] = ["cut", "drill", "mark", "leave"];

/** Copies of a part in which a bore does something else than in the original. */
export function InCopies({ boreKey, bore, part, through }: { boreKey: string; bore: Bore; part: string; through: Through }) {
  const { built } = useShown()!;
  const commit = useDesign((s) => s.commit);
  const copies = built.parts.filter((p) => p.of === part && p.key !== part);
  const said = through.copies ?? {};
  const path = (...k: string[]) => pointer("bores", boreKey, "parts", part, "copies", ...k);
  const words = (key: string) => (copies.find((p) => p.key === key)?.path ?? key).replaceAll("_", " ");
  if (!copies.length) return null;
  return (
    <>
      {Object.entries(said).map(([key, own]) => (
        <div key={key} className="inset">
          <ChoiceField
            label={words(key)}
            value={own.action ?? "cut"}
            data={[...DOES.map((d) => ({ value: d, label: ACTED[d] })), { value: "same", label: "as the original" }]}
            onSave={(v) =>
              void commit(
                `${bore.name}: ${words(key)} is ${v === "same" ? "as the original" : ACTED[v as BoreDoes]}`,
                v === "same"
                  ? [{ op: "remove", path: path(key) }]
                  : [{ op: "replace", path: path(key), value: { ...own, action: v } }],
              )
            }
          />
          {(own.action === "cut" || own.action === "drill") && (
            <EntryField
              path={`${path(key)}/fit`}
              label="Fit there"
              optional
              placeholder="as the original's"
              edit={`${bore.name} in ${words(key)}, fit`}
              fits="shaft"
            />
          )}
        </div>
      ))}
      <Menu>
        <Menu.Target>
          <Button size="compact-xs">Otherwise in a copy</Button>
        </Menu.Target>
        <Menu.Dropdown>
          {copies
            .filter((p) => !said[p.key])
            .map((p) => (
              <Menu.Item
                key={p.key}
                onClick={() =>
                  void commit(`${bore.name}: ${words(p.key)} is marked`, [
                    { op: "add", path: path(), value: { ...said, [p.key]: { action: "mark" } } },
                  ])
                }
              >
                {words(p.key)}
              </Menu.Item>
            ))}
        </Menu.Dropdown>
      </Menu>
    </>
  );
}
