// The picture behind a drawing: laid from a file, then scaled, straightened, moved and cropped by places that are pressed on it.
import { Button, FileButton, NumberInput, Slider, Switch } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import { said } from "../api/client";
import type { DrawingOut } from "../api/types";
import { useDesign } from "../state/design";
import { keepPicture } from "../state/files";
import { BACKDROP, type BackdropTool, useOutline } from "../state/outline";

type Where = { part: string; feature: string };
type Picture = NonNullable<DrawingOut["backdrop"]>;

export function OutlineBackdrop({ d, where }: { d: DrawingOut; where: Where }) {
  const act = useOutline((s) => s.act);
  const [file, setFile] = useState<{ file: File; pages: number; page: number } | null>(null);
  const [why, setWhy] = useState("");
  const [reading, setReading] = useState(false);
  const reset = useRef<() => void>(null);

  async function read(chosen: File | null, page: number): Promise<void> {
    if (!chosen) return;
    setWhy("");
    setReading(true);
    try {
      const { pages, picture, name, wide, high, scale } = await keepPicture(chosen, page);
      setFile({ file: chosen, pages, page });
      const had = d.backdrop;
      // another page of one file lies where the one before lay
      const again = had && had.name === name && pages > 1 ? Math.hypot(had.across[0], had.across[1]) : undefined;
      await act({ operation: "lay_backdrop", ...where, picture, name, wide, high, scale: again ?? scale ?? undefined });
    } catch (error) {
      setWhy(said(error));
    } finally {
      setReading(false);
      reset.current?.();
    }
  }
  const b = d.backdrop;
  return (
    <section aria-label="Picture behind it">
      <h3>Picture behind it</h3>
      {!b && (
        <p className="soft">A sketch, a scanned sheet or a page of a PDF, to be traced. Press two places on it to scale it.</p>
      )}
      <div className="row">
        <FileButton
          resetRef={reset}
          accept="image/png,image/jpeg,application/pdf,.png,.jpg,.jpeg,.pdf"
          onChange={(chosen) => void read(chosen, 1)}
        >
          {(props) => (
            <Button size="compact-xs" loading={reading} {...props}>
              {b ? "Another picture…" : "Lay a picture behind it…"}
            </Button>
          )}
        </FileButton>
        {file && file.pages > 1 && (
          <NumberInput
            size="xs"
            w={110}
            aria-label="Page"
            prefix="page "
            suffix={` of ${file.pages}`}
            min={1}
            max={file.pages}
            value={file.page}
            onChange={(page) => typeof page === "number" && page !== file.page && void read(file.file, page)}
          />
        )}
      </div>
      {why && (
        <div className="error" role="alert">
          {why}
        </div>
      )}
      {b && <Laid b={b} path={`${d.where}/backdrop`} where={where} />}
    </section>
  );
}

function Laid({ b, path, where }: { b: Picture; path: string; where: Where }) {
  const tool = useOutline((s) => s.tool);
  const take = useOutline((s) => s.take);
  const act = useOutline((s) => s.act);
  const { commit } = useDesign.getState();
  const [strength, setStrength] = useState(b.strength);
  useEffect(() => setStrength(b.strength), [b.strength]);
  const say = (label: string, field: string, value: unknown) =>
    void commit(label, [{ op: "add", path: `${path}/${field}`, value }]);
  return (
    <>
      <div className="soft clip" title={b.name}>
        {b.name}
      </div>
      <div className="row" style={{ flexWrap: "wrap" }}>
        {(Object.keys(BACKDROP) as BackdropTool[]).map((how) => (
          <Button
            key={how}
            size="compact-xs"
            aria-pressed={tool === how}
            disabled={b.locked && how !== "crop"}
            onClick={() => take(how)}
          >
            {BACKDROP[how].words}
          </Button>
        ))}
        {b.crop.some(Boolean) && (
          <Button size="compact-xs" onClick={() => void act({ operation: "place_backdrop", ...where, how: "whole" })}>
            Show all of it
          </Button>
        )}
      </div>
      <div className="row">
        <span className="soft">Strength</span>
        <Slider
          className="grow"
          size="sm"
          min={0.05}
          max={1}
          step={0.05}
          label={(v) => `${Math.round(v * 100)} %`}
          thumbLabel="Strength of the picture"
          value={strength}
          onChange={setStrength}
          onChangeEnd={(v) => say("Strength of the picture", "strength", v)}
        />
      </div>
      <div className="row" style={{ flexWrap: "wrap" }}>
        <Switch
          size="xs"
          label="Locked"
          checked={b.locked}
          onChange={(e) =>
            say(e.currentTarget.checked ? "Lock the picture" : "Unlock the picture", "locked", e.currentTarget.checked)
          }
        />
        <Switch
          size="xs"
          label="Hidden"
          checked={b.hidden}
          onChange={(e) =>
            say(e.currentTarget.checked ? "Hide the picture" : "Show the picture", "hidden", e.currentTarget.checked)
          }
        />
        <Button size="compact-xs" onClick={() => void commit("Take the picture away", [{ op: "remove", path }])}>
          Take it away
        </Button>
      </div>
    </>
  );
}
