// The set of a bore: what lies along it from the head on, how long it has to be, and its fields.
import { Button } from "@mantine/core";
import { useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { type Bore, FACES, pointer } from "../lib/document";
import { length, plural } from "../lib/figures";
import { useDesign, useShown } from "../state/design";
import { useForms } from "../state/forms";
import { operate } from "../state/operations";
import { withHead } from "./DraftSet";
import { FindHardware } from "./FindHardware";
import { RecordForm } from "./RecordForm";

const ROLES = ["screw", "rivet", "nut", "washer", "insert"];

export function SetSection({ boreKey, bore }: { boreKey: string; bore: Bore }) {
  const form = useForms().hardware;
  const commit = useDesign((s) => s.commit);
  const { built } = useShown()!;
  const [fault, setFault] = useState("");
  const said = bore.hardware;
  const where = pointer("bores", boreKey, "hardware");
  const hole = built.values[pointer("bores", boreKey, "diameter")]?.value;
  const heads = [...(form?.fields.find((f) => f.name === "head")?.choices ?? [])].filter(
    (h) => !bore.member || h.value === "none",
  );
  const take = async (designation: string) => setFault(await operate({ operation: "put_hardware", bore: boreKey, designation }));
  return (
    <section aria-label="Hardware">
      <h3>
        <span>Hardware</span>
        {said ? (
          <Button size="compact-xs" onClick={() => void commit(`${bore.name} without hardware`, [{ op: "remove", path: where }])}>
            Take it out
          </Button>
        ) : (
          <Button size="compact-xs" onClick={() => void take("")}>
            {bore.member ? "Put a nut on its end" : "Put a screw through"}
          </Button>
        )}
      </h3>
      {said && <SetLine boreKey={boreKey} />}
      <FindHardware hole={said ? undefined : hole} roles={ROLES} onTake={(h) => void take(h.designation)} />
      {fault && <div className="error">{fault}</div>}
      {said && form && (
        <>
          <ChoiceField
            label="Screw"
            value={said.head}
            data={heads}
            onSave={(head) => {
              const { length: _, ...other } = withHead(said, head as typeof said.head, form.sizes);
              void commit(`${bore.name}: ${heads.find((h) => h.value === head)?.label ?? head}`, [
                { op: "replace", path: where, value: other },
              ]);
            }}
          />
          <ChoiceField
            label="Size"
            value={said.size}
            data={(form.sizes[said.head] ?? []).map((s) => ({ value: s, label: /^\d/.test(s) ? `${s} mm` : s }))}
            onSave={(size) => void commit(`${bore.name}: ${size}`, [{ op: "replace", path: `${where}/size`, value: size }])}
          />
          <ChoiceField
            label={said.head === "none" ? "Nut away from" : "Head at"}
            value={said.side}
            data={(["low", "high"] as const).map((side, i) => ({ value: side, label: `the ${FACES[bore.axis][i]}` }))}
            onSave={(side) =>
              void commit(`${bore.name}: head at the other end`, [{ op: "replace", path: `${where}/side`, value: side }])
            }
          />
          <RecordForm form={form} path={["bores", boreKey, "hardware"]} record={{ ...said }} title={bore.name} skip={ALONE} />
        </>
      )}
    </section>
  );
}

/** Shown by themselves. */
const ALONE = ["head", "size", "side"];

/** What a set is made of, piece by piece, and what its length comes from. */
function SetLine({ boreKey }: { boreKey: string }) {
  const { built, doc } = useShown()!;
  const set = built.sets?.find((s) => s.bore === boreKey);
  if (!set) return <div className="soft">It holds nothing yet.</div>;
  const counted = new Map<string, { n: number; standard: string }>();
  for (const p of set.pieces[0]) counted.set(p.name, { n: (counted.get(p.name)?.n ?? 0) + 1, standard: p.standard });
  const held = set.places[0].parts.map((k) => built.parts.find((p) => p.key === k)?.path.replaceAll("_", " ") ?? k);
  return (
    <div style={{ margin: "2px 0 8px" }} data-testid="set">
      {[...counted].map(([name, { n, standard }]) => (
        <div key={name} className="row" style={{ gap: 6 }}>
          <span className="grow" style={{ textWrap: "balance" }}>
            {n > 1 && `${n} × `}
            {name}
          </span>
          <span className="soft">{standard}</span>
        </div>
      ))}
      <div className="soft" style={{ fontSize: 12 }}>
        Through {held.join(", ")}
        {set.needed != null &&
          set.length != null &&
          `: ${length(set.needed, doc.display)} needed, ${length(set.length, doc.display)} long`}
        {set.engaged > 0 && `, ${length(set.engaged, doc.display)} of thread hold`}.{" "}
        {set.places.length > 1 && `${plural(set.places.length, "place")}.`}
      </div>
    </div>
  );
}
