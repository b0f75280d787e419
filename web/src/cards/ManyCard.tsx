// The card of many things at once: what they weigh together, and what is done to all of them.
import { Button, Select } from "@mantine/core";
import { useState } from "react";
import { EntryInput } from "../fields/EntryInput";
import { startCopy, startGroup } from "../frame/commands";
import { PartChips } from "../frame/PartChips";
import {
  barsOf,
  type Entry,
  isLength,
  isPlaced,
  isPlate,
  originalOf,
  type PlacedPart,
  type PlatePart,
  pointer,
  sheetsOf,
} from "../lib/document";
import { length, mass, plural } from "../lib/figures";
import { put } from "../lib/forms";
import { readOwner } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { formOf, useFeatureWord, useForms } from "../state/forms";
import { useWeight } from "../state/measure";
import { operate } from "../state/operations";
import { words } from "../state/shape";
import { useView } from "../state/view";

export function ManyCard({ parts, features }: { parts: string[]; features: string[] }) {
  return parts.length ? <ManyParts parts={parts} /> : <ManyFeatures features={features} />;
}

function ManyParts({ parts }: { parts: string[] }) {
  const shown = useShown()!;
  const view = useView();
  const { commit } = useDesign.getState();
  const solid = parts.filter((k) => shown.built.parts.find((p) => p.key === k)?.solid);
  const weight = useWeight(solid);
  const display = shown.doc.display;
  const own = [...new Set(parts.map(originalOf))];
  const every = shown.built.parts.map((p) => p.key);
  return (
    <>
      <h2>{plural(parts.length, "part")}</h2>
      <div className="soft">
        {weight?.mass != null && <span className="figure">{mass(weight.mass)}</span>}
        {weight?.centre && (
          <>
            {" "}
            together, centre of gravity at{" "}
            <span className="figure">{weight.centre.map((x) => length(x, display)).join(", ")}</span> (right, back, up)
          </>
        )}
      </div>
      <section>
        <h3>With all of them</h3>
        <div className="row" style={{ flexWrap: "wrap" }}>
          <Button onClick={startGroup}>Group</Button>
          <Button onClick={() => startCopy("mirror")}>Mirror</Button>
          <Button onClick={() => startCopy("row")}>Repeat</Button>
          {own.length === 2 && own.every((k) => isPlate(shown.doc.parts[k])) && (
            <Button onClick={() => view.setDraft({ kind: "hang", part: own[1], on: own[0] })}>Hang one on the other</Button>
          )}
          <Button onClick={() => view.hide(parts)}>Hide</Button>
          <Button onClick={() => view.isolate(parts, every)}>Show only these</Button>
          <Button onClick={() => view.seeThrough(parts)}>See through</Button>
          <Button
            onClick={() => {
              view.select(null);
              void commit(
                `Leave out ${plural(own.length, "part")}`,
                own.map((k) => ({ op: "add", path: pointer("parts", k, "out"), value: true })),
              );
            }}
          >
            Leave out
          </Button>
        </div>
      </section>
      <OfMembers own={own.filter((k) => shown.doc.parts[k]?.kind === "member")} />
      <StockForAll own={own.filter((k) => isPlaced(shown.doc.parts[k]))} />
      <section>
        <h3>Selected</h3>
        <PartChips keys={parts} title="press to take it out" onPress={(key) => view.toggle(key)} />
      </section>
    </>
  );
}

/** What is done to members of frames together. */
function OfMembers({ own }: { own: string[] }) {
  const [fault, setFault] = useState("");
  if (own.length < 2) return null;
  return (
    <section>
      <div className="row" style={{ flexWrap: "wrap" }}>
        <Button onClick={async () => setFault(await operate({ operation: "join_members", of: own }))}>
          Join where they meet
        </Button>
        <Button onClick={async () => setFault(await operate({ operation: "bend_members", of: own }))}>Bend from one bar</Button>
      </div>
      {fault && (
        <p className="error" role="alert">
          {fault}
        </p>
      )}
    </section>
  );
}

function StockForAll({ own }: { own: string[] }) {
  const doc = useDesign((s) => s.doc)!;
  const { commit } = useDesign.getState();
  const stocks = [...new Set(own.map((k) => (doc.parts[k] as PlacedPart).stock))];
  const rods = own.filter((k) => isLength(doc.parts[k])).length;
  const offered = rods === own.length ? barsOf(doc) : sheetsOf(doc);
  if (rods && rods < own.length) return null; // what is cut from sheet and what from bars has no stock in common
  return (
    <section>
      <div className="entry">
        <label htmlFor="stock-of-all">Stock of all</label>
        <Select
          id="stock-of-all"
          aria-label="Stock of all"
          placeholder="different ones"
          value={stocks.length === 1 ? stocks[0] : null}
          data={offered.map(([value, s]) => ({ value, label: s.name }))}
          onChange={(stock) =>
            stock &&
            void commit(
              `${plural(own.length, "part")}: ${doc.stocks[stock].name}`,
              own.map((k) => ({ op: "replace", path: pointer("parts", k, "stock"), value: stock })),
            )
          }
        />
      </div>
    </section>
  );
}

function ManyFeatures({ features }: { features: string[] }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const { commit } = useDesign.getState();
  const view = useView();
  const found = features.flatMap((owner) => {
    const { part, key } = readOwner(owner);
    const feature = (doc.parts[part] as PlatePart | undefined)?.features?.[key];
    return feature ? [{ owner, part, key, feature }] : [];
  });
  const kinds = [...new Set(found.map((f) => f.feature.kind))];
  const forms = useForms();
  const featureWord = useFeatureWord();
  const entries = kinds.map((k) => formOf(forms.features, k)?.fields.filter((f) => f.type === "entry") ?? []);
  const common = (entries[0] ?? [])
    .filter((f) => entries.every((own) => own.some((g) => g.name === f.name)))
    .map((f) => ({ ...f, label: put(f.label) }));
  const [field, setField] = useState("");
  const chosen = common.find((f) => f.name === field) ?? common[0];
  const first = found[0]?.feature[chosen?.name ?? ""] as Entry | undefined;
  const [typed, setTyped] = useState<Entry | null>(null);
  const [fault, setFault] = useState("");
  const entry = typed ?? first ?? { text: "", unit: doc.unit };
  const alike = chosen && found.every((f) => (f.feature[chosen.name] as Entry | undefined)?.text === first?.text);
  async function apply(next: Entry) {
    if (!chosen) return;
    setTyped(null); // leaving the field after Enter is not a second edit
    setFault(
      await operate({
        operation: "change_many",
        of: found.map((f) => f.owner),
        field: chosen.name,
        text: next.text,
        unit: next.unit,
      }),
    );
  }
  return (
    <>
      <h2>{plural(found.length, "hole, pocket or mark", "holes, pockets and marks")}</h2>
      <div className="soft">Selected together; an entry that all of them have is changed in all of them at once.</div>
      <section>
        <h3>Change in all</h3>
        {chosen ? (
          <>
            <div className="entry">
              <label htmlFor="field-of-all">Entry</label>
              <Select
                id="field-of-all"
                aria-label="Entry of all"
                value={chosen.name}
                data={common.map((f) => ({ value: f.name, label: f.label }))}
                onChange={(v) => {
                  setField(v ?? "");
                  setTyped(null);
                }}
              />
            </div>
            <EntryInput
              label={alike ? `${chosen.label} of all` : `${chosen.label} of all (they differ)`}
              entry={entry}
              doc={doc}
              values={shown.built.values}
              kind={chosen.value_kind}
              fault={fault || undefined}
              onChange={setTyped}
              onDone={(next) => {
                if (typed) void apply(next);
              }}
              onCancel={() => setTyped(null)}
            />
          </>
        ) : (
          <div className="soft">These have no entry in common.</div>
        )}
        <Button
          style={{ marginTop: 6 }}
          onClick={() => {
            view.select(null);
            void commit(
              `Leave out ${plural(found.length, "feature")}`,
              found.map((f) => ({ op: "add", path: pointer("parts", f.part, "features", f.key, "out"), value: true })),
            );
          }}
        >
          Leave all of them out
        </Button>
      </section>
      <section>
        <h3>Selected</h3>
        {found.map((f) => (
          <button
            type="button"
            key={f.owner}
            className="linkrow"
            onClick={() => view.select({ kind: "feature", part: f.part, key: f.key })}
          >
            <span className="grow clip">
              {f.feature.name || featureWord(f.feature.kind)} in {words(doc.parts[f.part].name)}
            </span>
            <span className="figure soft">{(f.feature[chosen?.name ?? ""] as Entry | undefined)?.text ?? ""}</span>
          </button>
        ))}
      </section>
    </>
  );
}
