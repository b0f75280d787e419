// What is put on a paper by hand: dimensions, angles, notes and symbols, details, and sheets put into the set.
import { Button, Menu } from "@mantine/core";
import { IconPlus } from "@tabler/icons-react";
import { useDesign } from "../../state/design";
import { operate } from "../../state/operations";
import { usePapers } from "../../state/papers";

type Props = { drawn: boolean; any: boolean; onFault: (fault: string) => void };
const VIEW = { of: "", step: 0, apart: 0, scale: "", called: "", hidden: false, balloons: false, order: 0 };

export function PutOnPaper({ drawn, any, onFault }: Props) {
  const { tool, take } = usePapers();

  async function sheet(called: string, view: Partial<typeof VIEW>) {
    const before = new Set(Object.keys(useDesign.getState().doc?.papers?.own ?? {}));
    const views = [{ ...VIEW, look: "corner" as const, ...view }];
    const fault = await operate({ operation: "add_sheet", called, views });
    onFault(fault);
    const key = Object.keys(useDesign.getState().doc?.papers?.own ?? {}).find((k) => !before.has(k));
    if (!fault && key) usePapers.getState().turnTo(`own:${key}`);
  }

  return (
    <Menu position="bottom-start" withinPortal>
      <Menu.Target>
        <Button px={8} variant={tool ? "filled" : "default"} aria-label="Put in" title="Put something on the sheet">
          <IconPlus size={16} />
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Label>On this sheet</Menu.Label>
        <Menu.Item disabled={!drawn} onClick={() => take("dimension")}>
          Dimension
        </Menu.Item>
        <Menu.Item disabled={!drawn} onClick={() => take("angle")}>
          Angle
        </Menu.Item>
        <Menu.Item disabled={!any} onClick={() => take("note")}>
          Note or symbol
        </Menu.Item>
        <Menu.Item disabled={!drawn} onClick={() => take("detail")}>
          Detail, drawn larger
        </Menu.Item>
        <Menu.Label>A sheet more</Menu.Label>
        <Menu.Item onClick={() => void sheet("Views", {})}>Views</Menu.Item>
        <Menu.Item onClick={() => void sheet("Pulled apart", { apart: 0.8, balloons: true })}>
          Pulled apart, with balloons
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
