// Which columns a sheet's tables have.
import { Button, Checkbox } from "@mantine/core";
import type { PaperOut } from "../../api/types";
import { useShown } from "../../state/design";
import { operate } from "../../state/operations";

type Props = { subject: string; paper: PaperOut | undefined; onFault: (fault: string) => void };
const TITLES: Record<string, string> = { parts: "Parts list", bends: "Bend table", holes: "Table of holes", steps: "Steps" };

export function Columns({ subject, paper, onFault }: Props) {
  const { doc } = useShown()!;
  const said = doc.papers?.sheets?.[subject]?.columns ?? {};
  if (!paper?.tables.length) return null;
  const choose = async (table: string, columns: string[]) =>
    onFault(await operate({ operation: "choose_columns", subject, table, columns }));
  return (
    <>
      {paper.tables.map((table) => {
        const shown = table.columns.filter((c) => c.shown).map((c) => c.key);
        const title = TITLES[table.name] ?? "Table";
        return (
          <fieldset className="sections" key={table.name} aria-label={`Columns: ${title}`}>
            <b>{title}: columns</b>
            <div className="row" style={{ flexWrap: "wrap", gap: 8 }}>
              {table.columns.map((c) => (
                <Checkbox
                  key={c.key}
                  size="xs"
                  label={c.head || "Value"}
                  checked={c.shown}
                  disabled={c.shown && shown.length === 1}
                  onChange={(e) =>
                    void choose(table.name, e.currentTarget.checked ? [...shown, c.key] : shown.filter((k) => k !== c.key))
                  }
                />
              ))}
            </div>
            {said[table.name] && (
              <Button size="compact-xs" onClick={() => void choose(table.name, [])}>
                As by itself
              </Button>
            )}
          </fieldset>
        );
      })}
    </>
  );
}
