// The job line: five stations with their live figures, the design's name, undo and redo.
import { ActionIcon, Menu, SegmentedControl, Tooltip, useMantineColorScheme } from "@mantine/core";
import { IconArrowBackUp, IconArrowForwardUp, IconDots, IconHome } from "@tabler/icons-react";
import { useNavigate } from "react-router";
import { cutHere, type Display } from "../lib/document";
import { percent, plural } from "../lib/figures";
import { useDesign, useShown } from "../state/design";
import { STATIONS, type Station, TITLES } from "../state/stations";
import { useView } from "../state/view";
import { useNestFigures } from "./useNestFigures";

export function JobLine() {
  const shown = useShown();
  const head = useDesign();
  const view = useView();
  const navigate = useNavigate();
  const scheme = useMantineColorScheme();
  const figures = useLiveFigures();
  if (!shown) return <header className="line" />;
  const { doc } = shown;

  function display(next: Display) {
    const unit = next === "mm" ? "mm" : "in";
    void head.commit(`Show ${next === "mm" ? "millimetres" : next === "in" ? "decimal inches" : "fractions of an inch"}`, [
      { op: "add", path: "/display", value: next },
      { op: "add", path: "/unit", value: unit },
    ]);
  }

  return (
    <header className="line">
      <div className="row">
        <Tooltip label="All designs">
          <ActionIcon aria-label="All designs" onClick={() => navigate("/")}>
            <IconHome size={18} />
          </ActionIcon>
        </Tooltip>
        <div className="name" style={{ width: 150 }}>
          <div className="clip" style={{ fontWeight: 700, fontSize: 15 }} title={doc.name}>
            {doc.name}
          </div>
          <div className="soft" style={{ fontSize: 11.5 }} role="status">
            {head.offline
              ? "not saved yet"
              : head.saving
                ? "saving…"
                : head.trying
                  ? "trying a value"
                  : `saved, revision ${head.revision}`}
          </div>
        </div>
      </div>
      <nav className="stations" aria-label="Job line">
        {STATIONS.map((s, i) => (
          <button
            type="button"
            key={s}
            className="station"
            aria-current={view.station === s}
            onClick={() => view.go(s)}
            title={`Key ${i + 1}`}
          >
            <span className="stop" />
            <span className="title">{TITLES[s]}</span>
            <span className="live clip" data-station={s}>
              {figures[s]}
            </span>
          </button>
        ))}
      </nav>
      <div className="tools">
        <SegmentedControl
          aria-label="Figures in"
          value={doc.display}
          onChange={(v) => display(v as Display)}
          data={[
            { value: "mm", label: "mm" },
            { value: "in", label: "0.1 in" },
            { value: "fraction", label: "1/8 in" },
          ]}
        />
        <Tooltip label={head.undo ? `Undo: ${head.undo}` : "Nothing to undo"}>
          <ActionIcon aria-label="Undo" disabled={!head.undo} onClick={() => void head.step("undo")}>
            <IconArrowBackUp size={18} />
          </ActionIcon>
        </Tooltip>
        <Tooltip label={head.redo ? `Redo: ${head.redo}` : "Nothing to redo"}>
          <ActionIcon aria-label="Redo" disabled={!head.redo} onClick={() => void head.step("redo")}>
            <IconArrowForwardUp size={18} />
          </ActionIcon>
        </Tooltip>
        <Menu>
          <Menu.Target>
            <ActionIcon aria-label="More">
              <IconDots size={18} />
            </ActionIcon>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => view.setDialog("quick")} rightSection={<span className="kbd">/</span>}>
              Quick bar
            </Menu.Item>
            <Menu.Item onClick={() => view.setDialog("history")}>History</Menu.Item>
            <Menu.Item onClick={() => view.setDialog("keys")}>Shortcuts</Menu.Item>
            <Menu.Item component="a" href={`/api/designs/${head.id}/file`}>
              Download the design file
            </Menu.Item>
            <Menu.Item onClick={() => scheme.toggleColorScheme()}>
              {scheme.colorScheme === "dark" ? "Light paper" : "Dark paper"}
            </Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </div>
    </header>
  );
}

function useLiveFigures(): Record<Station, string> {
  const shown = useShown();
  const nest = useNestFigures();
  if (!shown) return { sizes: "", build: "", flats: "", nest: "", shop: "" };
  const { doc, built } = shown;
  const open = built.problems.filter((p) => !p.kept).length;
  const flats = built.parts.filter((p) => p.flat && cutHere(p.made));
  const copies = flats.reduce((n, p) => n + p.quantity, 0);
  const bars = built.bars.reduce((n, b) => n + (b.plan?.bars ?? 0), 0);
  return {
    sizes: plural(Object.keys(doc.sizes).length, "size"),
    build: plural(built.parts.length, "part") + (open ? `, ${plural(open, "problem")}` : ""),
    flats: plural(copies, "flat"),
    nest: nest.sheets
      ? `${nest.estimate ? "about " : ""}${plural(nest.sheets, "sheet")}${nest.share !== null ? `, ${percent(nest.share)}` : ""}`
      : bars
        ? plural(bars, "bar")
        : "no sheets",
    shop: `${nest.estimate ? "about " : ""}${nest.cost.toFixed(2)} ${doc.currency}`,
  };
}
