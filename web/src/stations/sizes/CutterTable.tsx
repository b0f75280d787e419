// The cutter: kerf, smallest feature, bed, speeds a stock; the layers of its files; and the fits.
import { Button } from "@mantine/core";
import type { CutterForm } from "../../api/types";
import { RecordForm } from "../../cards/RecordForm";
import { RecordTable } from "../../cards/RecordTable";
import { ChoiceField } from "../../fields/PlainField";
import { type Cutter, freshKey, pointer, sheetsOf } from "../../lib/document";
import { withEntries } from "../../lib/forms";
import { fresh, useDesign } from "../../state/design";
import { useForms } from "../../state/forms";
import { FitTable } from "./FitTable";
import { PowerTest } from "./PowerTest";
import { ToolTable } from "./ToolTable";

/** Columns of speeds that say nothing of a kind of cutter. */
const SKIPPED: Record<string, string[]> = {
  laser: ["spindle", "plunge"],
  router: ["kerf", "power", "mark_power"],
  saw: ["power", "mark_power", "spindle", "plunge"],
};

/** What a tool of each table is called. */
const ONE: Record<string, string> = { bits: "bit", clamps: "clamp" };

export function CutterTable() {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const form = useForms().cutter;
  const cutter = doc.cutters[doc.cutter];
  function another() {
    const start = (form && withEntries(form.start, fresh)) as Cutter;
    const key = freshKey(doc.cutters, "laser");
    void commit("Add a cutter", [
      { op: "add", path: pointer("cutters", key), value: { ...(cutter ?? start), name: start.name } },
      { op: "replace", path: "/cutter", value: key },
    ]);
  }
  return (
    <>
      <div style={{ maxWidth: 420 }}>
        <ChoiceField
          label="Cut with"
          value={doc.cutter}
          data={Object.entries(doc.cutters).map(([value, c]) => ({ value, label: c.name }))}
          onSave={(v) => void commit(`Cut with ${doc.cutters[v].name}`, [{ op: "replace", path: "/cutter", value: v }])}
        />
      </div>
      <Button size="compact-xs" style={{ marginBottom: 12 }} disabled={!form} onClick={another}>
        Another cutter
      </Button>
      {cutter && form && <CutterEditor key={doc.cutter} cutter={cutter} form={form} />}
    </>
  );
}

function CutterEditor({ cutter, form }: { cutter: Cutter; form: CutterForm }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const base = ["cutters", doc.cutter];
  const common = { form, path: base, record: { ...cutter }, title: cutter.name, inEffect: { bit: cutter.kerf.text } };
  const speeds = sheetsOf(doc).map(([key, s]) => ({
    key,
    name: s.name,
    path: [...base, "work", key],
    record: cutter.work[key],
    instead: (
      <Button
        size="compact-xs"
        onClick={() =>
          void commit(`Speeds for ${s.name}`, [{ op: "add", path: pointer(...base, "work", key), value: form.work.start }])
        }
      >
        Give speeds
      </Button>
    ),
  }));
  const layers = form.layers.map((l) => ({
    key: l.value,
    name: l.label,
    path: [...base, "layers", l.value],
    record: cutter.layers[l.value as keyof Cutter["layers"]],
  }));
  return (
    <>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "0 24px" }}>
        <div>
          <RecordForm {...common} />
          {cutter.kind !== "saw" && (
            <>
              <h4 style={{ margin: "8px 0 4px" }}>Paths and times</h4>
              <RecordForm {...common} section="path" />
            </>
          )}
        </div>
        <div>
          <RecordForm {...common} section="bed" />
        </div>
      </div>
      <h3 style={{ margin: "10px 0 4px" }}>{form.work.title}</h3>
      <RecordTable
        form={form.work}
        head="Stock"
        of="in"
        rows={speeds}
        skip={SKIPPED[cutter.kind]}
        inEffect={{ kerf: cutter.kerf.text }}
      />
      {cutter.kind === "laser" && <PowerTest cutter={cutter} />}
      {cutter.kind === "router" && <Router cutter={cutter} base={base} form={form} />}
      {cutter.kind !== "saw" && (
        <>
          <h3 style={{ margin: "12px 0 4px" }}>{form.controller.title}: how it wants its programs</h3>
          <div style={{ maxWidth: 460 }}>
            <RecordForm
              form={form.controller}
              path={[...base, "controller"]}
              record={{ ...cutter.controller }}
              title={`${cutter.name}, controller`}
            />
          </div>
        </>
      )}
      <FitTable form={form.fits} />
      <h3 style={{ margin: "12px 0 4px" }}>{form.layer.title}</h3>
      <RecordTable form={form.layer} head="Operation" rows={layers} />
    </>
  );
}

/** How a router mills, its further bits, and what must not be run into. */
function Router({ cutter, base, form }: { cutter: Cutter; base: string[]; form: CutterForm }) {
  const records = { bits: cutter.bits ?? {}, clamps: cutter.clamps ?? {} };
  const numbers = Object.values(records.bits).map((b) => b.number ?? 2);
  return (
    <>
      <h3 style={{ margin: "12px 0 4px" }}>{form.routing.title}</h3>
      <div className="twocolumns">
        <RecordForm
          form={form.routing}
          path={[...base, "routing"]}
          record={{ ...cutter.routing }}
          title={`${cutter.name}, milling`}
        />
      </div>
      {form.tools.map((tools) => (
        <ToolTable
          key={tools.kind}
          form={tools}
          base={[...base, tools.kind]}
          records={records[tools.kind as keyof typeof records] as Record<string, { name: string; order: number }>}
          of={cutter.name}
          one={ONE[tools.kind]}
          more={tools.kind === "bits" ? { number: Math.max(1, ...numbers) + 1 } : undefined}
        />
      ))}
    </>
  );
}
