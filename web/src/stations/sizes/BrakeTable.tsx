// The press brake: length, force, back-gauge, and the punches and dies that the shop has.
import { ActionIcon, Button, Menu, NumberInput, TextInput } from "@mantine/core";
import { IconTrash } from "@tabler/icons-react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, got } from "../../api/client";
import { ChoiceField, NumberField, TextField } from "../../fields/PlainField";
import { type Brake, freshKey, nextOrder, ordered, pointer } from "../../lib/document";
import { useDesign } from "../../state/design";

const PUNCH = { name: "New punch", angle: 88, radius: 1, height: 100, width: 12 };
const DIE = { name: "New die", v: 10, angle: 88, radius: 1, height: 60, width: 24 };

export function BrakeTable() {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const shelf = useQuery({ queryKey: ["workshop"], queryFn: () => got(api.GET("/api/workshop")) });
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
        <Button
          size="compact-xs"
          onClick={() => add(freshKey(brakes, "brake"), { name: "Another press brake", punches: { p: PUNCH }, dies: { d: DIE } })}
        >
          Another brake
        </Button>
      </div>
      {brake ? (
        <BrakeEditor key={doc.brake} brakeKey={doc.brake!} brake={brake} />
      ) : (
        <p className="soft">With a press brake, folded parts get tools, a back-gauge and an order of bending.</p>
      )}
    </>
  );
}

function BrakeEditor({ brakeKey, brake }: { brakeKey: string; brake: Brake }) {
  const commit = useDesign((s) => s.commit);
  const [kept, setKept] = useState("");
  const p = (...k: string[]) => pointer("brakes", brakeKey, ...k);

  async function toShelf() {
    try {
      await got(
        api.PUT("/api/workshop/{group}/{key}", {
          params: { path: { group: "brakes", key: brakeKey } },
          body: brake as unknown as Record<string, unknown>,
        }),
      );
      setKept("Kept on the shelf.");
    } catch (error) {
      setKept(error instanceof Error ? error.message : String(error));
    }
  }

  return (
    <>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "0 24px" }}>
        <div>
          <TextField
            label="Name"
            value={brake.name}
            onSave={(v) => v && void commit(`Press brake: ${v}`, [{ op: "replace", path: p("name"), value: v }])}
          />
          <NumberField
            label="Longest bend"
            value={brake.length}
            path={p("length")}
            edit={`${brake.name}, length`}
            suffix=" mm"
            min={1}
          />
          <NumberField label="Force" value={brake.force} path={p("force")} edit={`${brake.name}, force`} suffix=" kN" min={1} />
        </div>
        <div>
          <NumberField
            label="Nearest gauge"
            value={brake.gauge}
            path={p("gauge")}
            edit={`${brake.name}, nearest place of its back-gauge`}
            suffix=" mm"
          />
          <NumberField
            label="Free past punch"
            value={brake.free}
            path={p("free")}
            edit={`${brake.name}, bend past the ends of a punch`}
            suffix=" mm"
          />
          <NumberField
            label="Offset tool up to"
            value={brake.joggle}
            path={p("joggle")}
            edit={`${brake.name}, highest offset in one stroke`}
            suffix=" mm"
          />
          <NumberField
            label="Offset tool's radius"
            value={brake.joggle_radius ?? 0.5}
            path={p("joggle_radius")}
            edit={`${brake.name}, inside radius of its offset tool`}
            suffix=" mm"
          />
          <NumberField
            label="Offset tool's angle"
            value={brake.joggle_angle ?? 60}
            path={p("joggle_angle")}
            edit={`${brake.name}, steepest bend of its offset tool`}
            suffix="°"
          />
        </div>
      </div>
      <ToolTable
        title="Punches"
        base={p("punches")}
        records={brake.punches}
        columns={[
          ["angle", "Angle", "°"],
          ["radius", "Tip radius", "mm"],
          ["width", "Body", "mm"],
          ["height", "Height", "mm"],
        ]}
        fresh={PUNCH}
        brake={brake.name}
      />
      <ToolTable
        title="Dies"
        base={p("dies")}
        records={brake.dies}
        columns={[
          ["v", "V", "mm"],
          ["angle", "Angle", "°"],
          ["radius", "Shoulder R", "mm"],
          ["width", "Body", "mm"],
          ["height", "Height", "mm"],
          ["least_flange", "Least flange", "mm"],
        ]}
        fresh={DIE}
        brake={brake.name}
      />
      <div className="row">
        <Button size="compact-xs" onClick={() => void toShelf()}>
          Keep on the shelf
        </Button>
        {kept && <span className="soft">{kept}</span>}
      </div>
    </>
  );
}

type Tool = { name: string; order: number } & Record<string, unknown>;

function ToolTable({
  title,
  base,
  records,
  columns,
  fresh,
  brake,
}: {
  title: string;
  base: string;
  records: Record<string, Tool>;
  columns: [string, string, string][];
  fresh: Record<string, unknown>;
  brake: string;
}) {
  const commit = useDesign((s) => s.commit);
  const one = title === "Dies" ? "die" : "punch";
  return (
    <>
      <div className="row" style={{ marginTop: 10 }}>
        <h3 className="grow" style={{ margin: 0 }}>
          {title}
        </h3>
        <Button
          size="compact-xs"
          onClick={() =>
            void commit(`${brake}: another ${one}`, [
              { op: "add", path: `${base}/${freshKey(records, one)}`, value: { ...fresh, order: nextOrder(records) } },
            ])
          }
        >
          Another {one}
        </Button>
      </div>
      <table className="plain toolset" aria-label={title}>
        <thead>
          <tr>
            <th>Name</th>
            {columns.map(([field, label, unit]) => (
              <th key={field} className="num">
                {label}, {unit}
              </th>
            ))}
            <th />
          </tr>
        </thead>
        <tbody>
          {ordered(records).map(([key, tool]) => (
            <tr key={key}>
              <td>
                <ToolName
                  value={tool.name}
                  label={`Name of ${tool.name}`}
                  onSave={(v) => void commit(`${brake}: ${v}`, [{ op: "replace", path: `${base}/${key}/name`, value: v }])}
                />
              </td>
              {columns.map(([field, label]) => (
                <td key={field} className="num">
                  <ToolNumber
                    value={tool[field] as number | undefined}
                    label={`${label} of ${tool.name}`}
                    onSave={(v) =>
                      void commit(`${tool.name}, ${label.toLowerCase()}: ${v ?? "not said"}`, [
                        v === undefined
                          ? { op: "remove", path: `${base}/${key}/${field}` }
                          : { op: "add", path: `${base}/${key}/${field}`, value: v },
                      ])
                    }
                  />
                </td>
              ))}
              <td className="num">
                <ActionIcon
                  variant="subtle"
                  size="sm"
                  aria-label={`Remove ${tool.name}`}
                  onClick={() => void commit(`${brake}: without ${tool.name}`, [{ op: "remove", path: `${base}/${key}` }])}
                >
                  <IconTrash size={14} />
                </ActionIcon>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function ToolName({ value, label, onSave }: { value: string; label: string; onSave: (text: string) => void }) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  return (
    <TextInput
      size="xs"
      aria-label={label}
      value={text}
      maxLength={60}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => (text.trim() && text.trim() !== value ? onSave(text.trim()) : setText(value))}
      onKeyDown={(e) => e.stopPropagation()}
    />
  );
}

function ToolNumber({ value, label, onSave }: { value?: number; label: string; onSave: (n: number | undefined) => void }) {
  const [number, setNumber] = useState<number | string>(value ?? "");
  useEffect(() => setNumber(value ?? ""), [value]);
  function save() {
    if (number === "" && value !== undefined) onSave(undefined);
    else if (typeof number === "number" && number !== value) onSave(number);
    else setNumber(value ?? "");
  }
  return (
    <NumberInput
      size="xs"
      aria-label={label}
      value={number}
      min={0}
      miw={52}
      placeholder="by V"
      onChange={setNumber}
      onBlur={save}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") save();
      }}
      hideControls
      classNames={{ input: "mono" }}
      styles={{ input: { textAlign: "right" } }}
    />
  );
}
