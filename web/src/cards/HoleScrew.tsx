// A screw into a hole that is there: the hole becomes a bore, in its place and its rows, through what lies against the board.
import { Button } from "@mantine/core";
import { useState } from "react";
import { said } from "../api/client";
import type { Feature } from "../lib/document";
import { useDesign } from "../state/design";
import { workedOut } from "../state/operations";
import { useView } from "../state/view";

export function HoleScrew({ partKey, featureKey, feature }: { partKey: string; featureKey: string; feature: Feature }) {
  const [fault, setFault] = useState("");
  if (feature.kind !== "hole") return null;
  const put = async () => {
    try {
      const { label, patch } = await workedOut({ operation: "screw_in_hole", part: partKey, feature: featureKey });
      const added = patch.find((o) => String(o.path).startsWith("/bores/"));
      if (await useDesign.getState().commit(label, patch))
        useView.getState().select({ kind: "bore", key: String(added?.path).split("/")[2] });
    } catch (error) {
      setFault(said(error));
    }
  };
  return (
    <section>
      <Button size="compact-xs" onClick={() => void put()}>
        Put a screw in it
      </Button>
      {fault && <div className="error">{fault}</div>}
    </section>
  );
}
