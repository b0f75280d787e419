// The press brake: length, force, back-gauge, and the punches and dies that the shop has.
import { Button, Menu } from "@mantine/core";
import type { BrakeForm } from "../../api/types";
import { RecordForm } from "../../cards/RecordForm";
import { ChoiceField } from "../../fields/PlainField";
import { type Brake, freshKey, nextOrder, ordered, pointer } from "../../lib/document";
import { useDesign } from "../../state/design";
import { useForms } from "../../state/forms";
import { useShelf } from "../../state/shelf";
import { KeepOnShelf } from "./KeepOnShelf";
import { ToolTable } from "./ToolTable";

export function BrakeTable() {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const shelf = useShelf();
  const form = useForms().brake;
  const brakes = doc.brakes ?? {};
  const offered = Object.entries(shelf.data?.brakes ?? {}).filter(([k]) => !(k in brakes));
  const brake = brakes[doc.brake ?? ""];

  function add(key: string, value: Record<string, unknown>) {
    void commit(`Press brake: ${String(value.name)}`, [
      { op: "add", path: pointer("brakes", key), value: { ...value, order: nextOrder(brakes) } },
      { op: "add", path: "/brake", value: key },
    ]);
  }

  return (
    <>
      <div style={{ maxWidth: 420 }}>
        <ChoiceField
          label="Bend on"
          value={doc.brake ?? ""}
          data={[{ value: "", label: "no press brake" }, ...ordered(brakes).map(([value, b]) => ({ value, label: b.name }))]}
          onSave={(v) =>
            void commit(v ? `Bend on ${brakes[v].name}` : "No press brake", [{ op: "add", path: "/brake", value: v }])
          }
        />
      </div>
      <div className="row" style={{ marginBottom: 12 }}>
        <Menu position="bottom-start">
          <Menu.Target>
            <Button size="compact-xs" disabled={!offered.length}>
              From the workshop's shelf
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            {offered.map(([k, b]) => (
              <Menu.Item key={k} onClick={() => add(k, b)}>
                {String(b.name)}
              </Menu.Item>
            ))}
          </Menu.Dropdown>
        </Menu>
        <Button size="compact-xs" disabled={!form} onClick={() => form && add(freshKey(brakes, "brake"), form.start)}>
          Another brake
        </Button>
      </div>
      {brake && form ? (
        <BrakeEditor key={doc.brake} brakeKey={doc.brake!} brake={brake} form={form} />
      ) : (
        <p className="soft">With a press brake, folded parts get tools, a back-gauge and an order of bending.</p>
      )}
    </>
  );
}

function BrakeEditor({ brakeKey, brake, form }: { brakeKey: string; brake: Brake; form: BrakeForm }) {
  const common = { form, path: ["brakes", brakeKey], record: { ...brake }, title: brake.name };

  return (
    <>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "0 24px" }}>
        <div>
          <RecordForm {...common} />
        </div>
        <div>
          <RecordForm {...common} section="reach" />
        </div>
      </div>
      {form.tools.map((tools) => (
        <ToolTable
          key={tools.kind}
          form={tools}
          base={["brakes", brakeKey, tools.kind]}
          records={brake[tools.kind as "punches" | "dies"]}
          of={brake.name}
          one={tools.kind === "dies" ? "die" : "punch"}
        />
      ))}
      <div className="row" style={{ marginTop: 8 }}>
        <KeepOnShelf group="brakes" of={brakeKey} record={brake} />
      </div>
    </>
  );
}
