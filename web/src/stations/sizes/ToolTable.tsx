// The tools that a machine has, a row each: added, changed, taken away.
import { ActionIcon, Button } from "@mantine/core";
import { IconTrash } from "@tabler/icons-react";
import type { StartedForm } from "../../api/types";
import { RecordTable } from "../../cards/RecordTable";
import { freshKey, nextOrder, ordered, pointer } from "../../lib/document";
import { withEntries } from "../../lib/forms";
import { fresh, useDesign } from "../../state/design";

type Tool = { name: string; order: number };
type Props = {
  form: StartedForm;
  base: string[];
  records: Record<string, Tool>;
  /** Whose they are, and what one is called. */
  of: string;
  one: string;
  /** What a new one has beside what all begin with. */
  more?: Record<string, unknown>;
};

export function ToolTable({ form, base, records, of, one, more }: Props) {
  const commit = useDesign((s) => s.commit);
  const rows = ordered(records).map(([key, tool]) => ({
    key,
    name: tool.name,
    path: [...base, key],
    record: { ...tool },
    last: (
      <ActionIcon
        variant="subtle"
        size="sm"
        aria-label={`Remove ${tool.name}`}
        onClick={() => void commit(`${of}: without ${tool.name}`, [{ op: "remove", path: pointer(...base, key) }])}
      >
        <IconTrash size={14} />
      </ActionIcon>
    ),
  }));
  const add = () =>
    commit(`${of}: another ${one}`, [
      {
        op: "add",
        path: pointer(...base, freshKey(records, one)),
        value: { ...(withEntries(form.start, fresh) as Record<string, unknown>), ...more, order: nextOrder(records) },
      },
    ]);
  return (
    <>
      <div className="row" style={{ marginTop: 10 }}>
        <h3 className="grow" style={{ margin: 0 }}>
          {form.title}
        </h3>
        <Button size="compact-xs" onClick={() => void add()}>
          Another {one}
        </Button>
      </div>
      {rows.length > 0 && <RecordTable form={form} rows={rows} last={null} className="toolset" />}
    </>
  );
}
