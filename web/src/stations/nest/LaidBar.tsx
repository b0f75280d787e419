// The piece that is picked on a sheet: where it lies, and what can be done with it by hand.
import { Button } from "@mantine/core";
import { IconFlipHorizontal, IconLock, IconLockOpen, IconRotate } from "@tabler/icons-react";
import type { SheetOut } from "../../api/types";
import type { Display } from "../../lib/document";
import { figure, unitOf } from "../../lib/figures";
import { laidKey } from "./hand";
import type { Laying } from "./useLaying";

export function LaidBar({
  hand,
  sheets,
  display,
  mirror,
  name,
}: {
  hand: Laying;
  sheets: SheetOut[];
  display: Display;
  mirror: boolean;
  name: (part: string) => string;
}) {
  const found = hand.find();
  if (!found) return null;
  const { piece, sheet } = found;
  const cut = sheets[sheet].cut;
  const what = name(piece.part);
  return (
    <div className="laidbar" role="toolbar" aria-label="The picked piece">
      <b>{what}</b>
      <span className="soft">
        on sheet {sheet + 1}, its middle at{" "}
        <span className="figure">
          {piece.middle.map((m) => figure(Math.round(m * 10) / 10, display)).join(", ")} {unitOf(display)}
        </span>
        , turned <span className="figure">{Math.round(piece.angle * 10) / 10}°</span>
        {piece.mirrored && ", turned over"}
      </span>
      <span className="grow" />
      {cut ? (
        <span className="soft">This sheet has been cut; nothing on it moves.</span>
      ) : (
        <>
          <Button
            size="compact-sm"
            leftSection={<IconRotate size={15} />}
            disabled={piece.locked}
            onClick={() => void hand.turn(false)}
          >
            Turn
          </Button>
          {mirror && (
            <Button
              size="compact-sm"
              leftSection={<IconFlipHorizontal size={15} />}
              disabled={piece.locked}
              onClick={() => void hand.turn(true)}
            >
              Turn over
            </Button>
          )}
          <Button
            size="compact-sm"
            leftSection={piece.locked ? <IconLockOpen size={15} /> : <IconLock size={15} />}
            onClick={() => void hand.lock([laidKey(piece)], !piece.locked, what)}
          >
            {piece.locked ? "Unlock" : "Lock here"}
          </Button>
        </>
      )}
      <Button size="compact-sm" variant="subtle" onClick={() => hand.setPicked("")} aria-label="Let go of the piece">
        Done
      </Button>
    </div>
  );
}
