// Views of a sheet: its own, which can be left out, and those put on it: from any side, of a part or group, at a step, pulled apart.
import { Button, Checkbox, CloseButton, NumberInput, Select, Slider } from "@mantine/core";
import { useState } from "react";
import type { PaperOut } from "../../api/types";
import { useShown } from "../../state/design";
import { useForms } from "../../state/forms";
import { operate } from "../../state/operations";

type Props = { subject: string; paper: PaperOut | undefined; onFault: (fault: string) => void };
type Look = "corner";

/** What is called so in the list of a sheet's own views. */
const OWN: Record<string, string> = {
  front: "front or face",
  left: "from the left",
  top: "from above",
  corner: "from the corner",
};

export function Views({ subject, paper, onFault }: Props) {
  const { doc } = useShown()!;
  const form = useForms().paper_view;
  const said = doc.papers?.sheets?.[subject];
  const kind = subject.split(":")[0];
  if (!form || ["list", "template", "cover"].includes(kind)) return null;
  const looks = form.fields.find((f) => f.name === "look")?.choices ?? [];
  const put = Object.entries(said?.views ?? {}).sort((a, b) => (a[1].order ?? 0) - (b[1].order ?? 0));
  const details = Object.entries(said?.details ?? {}).sort((a, b) => (a[1].order ?? 0) - (b[1].order ?? 0));
  const out = said?.without ?? [];
  const own = [...(paper?.views ?? []).map((v) => v.name.slice(5)), ...out].filter((n) => n in OWN);
  const away = async (name: string) => onFault(await operate({ operation: "remove_from_paper", subject, name }));
  return (
    <fieldset className="sections" aria-label="Views">
      <b>Views</b>
      {own.length > 0 && (kind === "whole" || kind === "part") && (
        <div className="row" style={{ flexWrap: "wrap", gap: 8 }}>
          {[...new Set(own)].sort().map((name) => (
            <Checkbox
              key={name}
              size="xs"
              label={OWN[name]}
              checked={!out.includes(name)}
              onChange={async (e) =>
                onFault(await operate({ operation: "show_view", subject, name, shown: e.currentTarget.checked }))
              }
            />
          ))}
        </div>
      )}
      {put.map(([key, v], n) => (
        <div className="row" key={key}>
          <span className="grow">
            {v.called || `View ${n + 1}: ${looks.find((l) => l.value === (v.look ?? "corner"))?.label.toLowerCase()}`}
            {v.step ? `, step ${v.step}` : ""}
            {v.apart ? ", pulled apart" : ""}
          </span>
          <CloseButton size="sm" aria-label={`Take view ${n + 1} away`} onClick={() => void away(`view/${key}`)} />
        </div>
      ))}
      {details.map(([key, d], n) => (
        <div className="row" key={key}>
          <span className="grow">
            Detail {"ZYXWVUTS"[n]}, {d.across ?? 20} mm across
          </span>
          <CloseButton size="sm" aria-label={`Take detail ${"ZYXWVUTS"[n]} away`} onClick={() => void away(`detail/${key}`)} />
        </div>
      ))}
      <NewView subject={subject} whole={kind !== "part" && kind !== "flat"} onFault={onFault} looks={looks} />
    </fieldset>
  );
}

type NewProps = {
  subject: string;
  whole: boolean;
  looks: readonly { value: string; label: string }[];
  onFault: (fault: string) => void;
};

function NewView({ subject, whole, looks, onFault }: NewProps) {
  const { doc, built } = useShown()!;
  const [look, setLook] = useState("corner");
  const [of, setOf] = useState("");
  const [step, setStep] = useState<number | string>("");
  const [apart, setApart] = useState(0);
  const [balloons, setBalloons] = useState(false);
  const solid = built.parts.filter((p) => p.solid);
  const things = [
    { value: "", label: whole ? "the whole" : "this part" },
    ...Object.entries(doc.groups ?? {}).map(([k, g]) => ({ value: `group:${k}`, label: `group ${g.name.replaceAll("_", " ")}` })),
    ...solid.map((p) => ({ value: `part:${p.key}`, label: p.path.replaceAll("_", " ") })),
  ];
  const part = of.startsWith("part:") || (!whole && !of);
  return (
    <>
      <Select
        label="Seen from"
        allowDeselect={false}
        value={look}
        data={looks.map((c) => ({ value: c.value, label: c.label }))}
        onChange={(v) => setLook(v ?? "corner")}
        comboboxProps={{ withinPortal: false }}
      />
      <Select
        label="Shows"
        allowDeselect={false}
        searchable
        value={of}
        data={things}
        onChange={(v) => setOf(v ?? "")}
        comboboxProps={{ withinPortal: false }}
      />
      {!part && (
        <>
          <NumberInput
            label="Up to step of the assembly"
            placeholder="all of it"
            min={1}
            max={10_000}
            allowDecimal={false}
            value={step}
            onChange={setStep}
          />
          <div>
            <span className="soft">Pulled apart</span>
            <Slider
              min={0}
              max={1}
              step={0.1}
              value={apart}
              onChange={setApart}
              label={null}
              color="ink"
              thumbLabel="How far the parts are pulled apart"
            />
          </div>
        </>
      )}
      <Checkbox label="Balloons" checked={balloons} onChange={(e) => setBalloons(e.currentTarget.checked)} />
      <Button
        onClick={async () => {
          const view = {
            look: look as Look,
            of,
            step: part || typeof step !== "number" ? 0 : step,
            apart: part ? 0 : apart,
            balloons,
            scale: "",
            called: "",
            hidden: false,
            order: 0,
          };
          onFault(await operate({ operation: "add_view", subject, view }));
        }}
      >
        Put the view in
      </Button>
    </>
  );
}
