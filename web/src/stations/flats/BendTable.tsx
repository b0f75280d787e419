// The bends of a folded part in the order in which they are bent: what to set, what to gauge, which tools, and what runs into what.
import { ActionIcon, Button, Menu } from "@mantine/core";
import { IconArrowDown, IconArrowUp, IconDownload } from "@tabler/icons-react";
import type { BendPlanOut, FlatOut, PartOut } from "../../api/types";
import { type Display, pointer } from "../../lib/document";
import { figure, length } from "../../lib/figures";
import { stepNumbers, useBendPlan } from "../../state/bending";
import { useDesign, useShown } from "../../state/design";
import { ownersOf, selectionOf, useView } from "../../state/view";

export function BendTable({ bends, part }: { bends: FlatOut["bends"]; part: PartOut }) {
  const view = useView();
  const id = useDesign((s) => s.id);
  const { commit } = useDesign.getState();
  const display = useShown()!.doc.display;
  const plan = useBendPlan(part.key, part.flat);
  const lit = ownersOf(view.selection);
  const unit = display === "mm" ? "mm" : "in";
  const numbers = stepNumbers(plan);
  const steps = plan?.steps ?? [];
  const name = part.path.replaceAll("_", " ");
  const rows = bends.map((b) => ({ ...b, number: numbers.get(b.key) ?? b.number })).sort((a, b) => a.number - b.number);
  const path = pointer("parts", part.of, "folding", "sequence");

  function move(step: number, by: number) {
    const order = steps.map((s) => s.keys[0]);
    const [key] = order.splice(step, 1);
    order.splice(step + by, 0, key);
    void commit(`${name}: step ${step + 1} of its bends ${by < 0 ? "earlier" : "later"}`, [{ op: "add", path, value: order }]);
  }

  return (
    <div className="bendtable" data-testid="bend-table">
      <div className="row">
        <span className="soft grow" data-testid="bend-order">
          {!plan || plan.finding
            ? "Trying orders of bending…"
            : !plan.brake
              ? "No press brake is chosen on Sizes: no tools, no order."
              : `${plan.brake}. ${!steps.length ? "No order was found." : plan.by_hand ? "Order by hand." : "Order found by trying."} Lengths in ${unit}, from the bend line.`}
        </span>
        {plan?.by_hand && (
          <Button
            size="compact-xs"
            onClick={() => void commit(`${name}: order of bends found by trying`, [{ op: "add", path, value: [] }])}
          >
            Find the order by trying
          </Button>
        )}
        <Button
          component="a"
          size="compact-xs"
          leftSection={<IconDownload size={14} />}
          href={`/api/designs/${id}/files/bend-table`}
        >
          Bend table, CSV
        </Button>
        <Menu position="bottom-end">
          <Menu.Target>
            <Button size="compact-xs" leftSection={<IconDownload size={14} />}>
              Brake program
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item component="a" href={`/api/designs/${id}/files/brake-program`}>
              Every stroke, as text
            </Menu.Item>
            <Menu.Item component="a" href={`/api/designs/${id}/files/brake-strokes`}>
              Every stroke, as JSON
            </Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </div>
      <table>
        <thead>
          <tr>
            <th>Step</th>
            <th>Bend</th>
            <th className="num">Length</th>
            <th className="num">Allowance</th>
            <th>Deduction</th>
            {steps.length > 0 && <th>Back-gauge</th>}
            {steps.length > 0 && <th>Tools</th>}
            {steps.length > 0 && <th className="num">kN</th>}
            {steps.length > 1 && <th aria-label="Order" />}
          </tr>
        </thead>
        <tbody>
          {rows.map((b, i) => {
            const step = steps[b.number - 1];
            const first = i === 0 || rows[i - 1].number !== b.number;
            const bad = step && step.collides.length > 0;
            return (
              <tr
                key={b.key}
                className={`${lit.includes(b.owner) ? "lit" : ""} ${bad ? "bad" : ""}`}
                onClick={() => view.select(selectionOf(b.owner, part.key))}
              >
                <BendCells bend={b} step={first ? step : undefined} first={first} display={display} />
                {step && first ? (
                  <StepCells step={step} bend={b} of={steps.length} display={display} onMove={(by) => move(b.number - 1, by)} />
                ) : (
                  steps.length > 0 && (
                    <td colSpan={steps.length > 1 ? 4 : 3} className="soft words">
                      in the same stroke
                    </td>
                  )
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

type Bend = FlatOut["bends"][number];
type Step = BendPlanOut["steps"][number];

/** What is bent; with the first bend of a step, what is done with the sheet before it and what it runs into. */
function BendCells({ bend: b, step, first, display }: { bend: Bend; step?: Step; first: boolean; display: Display }) {
  return (
    <>
      <td>
        {first ? b.number : ""}
        {step?.handling && <div className="soft words">{step.handling}</div>}
      </td>
      <td>
        <span title={`folds ${b.direction}`}>{b.direction === "up" ? "▲" : "▼"}</span> {Number(b.angle.toFixed(2))}°{" "}
        {b.angle > 175 ? "hem" : `r ${figure(b.radius, display)}`}
        {step && step.collides.length > 0 && (
          <div className="error words" data-testid="collides">
            {step.collides.join("; ")}
          </div>
        )}
      </td>
      <td className="num">{figure(b.length, display)}</td>
      <td className="num">{figure(b.allowance, display)}</td>
      <td>
        {figure(b.deduction, display)}
        <div className="soft words" title="What the deduction is measured to">
          {b.refers_to}
        </div>
      </td>
    </>
  );
}

type StepProps = { step: Step; bend: Bend; of: number; display: Display; onMove: (by: -1 | 1) => void };

/** How a step is made on the brake: gauge, tool and force; and where it may stand among the others. */
function StepCells({ step, bend: b, of, display, onMove }: StepProps) {
  const ways = [
    { by: -1, word: "earlier", last: 1, Icon: IconArrowUp },
    { by: 1, word: "later", last: of, Icon: IconArrowDown },
  ] as const;
  return (
    <>
      <td>
        {step.gauge === null ? "none" : figure(step.gauge, display)}
        <div className="soft words">{step.against}</div>
      </td>
      <td className="words">
        {step.tool || "none in the shop"}
        {step.radius !== null && Math.abs(step.radius - b.radius) > 0.01 && (
          <div className="soft words">comes out at r {length(step.radius, display)}</div>
        )}
      </td>
      <td className="num">{step.force.toFixed(0)}</td>
      {of > 1 && (
        <td>
          <span className="row" style={{ gap: 0, flexWrap: "nowrap" }}>
            {ways.map(({ by, word, last, Icon }) => (
              <ActionIcon
                key={word}
                size="sm"
                variant="subtle"
                aria-label={`Step ${b.number} ${word}`}
                disabled={b.number === last}
                onClick={(e) => {
                  e.stopPropagation();
                  onMove(by);
                }}
              >
                <Icon size={14} />
              </ActionIcon>
            ))}
          </span>
        </td>
      )}
    </>
  );
}
