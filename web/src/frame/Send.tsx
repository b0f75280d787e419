// A sheet, or all of its stock, into the queue of a machine.
import { Button, Menu } from "@mantine/core";
import { IconSend } from "@tabler/icons-react";
import { useState } from "react";
import { Link } from "react-router";
import { useMachines } from "../state/machines";

type Props = {
  /** the sheet, from 1, of so many */
  number: number;
  of: number;
  /** what its machine cuts with: a bit, a beam; '' where that is seen when it is sent */
  kind: "bit" | "beam" | "";
  /** something keeps its program here */
  wrong?: boolean;
  size?: "compact-xs";
  /** Sends sheets, none for all of the stock; gives what went wrong as a sentence. */
  onSend: (numbers: number[], machine: string) => Promise<string>;
};

export function Send({ number, of, kind, wrong, size, onSend }: Props) {
  const machines = useMachines();
  const [busy, setBusy] = useState(false);
  const [told, setTold] = useState<{ fault: string; machine: string } | null>(null);
  const fit = (machines.data ?? []).filter((m) => !kind || !m.kind || m.kind === kind);
  if (!machines.data?.length) return null;
  async function send(numbers: number[], machine: string) {
    setBusy(true);
    setTold({ fault: await onSend(numbers, machine), machine });
    setBusy(false);
  }
  return (
    <>
      {told && !told.fault && (
        <span className="good sentto" role="status">
          It waits <Link to={`/machines?machine=${told.machine}`}>at the machine</Link>.
        </span>
      )}
      {told?.fault && (
        <span className="error sentto" role="alert">
          {told.fault}
        </span>
      )}
      <Menu position="bottom-end">
        <Menu.Target>
          <Button
            size={size}
            variant={size ? "subtle" : undefined}
            loading={busy}
            disabled={wrong || !fit.length}
            leftSection={<IconSend size={size ? 13 : 15} />}
          >
            Send
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          {fit.map((m) => (
            <Menu.Item key={m.name} onClick={() => void send([number], m.name)}>
              This sheet to {m.called}
            </Menu.Item>
          ))}
          {of > 1 &&
            fit.map((m) => (
              <Menu.Item key={`${m.name} all`} onClick={() => void send([], m.name)}>
                All {of} sheets to {m.called}
              </Menu.Item>
            ))}
        </Menu.Dropdown>
      </Menu>
    </>
  );
}
