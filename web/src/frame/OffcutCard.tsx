// An offcut on the shelf: its true outline, label, size and place, and what can be done with it.
import { ActionIcon, Menu } from "@mantine/core";
import { IconDots } from "@tabler/icons-react";
import { type ReactNode, useState } from "react";
import type { OffcutOut } from "../api/types";
import { TextField } from "../fields/PlainField";
import type { Display } from "../lib/document";
import { area, lengths } from "../lib/figures";
import { useOffcutChanges } from "../state/offcuts";

type Props = { offcut: OffcutOut; tint: string; display: Display; on?: boolean; children?: ReactNode };

export function OffcutCard({ offcut, tint, display, on, children }: Props) {
  const { change, away } = useOffcutChanges();
  const [fault, setFault] = useState("");
  const [placing, setPlacing] = useState(false);
  const { length, width } = offcut;
  const pad = Math.max(length, width) * 0.02;
  const act = (done: Promise<string>) => void done.then(setFault);
  return (
    <div className={on ? "offcut on" : "offcut"} data-offcut={offcut.label}>
      <svg
        viewBox={`${-pad} ${-width - pad} ${length + 2 * pad} ${width + 2 * pad}`}
        role="img"
        aria-label={`Outline of ${offcut.label}`}
      >
        <path d={offcut.path} fillRule="evenodd" fill={tint} stroke="var(--ink)" vectorEffect="non-scaling-stroke" />
      </svg>
      <div className="grow">
        <div className="row" style={{ gap: 4 }}>
          <b>{offcut.label}</b>
          <span className="grow" />
          <Menu position="bottom-end">
            <Menu.Target>
              <ActionIcon size="sm" variant="subtle" aria-label={`More for ${offcut.label}`}>
                <IconDots size={15} />
              </ActionIcon>
            </Menu.Target>
            <Menu.Dropdown>
              <Menu.Item onClick={() => setPlacing(true)}>Say where it stands</Menu.Item>
              <Menu.Item disabled={offcut.rectangle} onClick={() => act(change(offcut.label, { square: true }))}>
                Cut to the largest rectangle
              </Menu.Item>
              {offcut.reserved && (
                <Menu.Item onClick={() => act(change(offcut.label, { reserved: "" }))}>
                  Set free from {offcut.reserved_name}
                </Menu.Item>
              )}
              <Menu.Item color="red" onClick={() => act(away(offcut.label))}>
                Throw away
              </Menu.Item>
            </Menu.Dropdown>
          </Menu>
        </div>
        <div className="figure">{lengths([length, width], display)}</div>
        <div className="soft">
          <span className="figure">{area(offcut.area, display)}</span>, from {offcut.origin || "the workshop"}
        </div>
        {placing ? (
          <TextField
            label="Place"
            value={offcut.place}
            onSave={(v) => {
              setPlacing(false);
              act(change(offcut.label, { place: v }));
            }}
          />
        ) : (
          <div className="soft">{offcut.place || "no place said"}</div>
        )}
        {offcut.reserved_name && <div className="warn">reserved for {offcut.reserved_name}</div>}
        {fault && <div className="error">{fault}</div>}
        {children}
      </div>
    </div>
  );
}
