// What is done with papers: turned, set, dimensioned, written on, taken.
import { Button, Checkbox, Menu, Popover, Select } from "@mantine/core";
import { IconCamera, IconChevronLeft, IconChevronRight, IconDownload, IconZoomIn, IconZoomOut } from "@tabler/icons-react";
import { lazy, type ReactNode, Suspense, useState } from "react";
import type { PaperOut, PaperSetOut } from "../../api/types";
import { RecordForm } from "../../cards/RecordForm";
import { InPopover } from "../../fields/PlainField";
import { useDesign, useShown } from "../../state/design";
import { useForms } from "../../state/forms";
import { operate } from "../../state/operations";
import { type SheetFault, useAllPapers, usePapers } from "../../state/papers";
import { Columns } from "./Columns";
import { Committed } from "./Committed";
import { Issued } from "./Issued";
import { PutOnPaper } from "./PutOnPaper";
import { Sections } from "./Sections";
import { Logo, Templates } from "./Templates";
import { TitleBlock } from "./TitleBlock";
import { Views } from "./Views";

const PictureDialog = lazy(async () => ({ default: (await import("./picture/PictureDialog")).PictureDialog }));

const DATUMS = ["low left", "low right", "high left", "high right"];

type Props = {
  /** what Shop shows, to change it */
  kind: ReactNode;
  set: PaperSetOut;
  pages: PaperOut[];
  base: string;
  zoom: number;
  zooms: number;
  onZoom: (zoom: number) => void;
  onFault: (fault: string) => void;
};

export function PaperBar({ kind, set, pages, base, zoom, zooms, onZoom, onFault }: Props) {
  const { subject, page, turnTo } = usePapers();
  const [picture, setPicture] = useState(false);
  const at = set.sheets.findIndex((s) => s.id === subject);
  const drawn = pages.length > 0 && Object.keys(pages[page]?.anchors ?? {}).length > 0;

  function turn(by: number) {
    if (pages[page + by]) return turnTo(subject, page + by);
    const next = set.sheets[at + by];
    if (next) turnTo(next.id);
  }

  return (
    <div className="row paperbar">
      {kind}
      <Button aria-label="The sheet before" disabled={at <= 0 && page === 0} onClick={() => turn(-1)} px={6}>
        <IconChevronLeft size={16} />
      </Button>
      <Select
        aria-label="Sheet"
        searchable
        value={subject}
        className="papername"
        allowDeselect={false}
        data={set.sheets.map((s, n) => ({ value: s.id, label: `${n + 1}  ${s.title}${s.out ? " (left out)" : ""}` }))}
        onChange={(v) => v && turnTo(v)}
      />
      <Button
        aria-label="The next sheet"
        disabled={at >= set.sheets.length - 1 && page >= pages.length - 1}
        onClick={() => turn(1)}
        px={6}
      >
        <IconChevronRight size={16} />
      </Button>
      <span className="soft" style={{ whiteSpace: "nowrap" }}>
        {pages.length > 1 ? `page ${page + 1} of ${pages.length}` : ""}
      </span>
      <Button aria-label="Smaller" px={6} disabled={zoom === 0} onClick={() => onZoom(zoom - 1)}>
        <IconZoomOut size={15} />
      </Button>
      <Button aria-label="Larger" px={6} disabled={zoom === zooms - 1} onClick={() => onZoom(zoom + 1)}>
        <IconZoomIn size={15} />
      </Button>
      <PutOnPaper drawn={drawn} any={pages.length > 0} onFault={onFault} />
      <SheetSettings subject={subject} paper={pages[0]} onFault={onFault} />
      <SetSettings base={base} />
      <Button px={8} aria-label="Picture" title="A picture for a customer" onClick={() => setPicture(true)}>
        <IconCamera size={16} />
      </Button>
      <TakeSet set={set} base={base} subject={subject} />
      {picture && (
        <Suspense fallback={null}>
          <PictureDialog onClose={() => setPicture(false)} />
        </Suspense>
      )}
    </div>
  );
}

/** How this sheet is set, where it is otherwise than the set. */
type SheetProps = { subject: string; paper: PaperOut | undefined; onFault: (fault: string) => void };

function SheetSettings({ subject, paper, onFault }: SheetProps) {
  const { doc } = useShown()!;
  const form = useForms().papers;
  const own = doc.papers?.sheets?.[subject];
  const choices = (name: string) =>
    form?.fields.find((f) => f.name === name)?.choices.map((c) => ({ value: c.value, label: c.label })) ?? [];
  type Field = "out" | "size" | "scale" | "called" | "hidden" | "places" | "datum" | "bare" | "broken";
  const say = async (field: Field, value: string | boolean | null) =>
    onFault(await operate({ operation: "say_sheet", subject, field, value }));
  return (
    <Popover position="bottom-end" width={300} shadow="md" withinPortal>
      <Popover.Target>
        <Button px={10}>Sheet…</Button>
      </Popover.Target>
      <Popover.Dropdown style={{ maxHeight: 600, overflow: "auto" }}>
        <div className="stack" style={{ display: "grid", gap: 8 }}>
          <Committed label="Title" value={own?.called ?? ""} placeholder="its own" onSave={(v) => say("called", v)} />
          <Committed label="Scale" value={own?.scale ?? ""} placeholder="what fits, or 1 : 5" onSave={(v) => say("scale", v)} />
          <Select
            label="Paper"
            clearable
            placeholder="as the set"
            value={own?.size ?? null}
            data={choices("size")}
            onChange={(v) => void say("size", v)}
            comboboxProps={{ withinPortal: false }}
          />
          <Select
            label="Places of holes"
            clearable
            placeholder="as the set"
            value={own?.places ?? null}
            data={choices("places")}
            onChange={(v) => void say("places", v)}
            comboboxProps={{ withinPortal: false }}
          />
          <Select
            label="Measured from"
            allowDeselect={false}
            value={own?.datum ?? "low left"}
            data={DATUMS.map((d) => ({ value: d, label: d.replace("low", "lower").replace("high", "upper") }))}
            onChange={(v) => void say("datum", v)}
            comboboxProps={{ withinPortal: false }}
          />
          <Checkbox
            label="Hidden edges"
            checked={own?.hidden ?? doc.papers?.hidden ?? true}
            onChange={(e) => void say("hidden", e.currentTarget.checked)}
          />
          <Checkbox
            label="Break what is long"
            checked={own?.broken ?? doc.papers?.broken ?? false}
            onChange={(e) => void say("broken", e.currentTarget.checked)}
          />
          <Checkbox
            label="Only dimensions that are put in by hand"
            checked={own?.bare ?? false}
            onChange={(e) => void say("bare", e.currentTarget.checked)}
          />
          <Checkbox
            label="Leave this sheet out"
            checked={own?.out ?? false}
            onChange={(e) => void say("out", e.currentTarget.checked)}
          />
          <Views subject={subject} paper={paper} onFault={onFault} />
          <Sections subject={subject} paper={paper} onFault={onFault} />
          <Columns subject={subject} paper={paper} onFault={onFault} />
          <Button disabled={!own} onClick={async () => onFault(await operate({ operation: "clear_sheet", subject }))}>
            Everything as by itself
          </Button>
          {subject.startsWith("own:") && (
            <Button onClick={async () => onFault(await operate({ operation: "remove_sheet", key: subject.slice(4) }))}>
              Take this sheet away
            </Button>
          )}
        </div>
      </Popover.Dropdown>
    </Popover>
  );
}

/** How the whole set is set out. */
function SetSettings({ base }: { base: string }) {
  const { doc } = useShown()!;
  const form = useForms().papers;
  if (!form) return null;
  return (
    <Popover position="bottom-end" width={340} shadow="md" withinPortal>
      <Popover.Target>
        <Button px={10}>Set…</Button>
      </Popover.Target>
      <Popover.Dropdown style={{ maxHeight: 560, overflow: "auto" }}>
        <InPopover value={true}>
          <RecordForm form={form} path={["papers"]} record={{ ...doc.papers }} title="Papers" />
        </InPopover>
        <TitleBlock />
        <Logo />
        <Templates />
        <Issued base={base} />
      </Popover.Dropdown>
    </Popover>
  );
}

/** What is wrong in the set, sheet by sheet; a press turns to it. */
function Wrong({ set, faults }: { set: PaperSetOut; faults: SheetFault[] }) {
  if (!faults.length)
    return (
      <span className="good" role="status" title="Every sheet was drawn, and nothing on it has lost its place">
        all well
      </span>
    );
  return (
    <Popover position="bottom-end" width={380} shadow="md" withinPortal defaultOpened>
      <Popover.Target>
        <Button px={10} color="red">
          {faults.length} to look at
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        <div style={{ display: "grid", gap: 6 }} role="list" aria-label="What is wrong in the set">
          {faults.map((f) => (
            <div role="listitem" key={f.subject + f.text}>
              <Button size="compact-xs" onClick={() => usePapers.getState().turnTo(f.subject)}>
                {set.sheets.find((s) => s.id === f.subject)?.title ?? f.subject}
              </Button>{" "}
              {f.text}
            </div>
          ))}
        </div>
      </Popover.Dropdown>
    </Popover>
  );
}

/** The set as files; its sheets are drawn first, with a word on how far it is. */
function TakeSet({ set, base, subject }: { set: PaperSetOut; base: string; subject: string }) {
  const id = useDesign((s) => s.id);
  const all = useAllPapers(set.sheets.filter((s) => !s.out).map((s) => s.id));
  const take = async (to: string) => {
    if (await all.run()) window.location.assign(`${base}/papers?to=${to}`);
  };
  return (
    <>
      {all.looked && !all.running && <Wrong set={set} faults={all.faults} />}
      <Menu position="bottom-end" withinPortal>
        <Menu.Target>
          <Button variant="filled" px={10} leftSection={<IconDownload size={15} />} disabled={!id || all.running}>
            {all.running ? `Drawing ${all.done} of ${set.sheets.length}` : "Take"}
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Label>All sheets</Menu.Label>
          <Menu.Item onClick={() => void take("pdf")}>One PDF, true to scale</Menu.Item>
          <Menu.Item onClick={() => void take("dxf")}>DXF, a file a page</Menu.Item>
          <Menu.Item onClick={() => void take("svg")}>SVG, a file a page</Menu.Item>
          <Menu.Item onClick={() => void take("png")}>PNG, a picture a page</Menu.Item>
          <Menu.Item onClick={() => void all.run()}>Look through them</Menu.Item>
          <Menu.Label>This sheet</Menu.Label>
          {(["pdf", "dxf", "svg", "png"] as const).map((to) => (
            <Menu.Item key={to} component="a" href={`${base}/papers?to=${to}&sheet=${encodeURIComponent(subject)}`}>
              {to.toUpperCase()}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
    </>
  );
}
