// Taking a picture for a customer: from any side or all round, with or without ground, kept as a file or put on the cover.
import { Button, Checkbox, Modal, SegmentedControl, Select, Slider } from "@mantine/core";
import { useRef, useState } from "react";
import type { Shot } from "./studio";
import { useStudio } from "./useStudio";

const SIDES = [
  { value: "35 24", label: "Front right, from above" },
  { value: "-35 24", label: "Front left, from above" },
  { value: "145 24", label: "Back right, from above" },
  { value: "-145 24", label: "Back left, from above" },
  { value: "0 0", label: "From the front" },
  { value: "90 0", label: "From the right" },
  { value: "-90 0", label: "From the left" },
  { value: "180 0", label: "From the back" },
  { value: "0 90", label: "From above" },
];
const SHAPES: Record<string, number> = { "4 : 3": 4 / 3, "3 : 2": 3 / 2, "16 : 9": 16 / 9, "1 : 1": 1, "3 : 4": 3 / 4 };
const WIDTHS = [1000, 2000, 3000, 4000];
const BEGIN: Shot = { around: 35, up: 24, parallel: false, apart: 0, ground: true, lines: true, clear: false };

export function PictureDialog({ onClose }: { onClose: () => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [shot, setShot] = useState(BEGIN);
  const [shape, setShape] = useState("4 : 3");
  const [wide, setWide] = useState(2000);
  const [count, setCount] = useState("24");
  const { busy, why, save, cover, around } = useStudio(canvas, shot, SHAPES[shape], onClose);
  return (
    <Modal opened onClose={onClose} title="Picture" size={1080} centered>
      <div className="pictureroom">
        <canvas ref={canvas} role="img" aria-label="The picture" data-clear={shot.clear || undefined} />
        <div className="picturesettings">
          <Side shot={shot} set={(change) => setShot((s) => ({ ...s, ...change }))} />
          <div className="row">
            <Select
              label="Shape"
              allowDeselect={false}
              value={shape}
              data={Object.keys(SHAPES)}
              onChange={(v) => setShape(v ?? "4 : 3")}
            />
            <Select
              label="Wide"
              allowDeselect={false}
              value={String(wide)}
              data={WIDTHS.map((w) => ({ value: String(w), label: `${w} px` }))}
              onChange={(v) => setWide(Number(v))}
            />
          </div>
          <Button variant="filled" loading={busy === "save"} disabled={Boolean(busy)} onClick={() => void save(wide)}>
            Save as PNG
          </Button>
          <Button loading={busy === "cover"} disabled={Boolean(busy)} onClick={() => void cover()}>
            Put it on the cover
          </Button>
          <div className="row" style={{ alignItems: "flex-end" }}>
            <Select
              label="All round"
              allowDeselect={false}
              value={count}
              data={["8", "12", "24", "36", "72"].map((n) => ({ value: n, label: `${n} pictures` }))}
              onChange={(v) => setCount(v ?? "24")}
            />
            <Button disabled={Boolean(busy)} onClick={() => void around(wide, Number(count))}>
              {busy.startsWith("around ") ? busy.slice(7) : "As ZIP"}
            </Button>
          </div>
          {why && (
            <div className="error" role="alert">
              {why}
            </div>
          )}
        </div>
      </div>
    </Modal>
  );
}

/** From where it is taken, and how. */
function Side({ shot, set }: { shot: Shot; set: (change: Partial<Shot>) => void }) {
  const side = `${shot.around} ${shot.up}`;
  return (
    <>
      <Select
        label="Seen from"
        value={SIDES.some((s) => s.value === side) ? side : null}
        placeholder="turned by hand"
        data={SIDES}
        onChange={(v) => {
          const [a, u] = (v ?? side).split(" ").map(Number);
          set({ around: a, up: u });
        }}
      />
      <Turned label="Turned" value={shot.around} low={-180} high={180} onChange={(a) => set({ around: a })} />
      <Turned label="From above" value={shot.up} low={-30} high={90} onChange={(up) => set({ up })} />
      <div>
        <span className="soft">Pulled apart</span>
        <Slider
          min={0}
          max={1}
          step={0.05}
          value={shot.apart}
          label={null}
          color="ink"
          thumbLabel="How far the parts are pulled apart"
          onChange={(apart) => set({ apart })}
        />
      </div>
      <SegmentedControl
        fullWidth
        aria-label="Lens"
        value={shot.parallel ? "parallel" : "lens"}
        onChange={(v) => set({ parallel: v === "parallel" })}
        data={[
          { value: "lens", label: "as seen" },
          { value: "parallel", label: "parallel" },
        ]}
      />
      <Checkbox label="Ground with a shadow" checked={shot.ground} onChange={(e) => set({ ground: e.currentTarget.checked })} />
      <Checkbox label="Clear behind it" checked={shot.clear} onChange={(e) => set({ clear: e.currentTarget.checked })} />
      <Checkbox label="Edges drawn" checked={shot.lines} onChange={(e) => set({ lines: e.currentTarget.checked })} />
    </>
  );
}

type TurnedProps = { label: string; value: number; low: number; high: number; onChange: (value: number) => void };

function Turned({ label, value, low, high, onChange }: TurnedProps) {
  return (
    <div>
      <div className="row">
        <span className="soft grow">{label}</span>
        <span className="figure">{value}°</span>
      </div>
      <Slider min={low} max={high} step={1} value={value} label={null} color="ink" thumbLabel={label} onChange={onChange} />
    </div>
  );
}
