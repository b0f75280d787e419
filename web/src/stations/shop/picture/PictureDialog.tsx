// Taking a picture for a customer: from any side or all round, with or without ground, kept as a file or put on the cover.
import { Button, Checkbox, Modal, SegmentedControl, Select, Slider } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import { zipSync } from "three/examples/jsm/libs/fflate.module.js";
import { said } from "../../../api/client";
import { useShown } from "../../../state/design";
import { putOnCover } from "../../../state/papers";
import { type Shot, Studio } from "./studio";

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
/** How wide the picture is that is shown here, and the one for the cover (pixels). */
const SHOWN = 760;
const COVER = 2000;

export function PictureDialog({ onClose }: { onClose: () => void }) {
  const shown = useShown();
  const canvas = useRef<HTMLCanvasElement>(null);
  const studio = useRef<Studio | null>(null);
  const [shot, setShot] = useState(BEGIN);
  const [shape, setShape] = useState("4 : 3");
  const [wide, setWide] = useState(2000);
  const [turns, setTurns] = useState("24");
  const [busy, setBusy] = useState("");
  const [why, setWhy] = useState("");
  const [ready, setReady] = useState(0);
  const ratio = SHAPES[shape];
  const { built, doc } = shown ?? {};

  useEffect(() => {
    if (!built || !doc) return;
    try {
      studio.current = new Studio(built, doc);
      setReady((n) => n + 1);
    } catch {
      setWhy("This browser draws no pictures in three dimensions here.");
    }
    return () => {
      studio.current?.dispose();
      studio.current = null;
    };
  }, [built, doc]);

  useEffect(() => {
    const frame = requestAnimationFrame(() => {
      const now = canvas.current;
      if (!now || !studio.current || !ready) return;
      const high = Math.round(SHOWN / ratio);
      studio.current.take(shot, SHOWN, high, now, false);
      now.dataset.taken = `${shot.around} ${shot.up}`;
    });
    return () => cancelAnimationFrame(frame);
  }, [shot, ratio, ready]);

  const set = (change: Partial<Shot>) => setShot((s) => ({ ...s, ...change }));

  function drawn(at: Shot, width: number): Promise<Blob> {
    const large = document.createElement("canvas");
    studio.current!.take(at, width, Math.round(width / ratio), large, true);
    return new Promise((done, failed) =>
      large.toBlob((b) => (b ? done(b) : failed(new Error("The picture could not be written."))), "image/png"),
    );
  }

  async function busily(what: string, act: () => Promise<void>) {
    setBusy(what);
    setWhy("");
    try {
      await act();
    } catch (error) {
      setWhy(said(error));
    } finally {
      setBusy("");
    }
  }

  const name = (doc?.name ?? "design").toLowerCase().replace(/[^a-z0-9]+/g, "-");
  const save = () => busily("save", async () => fileOf(await drawn(shot, wide), `${name}.png`));
  const cover = () =>
    busily("cover", async () => {
      const fault = await putOnCover(new File([await drawn(shot, COVER)], `${name}.png`, { type: "image/png" }));
      if (fault) throw new Error(fault);
      onClose();
    });
  const around = () =>
    busily("around", async () => {
      const count = Number(turns);
      const files: Record<string, Uint8Array> = {};
      for (let n = 0; n < count; n++) {
        const picture = await drawn({ ...shot, around: shot.around + (360 * n) / count }, Math.min(wide, 2000));
        files[`${name}-${String(n + 1).padStart(3, "0")}.png`] = new Uint8Array(await picture.arrayBuffer());
        setBusy(`around ${n + 1} of ${count}`);
        await new Promise((next) => setTimeout(next));
      }
      fileOf(new Blob([zipSync(files, { level: 0 }) as BlobPart], { type: "application/zip" }), `${name}-all-round.zip`);
    });

  const side = `${shot.around} ${shot.up}`;
  return (
    <Modal opened onClose={onClose} title="Picture" size={1080} centered>
      <div className="pictureroom">
        <canvas ref={canvas} role="img" aria-label="The picture" data-clear={shot.clear || undefined} />
        <div className="picturesettings">
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
          <Checkbox
            label="Ground with a shadow"
            checked={shot.ground}
            onChange={(e) => set({ ground: e.currentTarget.checked })}
          />
          <Checkbox label="Clear behind it" checked={shot.clear} onChange={(e) => set({ clear: e.currentTarget.checked })} />
          <Checkbox label="Edges drawn" checked={shot.lines} onChange={(e) => set({ lines: e.currentTarget.checked })} />
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
          <Button variant="filled" loading={busy === "save"} disabled={Boolean(busy)} onClick={() => void save()}>
            Save as PNG
          </Button>
          <Button loading={busy === "cover"} disabled={Boolean(busy)} onClick={() => void cover()}>
            Put it on the cover
          </Button>
          <div className="row" style={{ alignItems: "flex-end" }}>
            <Select
              label="All round"
              allowDeselect={false}
              value={turns}
              data={["8", "12", "24", "36", "72"].map((n) => ({ value: n, label: `${n} pictures` }))}
              onChange={(v) => setTurns(v ?? "24")}
            />
            <Button disabled={Boolean(busy)} onClick={() => void around()}>
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

/** Hands a file to the browser. */
function fileOf(content: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
