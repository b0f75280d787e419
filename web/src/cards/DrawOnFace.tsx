// Opens a drawing: a part's outline, a half-profile, a section or a path, which becomes one where it is none yet, or a shape or profile that is one.
import { Button } from "@mantine/core";
import { IconPencil } from "@tabler/icons-react";
import { useState } from "react";
import { drawingIn } from "../lib/drawnIn";
import { useDesign } from "../state/design";
import { operate } from "../state/operations";
import { useView } from "../state/view";

/** Opens what a part is drawn as, or what an id names; why it cannot be drawn, '' where it is open. */
export async function drawOutline(part: string): Promise<string> {
  const doc = useDesign.getState().doc;
  const why = doc && drawingIn(doc, part, "") ? "" : await operate({ operation: "begin_outline", part });
  if (!why) useView.getState().setDraft({ kind: "outline", part });
  return why;
}

/** A button that opens a drawing, which begins as what is there now, or a shape's or profile's own; what cannot be is said. */
export function DrawOnFace({
  part,
  feature,
  children = "Draw on its face…",
}: {
  part: string;
  feature?: string;
  children?: string;
}) {
  const [fault, setFault] = useState("");
  const open = () =>
    feature ? useView.getState().setDraft({ kind: "outline", part, feature }) : void drawOutline(part).then(setFault);
  return (
    <div style={{ margin: "4px 0" }}>
      <Button leftSection={<IconPencil size={15} />} onClick={open}>
        {children}
      </Button>
      {fault && <div className="error">{fault}</div>}
    </div>
  );
}
