// A turned part on its card: how it is made, its steps from end to end, and what is bored, milled and cut into it.
import { ActionIcon, Button, Tooltip } from "@mantine/core";
import { IconTrash } from "@tabler/icons-react";
import { useState } from "react";
import type { Form } from "../api/types";
import { EntryField } from "../fields/EntryField";
import { ChoiceField, NumberField } from "../fields/PlainField";
import { barsOf, FACES, freshKey, nextOrder, ordered, pointer, type Turned } from "../lib/document";
import { length } from "../lib/figures";
import { fresh, useDesign, useShown } from "../state/design";
import { useForms } from "../state/forms";
import { DrawOnFace } from "./DrawOnFace";
import { RecordForm } from "./RecordForm";

const MADE = { turned: "turned on a lathe", printed: "printed", bought: "bought" };

export function TurnedMaking({ partKey, turned }: { partKey: string; turned: Turned }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const p = (...k: string[]) => pointer("parts", partKey, ...k);
  return (
    <>
      <ChoiceField
        label="Made"
        value={turned.made}
        data={Object.entries(MADE).map(([value, label]) => ({ value, label }))}
        onSave={(v) => void commit(`${turned.name}: ${v}`, [{ op: "add", path: p("made"), value: v }])}
      />
      <ChoiceField
        label="Of"
        value={turned.stock}
        data={[{ value: "", label: "another material" }, ...barsOf(doc).map(([value, s]) => ({ value, label: s.name }))]}
        onSave={(v) =>
          void commit(`${turned.name}: of ${doc.stocks[v]?.name ?? "another material"}`, [
            { op: "add", path: p("stock"), value: v },
          ])
        }
      />
      <EntryField path={p("deep")} label="Blank, diameter" edit={`${turned.name}, diameter of its blank`} />
      <NumberField
        label="Price of one"
        value={turned.price}
        path={p("price")}
        edit={`${turned.name}, price`}
        suffix={` ${doc.currency}`}
        step={0.1}
      />
      {(["a", "b"] as const).map((end) => (
        <EntryField
          key={end}
          path={p("riveted", end)}
          label={`Riveted over at ${end.toUpperCase()}`}
          optional
          placeholder="not"
          edit={`${turned.name}, end ${end.toUpperCase()} riveted over`}
        />
      ))}
    </>
  );
}

type Field = "steps" | "bores" | "flats" | "cross";
const ADDS: Record<Field, string> = { steps: "Add a step", bores: "Bore along it", flats: "Flats", cross: "Cross hole" };

export function TurnedSteps({ partKey, turned }: { partKey: string; turned: Turned }) {
  const forms = useForms();
  const commit = useDesign((s) => s.commit);
  const [open, setOpen] = useState("");
  const form: Record<Field, Form | undefined> = {
    steps: forms.turned_steps,
    bores: forms.turned_bores,
    flats: forms.turned_flats,
    cross: forms.turned_cross,
  };
  const [low, high] = FACES[turned.axis];

  function add(field: Field) {
    const records = turned[field] ?? {};
    const key = freshKey(records, field[0]);
    const begun = Object.fromEntries(
      (form[field]?.fields ?? []).flatMap((f) =>
        f.type === "entry" && f.begin && f.default === null ? [[f.name, fresh(f.begin)]] : [],
      ),
    );
    const own = field === "steps" ? { length: fresh("5 mm") } : {};
    void commit(`${turned.name}: ${ADDS[field].toLowerCase()}`, [
      {
        op: "add",
        path: pointer("parts", partKey, field),
        value: { ...records, [key]: { ...begun, ...own, order: nextOrder(records) } },
      },
    ]).then((fine) => fine && setOpen(`${field}/${key}`));
  }

  return (
    <section aria-label="Profile">
      <h3>
        Profile, from its {low} (A) to its {high} (B)
      </h3>
      {(["steps", "bores", "flats", "cross"] as const).map((field) =>
        ordered((turned[field] ?? {}) as Record<string, { order: number }>).map(([key], n) => (
          <Row
            key={`${field}/${key}`}
            partKey={partKey}
            turned={turned}
            field={field}
            recordKey={key}
            n={n}
            form={form[field]}
            open={open === `${field}/${key}`}
            onOpen={() => setOpen(open === `${field}/${key}` ? "" : `${field}/${key}`)}
          />
        )),
      )}
      {turned.drawing && <p className="soft">Its half-profile is drawn, in a plane through its axis.</p>}
      <DrawOnFace part={partKey}>{turned.drawing ? "Draw its half-profile…" : "Draw its half-profile freely…"}</DrawOnFace>
      <div className="row" style={{ flexWrap: "wrap", gap: 6 }}>
        {(Object.keys(ADDS) as Field[])
          .filter((field) => field !== "steps" || !turned.drawing)
          .map((field) => (
            <Button key={field} size="compact-xs" onClick={() => add(field)}>
              {ADDS[field]}
            </Button>
          ))}
      </div>
    </section>
  );
}

type RowProps = {
  partKey: string;
  turned: Turned;
  field: Field;
  recordKey: string;
  n: number;
  form: Form | undefined;
  open: boolean;
  onOpen: () => void;
};

const WHAT: Record<Field, string> = { steps: "Step", bores: "Bore", flats: "Flats", cross: "Cross hole" };

function Row({ partKey, turned, field, recordKey, n, form, open, onOpen }: RowProps) {
  const commit = useDesign((s) => s.commit);
  const { built, doc } = useShown()!;
  const record = turned[field]?.[recordKey] as { [name: string]: unknown } | undefined;
  const at = (name: string) => built.values[pointer("parts", partKey, field, recordKey, name)]?.value;
  const shown = (name: string) => (at(name) === undefined ? "" : length(at(name)!, doc.display));
  if (!record) return null;
  const words = {
    steps: `⌀ ${shown("across")}${record.to ? ` to ${shown("to")}` : ""}, ${record.length ? `${shown("length")} long` : "what is left"}`,
    bores: `${record.shape === "round" ? "⌀" : record.shape} ${shown("across")}, ${record.deep ? `${shown("deep")} deep` : "all through"}`,
    flats: `${record.number}, ${shown("off")} from the axis`,
    cross: `⌀ ${shown("across")} at ${shown("off")}`,
  }[field];
  const last = field === "steps" && Object.keys(turned.steps ?? {}).length === 1;
  return (
    <div>
      <div className="row">
        <button type="button" className="linkrow grow" aria-expanded={open} onClick={onOpen}>
          <span className="soft" style={{ minWidth: 74 }}>
            {WHAT[field]} {n + 1}
          </span>
          <span className="grow clip figure">{words}</span>
        </button>
        {!last && (
          <Tooltip label="Remove it">
            <ActionIcon
              aria-label={`Remove ${WHAT[field].toLowerCase()} ${n + 1}`}
              onClick={() =>
                void commit(`${turned.name}: ${WHAT[field].toLowerCase()} ${n + 1} removed`, [
                  { op: "remove", path: pointer("parts", partKey, field, recordKey) },
                ])
              }
            >
              <IconTrash size={15} />
            </ActionIcon>
          </Tooltip>
        )}
      </div>
      {open && form && (
        <div className="inset">
          <RecordForm
            form={form}
            path={["parts", partKey, field, recordKey]}
            record={record}
            title={`${turned.name}, ${WHAT[field].toLowerCase()} ${n + 1}`}
            skip={field === "steps" && !record.teeth ? ["tooth"] : []}
          />
        </div>
      )}
    </div>
  );
}
