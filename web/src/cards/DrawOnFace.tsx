// Opens a drawing on its face: a part's outline, which becomes one where it is none yet, or one of its shapes.
import { Button } from "@mantine/core";
import { IconPencil } from "@tabler/icons-react";
import { isPlate } from "../lib/document";
import { useDesign } from "../state/design";
import { operate } from "../state/operations";
import { useView } from "../state/view";

/** Opens the outline of a part; why it cannot be drawn, '' where it is open. */
export async function drawOutline(part: string): Promise<string> {
  const record = useDesign.getState().doc?.parts[part];
  const why = isPlate(record) && record.outline?.kind === "free" ? "" : await operate({ operation: "begin_outline", part });
  if (!why) useView.getState().setDraft({ kind: "outline", part });
  return why;
}

export function DrawOnFace({ part, feature }: { part: string; feature?: string }) {
  return (
    <Button
      leftSection={<IconPencil size={15} />}
      onClick={() => (feature ? useView.getState().setDraft({ kind: "outline", part, feature }) : void drawOutline(part))}
    >
      Draw on its face…
    </Button>
  );
}
