// The shape of a connector: drawn from its sockets, or read from a file in which the point of its lines is stated.
import { Button } from "@mantine/core";
import { useRef, useState } from "react";
import { said } from "../api/client";
import { EntryField } from "../fields/EntryField";
import { type Axis, type Connector, pointer } from "../lib/document";
import { lengths } from "../lib/figures";
import { fresh, useDesign } from "../state/design";
import { readSolid } from "../state/files";

const AXES: [Axis, string][] = [
  ["x", "From its left"],
  ["y", "From its front"],
  ["z", "From below"],
];

export function ConnectorShape({ partKey, connector }: { partKey: string; connector: Connector }) {
  const { display } = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const file = useRef<HTMLInputElement>(null);
  const [fault, setFault] = useState("");
  const path = (field: string) => pointer("parts", partKey, field);
  const { solid } = connector;

  async function read(chosen: File) {
    setFault("");
    try {
      const shape = (await readSolid(chosen)) as NonNullable<Connector["solid"]>;
      const half = shape.size.map((mm) => fresh(`${Number((mm / 2).toFixed(3))} mm`));
      const middle = Object.fromEntries(AXES.map(([a], i) => [a, half[i]]));
      await commit(`${connector.name}: its shape from ${shape.source}`, [
        { op: "add", path: path("solid"), value: shape },
        { op: "add", path: path("middle"), value: middle },
      ]);
    } catch (error) {
      setFault(said(error));
    }
  }

  return (
    <section>
      <h3>
        <span>Shape</span>
        <Button size="compact-xs" onClick={() => file.current?.click()}>
          From a STEP file…
        </Button>
      </h3>
      <input
        ref={file}
        type="file"
        accept=".step,.stp"
        aria-label="STEP file of a connector"
        hidden
        onChange={(e) => {
          const chosen = e.currentTarget.files?.[0];
          e.currentTarget.value = "";
          if (chosen) void read(chosen);
        }}
      />
      {fault && (
        <div className="error" role="alert">
          {fault}
        </div>
      )}
      {solid ? (
        <>
          <div className="soft">
            From {solid.source}, <span className="figure">{lengths(solid.size, display)}</span>. The point of its lines lies:
          </div>
          {AXES.map(([a, label]) => (
            <EntryField
              key={a}
              path={pointer("parts", partKey, "middle", a)}
              label={label}
              axis={a}
              edit={`${connector.name}, where its lines meet`}
            />
          ))}
          <Button
            size="compact-xs"
            onClick={() =>
              void commit(`${connector.name}: drawn from its sockets`, [
                { op: "remove", path: path("solid") },
                { op: "remove", path: path("middle") },
              ])
            }
          >
            Draw it from its sockets
          </Button>
        </>
      ) : (
        <div className="soft">Drawn from its sockets and its wall.</div>
      )}
    </section>
  );
}
