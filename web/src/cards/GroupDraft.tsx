// A group that is being drafted from the parts that are selected.
import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { useDesign } from "../state/design";
import { operate } from "../state/operations";
import { words } from "../state/shape";
import { useView } from "../state/view";

export function GroupDraft({ parts }: { parts: string[] }) {
  const doc = useDesign((s) => s.doc)!;
  const { setDraft, select } = useView.getState();
  const [name, setName] = useState("group");
  const [fault, setFault] = useState("");
  return (
    <form
      onSubmit={async (e) => {
        e.preventDefault();
        const said = await operate({ operation: "group", of: parts, name });
        setFault(said);
        const made = Object.entries(useDesign.getState().doc?.groups ?? {}).find(([, g]) => g.name === name);
        if (!said && made) select({ kind: "group", key: made[0] });
      }}
    >
      <h2>Group</h2>
      <p className="soft">
        {parts.length
          ? `Of ${parts.map((p) => words(doc.parts[p]?.name ?? p)).join(", ")}. A group is moved, turned, copied and counted as a whole.`
          : "Select parts first: press them with Ctrl held, or draw a loop round them."}
      </p>
      <TextInput
        label="Name"
        value={name}
        maxLength={40}
        onChange={(e) => setName(e.target.value)}
        onKeyDown={(e) => e.stopPropagation()}
        error={fault || undefined}
      />
      <div className="row" style={{ marginTop: 12 }}>
        <Button type="submit" variant="filled" disabled={!parts.length}>
          Group them
        </Button>
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </form>
  );
}
