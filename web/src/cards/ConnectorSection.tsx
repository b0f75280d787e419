// A connector: how it is made, how it stands on its point, its sockets and what lies in them.
import { ActionIcon, Button, Tooltip } from "@mantine/core";
import { IconTrash } from "@tabler/icons-react";
import { useState } from "react";
import type { ConnectorOut } from "../api/types";
import { ChoiceField, NumberField } from "../fields/PlainField";
import { type Connector, freshKey, nextOrder, ordered, pointer, sheetsOf } from "../lib/document";
import { length } from "../lib/figures";
import { useDesign, useShown } from "../state/design";
import { useForms } from "../state/forms";
import { words } from "../state/shape";
import { useView } from "../state/view";
import { ConnectorShape } from "./ConnectorShape";
import { lineWords } from "./FrameCard";
import { RecordForm } from "./RecordForm";

type Of = { partKey: string; connector: Connector };

const MADE = [
  { value: "bought", label: "bought" },
  { value: "printed", label: "printed" },
  { value: "turned", label: "turned" },
];

/** What it is made of and costs. */
export function ConnectorMaking({ partKey, connector }: Of) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const set = (field: string, said: string) => (value: string) =>
    void commit(`${connector.name}: ${said}`, [
      { op: "add", path: pointer("parts", partKey, field), value: value === "none" ? "" : value },
    ]);
  return (
    <>
      <ChoiceField label="Made" value={connector.made ?? "bought"} data={MADE} onSave={(v) => set("made", v)(v)} />
      <ChoiceField
        label="Stock"
        value={connector.stock || "none"}
        data={[{ value: "none", label: "none of these" }, ...sheetsOf(doc).map(([value, s]) => ({ value, label: s.name }))]}
        onSave={(v) => set("stock", "its stock")(v)}
      />
      <NumberField
        label={`Price, ${doc.currency}`}
        value={connector.price ?? 0}
        path={pointer("parts", partKey, "price")}
        edit={`${connector.name}, price`}
        step={0.5}
      />
    </>
  );
}

/** How it stands on its point, and its sockets. */
export function ConnectorPlace({ partKey, connector }: Of) {
  const doc = useDesign((s) => s.doc)!;
  const shown = useShown()!;
  const forms = useForms();
  const commit = useDesign((s) => s.commit);
  const { select } = useView.getState();
  const [open, setOpen] = useState("");
  const built = shown.built.parts.find((p) => p.key === partKey)?.connector;
  const frame = doc.frames[connector.frame];
  const number = frame ? ordered(frame.points).findIndex(([k]) => k === connector.point) + 1 : 0;
  const sockets = ordered(connector.sockets);

  function another() {
    const next = ((connector.another ?? 0) + 1) % (built?.ways ?? 1);
    void commit(`${connector.name}: stands another way`, [
      { op: "add", path: pointer("parts", partKey, "another"), value: next },
    ]);
  }

  function addSocket() {
    const key = freshKey(connector.sockets, "s1");
    void commit(`${connector.name}: a socket more`, [
      {
        op: "add",
        path: pointer("parts", partKey, "sockets", key),
        value: { order: nextOrder(connector.sockets), toward: "up" },
      },
    ]).then((fine) => fine && setOpen(key));
  }

  return (
    <>
      <section>
        <h3>
          <span>Sockets</span>
          <Button size="compact-xs" onClick={addSocket}>
            Add a socket
          </Button>
        </h3>
        {sockets.map(([key, socket], n) => (
          <div key={key}>
            <div className="row">
              <button
                type="button"
                className="linkrow grow"
                aria-expanded={open === key}
                onClick={() => setOpen(open === key ? "" : key)}
              >
                <b>{n + 1}</b>
                <SocketWords told={built?.sockets.find((s) => s.key === key)} through={Boolean(socket.through)} />
              </button>
              {sockets.length > 1 && (
                <Tooltip label="Take the socket away">
                  <ActionIcon
                    aria-label={`Remove socket ${n + 1}`}
                    onClick={() =>
                      void commit(`${connector.name}: a socket less`, [
                        { op: "remove", path: pointer("parts", partKey, "sockets", key) },
                      ])
                    }
                  >
                    <IconTrash size={15} />
                  </ActionIcon>
                </Tooltip>
              )}
            </div>
            {open === key && forms.socket && (
              <div className="inset">
                <SocketRoom told={built?.sockets.find((s) => s.key === key)} />
                {socket.line && (
                  <div className="soft">
                    Looks along line {frame ? lineWords(frame, socket.line) : "gone"}, whatever that does.
                  </div>
                )}
                <RecordForm
                  form={forms.socket}
                  path={["parts", partKey, "sockets", key]}
                  record={{ ...socket }}
                  title={`${connector.name}, socket ${n + 1}`}
                  skip={socket.line ? ["toward", "lean", "lean_to", "swings"] : socket.through ? ["depth"] : []}
                />
              </div>
            )}
          </div>
        ))}
      </section>
      <ConnectorShape partKey={partKey} connector={connector} />
      <section>
        <h3>
          <span>{forms.connector?.title}</span>
          <Button size="compact-xs" onClick={() => select({ kind: "frame", key: connector.frame })}>
            {words(frame?.name ?? "frame")}, point {number}
          </Button>
        </h3>
        {(built?.ways ?? 1) > 1 && (
          <div className="row">
            <span className="grow soft">
              Stands {built!.ways} ways on its lines; this is {((connector.another ?? 0) % built!.ways) + 1}.
            </span>
            <Button size="compact-xs" onClick={another}>
              Another way
            </Button>
          </div>
        )}
        {forms.connector && (
          <RecordForm
            form={forms.connector}
            path={["parts", partKey]}
            record={{ ...connector }}
            title={connector.name}
            skip={["another", ...(connector.base ? [] : ["base_thick"])]}
          />
        )}
      </section>
    </>
  );
}

/** What lies in a socket, how deep, and how much room it has there. */
function SocketWords({ told, through }: { told: ConnectorOut["sockets"][number] | undefined; through: boolean }) {
  const { display } = useDesign((s) => s.doc)!;
  const parts = useShown()!.built.parts;
  if (!told?.member) return <span className="grow warn">nothing lies in it</span>;
  const member = parts.find((p) => p.key === told.member);
  return (
    <>
      <span className="grow clip">{words(member?.path ?? told.member)}</span>
      <span className="soft figure">{through ? "runs through" : `${length(told.deep, display)} deep`}</span>
    </>
  );
}

/** How far its mouth is from the middle, and how much room a tube has in it. */
function SocketRoom({ told }: { told: ConnectorOut["sockets"][number] | undefined }) {
  const { display } = useDesign((s) => s.doc)!;
  if (!told) return null;
  return (
    <div className="soft">
      Its mouth is <span className="figure">{length(told.stand_off, display)}</span> from the middle
      {told.gap !== null && (
        <>
          , and it is <span className="figure">{length(Math.abs(told.gap), display)}</span>{" "}
          {told.gap < 0 ? "tighter than its tube" : "wider than its tube"}
        </>
      )}
      .
    </div>
  );
}
