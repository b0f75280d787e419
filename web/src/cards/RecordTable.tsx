// Records of one kind side by side, a row each, with the columns of the core's form: each change is one edit.
import type { ReactNode } from "react";
import type { Form } from "../api/types";
import { defaultOf, isAsked } from "../lib/forms";
import { RecordField } from "./RecordForm";

export type Row = {
  key: string;
  name: string;
  path: string[];
  /** Nothing where there is none yet; `instead` stands there then. */
  record?: { [field: string]: unknown };
  instead?: ReactNode;
  /** What stands at the end of the row. */
  last?: ReactNode;
};

type Props = {
  form: Form;
  /** What the rows are, over their names; nothing where the first column is a field. */
  head?: string;
  rows: Row[];
  skip?: readonly string[];
  /** Values in effect where nothing is typed, by field. */
  inEffect?: { [field: string]: string };
  last?: ReactNode;
  /** How a column's field is of a row, read out. */
  of?: "of" | "in";
  className?: string;
};

const NONE: readonly string[] = [];
/** What a column needs so that nothing in it is cut off. */
const ROOM: { [type: string]: number } = { number: 68, choice: 128, colour: 128, entry: 76 };

export function RecordTable({ form, head, rows, skip = NONE, inEffect = {}, last, of = "of", className = "" }: Props) {
  const columns = form.fields.filter((f) => !skip.includes(f.name));
  const number = (type: string) => (type === "number" ? "num" : undefined);
  return (
    <table className={`plain ${className}`} aria-label={form.title}>
      <thead>
        <tr>
          {head && <th style={{ width: "25%" }}>{head}</th>}
          {columns.map((f) => (
            <th key={f.name} className={number(f.type)} style={{ minWidth: ROOM[f.type] }}>
              {f.label}
              {f.suffix && `, ${f.suffix.trim()}`}
            </th>
          ))}
          {last !== undefined && <th style={{ width: typeof last === "string" ? "22%" : undefined }}>{last}</th>}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.key}>
            {head && <td>{row.name}</td>}
            {row.record
              ? columns.map((f) => (
                  <td key={f.name} className={number(f.type)}>
                    {isAsked(form, f, row.record ?? {}) && (
                      <div className="barefield">
                        <RecordField
                          field={f}
                          at={[...row.path, f.name]}
                          now={row.record?.[f.name] ?? defaultOf(form, f.name)}
                          record={{ ...row.record }}
                          label={f.label}
                          bare={`${f.label} ${of} ${row.name}`}
                          words={{}}
                          without={NONE}
                          inEffect={inEffect[f.name]}
                          title={row.name}
                        />
                      </div>
                    )}
                  </td>
                ))
              : columns.length > 0 && <td colSpan={columns.length}>{row.instead}</td>}
            {last !== undefined && <td className="num">{row.last}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
