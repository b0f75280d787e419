// What is bought: the hardware of sets and joints by its standards, and bought parts.
import { Button } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import { useRef, useState } from "react";
import type { BuyOut } from "../../api/types";
import { RecordForm } from "../../cards/RecordForm";
import { NumberField } from "../../fields/PlainField";
import { pointer } from "../../lib/document";
import { mass, money } from "../../lib/figures";
import { readOwner } from "../../lib/owner";
import { useShown } from "../../state/design";
import { useForms } from "../../state/forms";
import { operate } from "../../state/operations";
import { useView } from "../../state/view";

const LIST = ["hardware"];

export function BuyTable({ base }: { base: string }) {
  const { doc, built } = useShown()!;
  const form = useForms().hardware_list;
  const rows = built.to_buy;
  if (!rows.length) return null;
  const { order: total, unpriced } = built.totals;
  return (
    <div className="paper">
      <div className="row" style={{ marginBottom: 4 }}>
        <h2 className="grow">To buy</h2>
        <ShopList />
        <Button component="a" leftSection={<IconDownload size={15} />} href={`${base}/to-buy`}>
          To buy, CSV
        </Button>
      </div>
      {form && (
        <div style={{ maxWidth: 280 }}>
          <RecordForm form={form} path={LIST} record={{ ...doc.hardware }} title="To buy" />
        </div>
      )}
      <table className="plain" aria-label="To buy">
        <thead>
          <tr>
            <th className="num">Pieces</th>
            <th>What</th>
            <th>Standard</th>
            <th>For</th>
            <th className="num">Mass each</th>
            <th className="num">Price each, {doc.currency}</th>
            <th className="num">Price</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <Row key={r.designation || r.name} row={r} />
          ))}
        </tbody>
      </table>
      <p className="soft" style={{ margin: "8px 0 0" }}>
        {total > 0 && `${money(total, doc.currency)} together`}
        {total > 0 && unpriced > 0 && `, without ${unpriced} of no known price`}
        {total > 0 && ". "}Measures of standards are from memory: compare them with what is delivered.
      </p>
    </div>
  );
}

/** A shop's own list, with its prices and what is in no catalogue. */
function ShopList() {
  const file = useRef<HTMLInputElement>(null);
  const [fault, setFault] = useState("");
  return (
    <>
      {fault && (
        <span className="error" role="alert">
          {fault}
        </span>
      )}
      <Button title="A list with a heading row: name or designation, price, mass" onClick={() => file.current?.click()}>
        Prices from a list…
      </Button>
      <input
        ref={file}
        type="file"
        accept=".csv,.txt,.tsv"
        aria-label="List of hardware with prices"
        hidden
        onChange={async (e) => {
          const chosen = e.currentTarget.files?.[0];
          e.currentTarget.value = "";
          if (chosen) setFault(await operate({ operation: "take_list", text: await chosen.text() }));
        }}
      />
    </>
  );
}

function Row({ row }: { row: BuyOut }) {
  const { doc } = useShown()!;
  const select = useView((s) => s.select);
  const owners = row.owners.map(readOwner);
  const names = owners.map((o) =>
    o.kind === "bore"
      ? doc.bores[o.key]?.name
      : o.kind === "joint"
        ? [doc.joints[o.key]?.a, doc.joints[o.key]?.b].map((k) => doc.parts[String(k).split("@")[0]]?.name).join("–")
        : o.kind === "part"
          ? doc.parts[o.key]?.name
          : "",
  );
  const first = owners[0];
  const kind = first?.kind;
  return (
    <tr onClick={() => (kind === "bore" || kind === "joint" || kind === "part") && select({ kind, key: first.key })}>
      <td className="num figure">
        {row.quantity}
        {row.spare > 0 && <span className="soft"> ({row.spare} spare)</span>}
      </td>
      <td>
        <b>{row.name}</b>
      </td>
      <td style={{ whiteSpace: "nowrap" }}>{row.standard}</td>
      <td className="soft clip" style={{ maxWidth: 260 }} title={names.filter(Boolean).join(", ").replaceAll("_", " ")}>
        {names.filter(Boolean).join(", ").replaceAll("_", " ")}
      </td>
      <td className="num figure">{row.mass === null ? "" : mass(row.mass)}</td>
      <td className="num figure" style={{ width: 92 }} onClick={(e) => e.stopPropagation()}>
        {row.designation ? (
          <div className="barefield">
            <NumberField
              bare
              label={`Price of ${row.name}`}
              value={row.price ?? undefined}
              path={pointer("hardware", "prices", row.designation)}
              edit={`Price of ${row.name}`}
              placeholder="none"
              step={0.01}
            />
          </div>
        ) : row.price === null ? (
          ""
        ) : (
          money(row.price, doc.currency)
        )}
      </td>
      <td className="num figure">{row.total === null ? "" : money(row.total, doc.currency)}</td>
    </tr>
  );
}
