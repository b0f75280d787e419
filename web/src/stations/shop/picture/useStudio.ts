// The studio of the open design: what it shows while a picture is set up, and the files that are made of it.
import { type RefObject, useEffect, useRef, useState } from "react";
import { zipSync } from "three/examples/jsm/libs/fflate.module.js";
import { said } from "../../../api/client";
import { useShown } from "../../../state/design";
import { putOnCover } from "../../../state/papers";
import { type Shot, Studio } from "./studio";

/** How wide the picture is that is shown here, the one for the cover, and those all round at most (pixels). */
const SHOWN = 760;
const COVER = 2000;
const ROUND = 2000;

type Room = {
  /** what is being made: 'save', 'cover', 'around 3 of 24'; '' for nothing */
  busy: string;
  why: string;
  save: (wide: number) => Promise<void>;
  cover: () => Promise<void>;
  around: (wide: number, count: number) => Promise<void>;
};

/** Shows a shot of some shape (wide over high) in a canvas, and makes files of it. */
export function useStudio(canvas: RefObject<HTMLCanvasElement | null>, shot: Shot, ratio: number, onCover: () => void): Room {
  const { built, doc } = useShown() ?? {};
  const studio = useRef<Studio | null>(null);
  const [ready, setReady] = useState(0);
  const [busy, setBusy] = useState("");
  const [why, setWhy] = useState("");

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
      if (!now || !studio.current || !ready || busy) return;
      studio.current.take(shot, SHOWN, Math.round(SHOWN / ratio), now);
      now.dataset.taken = `${shot.around} ${shot.up}`;
    });
    return () => cancelAnimationFrame(frame);
  }, [canvas, shot, ratio, ready, busy]);

  async function drawn(at: Shot, wide: number): Promise<Blob> {
    const large = document.createElement("canvas");
    if (!studio.current) throw new Error("The design is not in the studio yet.");
    await studio.current.takeFine(at, wide, Math.round(wide / ratio), large);
    return new Promise((done, failed) =>
      large.toBlob((b) => (b ? done(b) : failed(new Error("The picture could not be written."))), "image/png"),
    );
  }

  async function busily(what: string, act: () => Promise<void>) {
    setBusy(what);
    setWhy("");
    try {
      // the button says that it works before the drawing takes the browser
      await new Promise((next) => requestAnimationFrame(() => setTimeout(next)));
      await act();
    } catch (error) {
      setWhy(said(error));
    } finally {
      setBusy("");
    }
  }

  const name = nameOf(doc?.name ?? "design");
  return {
    busy,
    why,
    save: (wide) => busily("save", async () => give(await drawn(shot, wide), `${name}.png`)),
    cover: () =>
      busily("cover", async () => {
        const fault = await putOnCover(new File([await drawn(shot, COVER)], `${name}.png`, { type: "image/png" }));
        if (fault) throw new Error(fault);
        onCover();
      }),
    around: (wide, count) =>
      busily("around", async () => {
        const files: Record<string, Uint8Array> = {};
        for (let n = 0; n < count; n++) {
          setBusy(`around ${n + 1} of ${count}`);
          const picture = await drawn({ ...shot, around: shot.around + (360 * n) / count }, Math.min(wide, ROUND));
          files[`${name}-${String(n + 1).padStart(3, "0")}.png`] = new Uint8Array(await picture.arrayBuffer());
          await new Promise((next) => setTimeout(next));
        }
        give(new Blob([zipSync(files, { level: 0 }) as BlobPart], { type: "application/zip" }), `${name}-all-round.zip`);
      }),
  };
}

/** What a design's files are called. */
export const nameOf = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "") || "design";

/** Hands a file to the browser. */
function give(content: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
