// Sections of a sheet: through the middle of a view or a named place of it, and those that are there.
import { Button, Checkbox, CloseButton, Select } from "@mantine/core";
import { useState } from "react";
import type { PaperOut } from "../../api/types";
import { useShown } from "../../state/design";
import { operate } from "../../state/operations";

const VIEWS = { front: "From the front", left: "From the left", top: "From above" };
const WAYS = { x: "upright", y: "level" };
type View = keyof typeof VIEWS;
type Way = keyof typeof WAYS;

type Props = { subject: string; paper: PaperOut | undefined; onFault: (fault: string) => void };

export function Sections({ subject, paper, onFault }: Props) {
  const { doc } = useShown()!;
  const own = Object.entries(doc.papers?.sheets?.[subject]?.sections ?? {}).sort((a, b) => (a[1].order ?? 0) - (b[1].order ?? 0));
  const [cut, setCut] = useState("front x");
  const [through, setThrough] = useState("");
  const [flipped, setFlipped] = useState(false);
  const [after, setAfter] = useState("");
  const [on, setOn] = useState("");
  if (subject !== "whole" && !subject.startsWith("part:")) return null;
  const [view, way] = cut.split(" ") as [View, Way];
  const views = (Object.keys(VIEWS) as View[]).filter((v) => paper?.anchors[v]);
  const places = (paper?.anchors[view] ?? []).filter(
    (a) => !a.name.startsWith("box/") && (a.along === "both" || a.along === way),
  );
  // the places along the line beyond which a stepped section goes over to another
  const along = (paper?.anchors[view] ?? []).filter((a) => a.along === "both" || a.along !== way);
  const words = (v: View, w: Way) => `${VIEWS[v]}, ${WAYS[w]}`;
  return (
    <fieldset className="sections" aria-label="Sections">
      <b>Sections</b>
      {own.map(([key, s], n) => (
        <div className="row" key={key}>
          <span className="grow">
            {"ABCDEFGH"[n]}–{"ABCDEFGH"[n]}: {words(s.view as View, s.way as Way)}
            {s.through ? "" : ", in the middle"}
            {s.turns?.length ? ", stepped" : ""}
            {s.flipped ? ", from the other side" : ""}
          </span>
          <CloseButton
            size="sm"
            aria-label={`Take section ${"ABCDEFGH"[n]} away`}
            onClick={async () => onFault(await operate({ operation: "remove_from_paper", subject, name: `section/${key}` }))}
          />
        </div>
      ))}
      <Select
        label="Cut in the view"
        allowDeselect={false}
        value={cut}
        data={views.flatMap((v) => (Object.keys(WAYS) as Way[]).map((w) => ({ value: `${v} ${w}`, label: words(v, w) })))}
        onChange={(v) => {
          setCut(v ?? "front x");
          setThrough("");
          setAfter("");
          setOn("");
        }}
        comboboxProps={{ withinPortal: false }}
      />
      <Select
        label="Through"
        allowDeselect={false}
        searchable
        value={through}
        data={[{ value: "", label: "its middle" }, ...places.map((a) => ({ value: a.name, label: a.words }))]}
        onChange={(v) => setThrough(v ?? "")}
        comboboxProps={{ withinPortal: false }}
      />
      <Select
        label="Stepped: beyond"
        clearable
        searchable
        placeholder="it runs straight"
        value={after || null}
        data={along.map((a) => ({ value: a.name, label: a.words }))}
        onChange={(v) => setAfter(v ?? "")}
        comboboxProps={{ withinPortal: false }}
      />
      {after && (
        <Select
          label="it goes on through"
          searchable
          value={on || null}
          data={places.map((a) => ({ value: a.name, label: a.words }))}
          onChange={(v) => setOn(v ?? "")}
          comboboxProps={{ withinPortal: false }}
        />
      )}
      <Checkbox label="Seen from the other side" checked={flipped} onChange={(e) => setFlipped(e.currentTarget.checked)} />
      <Button
        disabled={own.length >= 8 || !views.length || Boolean(after && !on)}
        onClick={async () =>
          onFault(
            await operate({
              operation: "add_section",
              subject,
              section: { view, way, through, flipped, turns: after && on ? [{ after, through: on }] : [], order: 0 },
            }),
          )
        }
      >
        Put the section in
      </Button>
    </fieldset>
  );
}
