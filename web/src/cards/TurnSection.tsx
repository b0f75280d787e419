// Turns of a board or a group: about an edge or an axis, by an angle that may be an expression.
import { ActionIcon, Button, Menu } from "@mantine/core";
import { IconRotate, IconX } from "@tabler/icons-react";
import { EntryField } from "../fields/EntryField";
import { AXIS_WORDS, type Axis, FACES, freshKey, nextOrder, ordered, pointer, type Turn } from "../lib/document";
import { typed, useDesign } from "../state/design";
import { useForms } from "../state/forms";
import { RecordForm } from "./RecordForm";

const OTHERS: Record<Axis, [Axis, Axis]> = { x: ["y", "z"], y: ["x", "z"], z: ["x", "y"] };

/** ``name`` is the board whose edges are offered; '' for a group, which is turned about a line at stated places. */
export function TurnSection({ base, name, turns }: { base: string[]; name: string; turns: Record<string, Turn> }) {
  const { commit } = useDesign.getState();
  const form = useForms().turn;
  const add = (axis: Axis, faces: [string, string] | null) => {
    const [p, q] = OTHERS[axis];
    const entry = (face: string | undefined) => typed(face && name ? `${name}.${face}` : "0");
    const value = {
      axis,
      at: { [p]: entry(faces?.[0]), [q]: entry(faces?.[1]) },
      angle: typed(form?.fields[0].begin ?? "0"),
      order: nextOrder(turns),
    };
    const key = freshKey(turns, "turn");
    void commit(`Turn ${name || "the group"} about ${faces?.join("-") ?? axis}`, [
      { op: "add", path: pointer(...base, "turns", key), value },
    ]);
  };
  return (
    <section>
      <h3>
        <span>Turned</span>
        <Menu position="bottom-end">
          <Menu.Target>
            <Button size="compact-xs" leftSection={<IconRotate size={13} />}>
              Turn about…
            </Button>
          </Menu.Target>
          <Menu.Dropdown mah={340} style={{ overflow: "auto" }}>
            {(["x", "y", "z"] as Axis[]).flatMap((axis) => {
              const [p, q] = OTHERS[axis];
              if (!name)
                return [
                  <Menu.Item key={axis} onClick={() => add(axis, null)}>
                    a line that runs {AXIS_WORDS[axis]}
                  </Menu.Item>,
                ];
              return [
                <Menu.Label key={axis}>edges that run {AXIS_WORDS[axis]}</Menu.Label>,
                ...FACES[p].flatMap((f) =>
                  FACES[q].map((g) => (
                    <Menu.Item key={f + g} onClick={() => add(axis, [f, g])}>
                      {f} {g} edge
                    </Menu.Item>
                  )),
                ),
                <Menu.Item key={`${axis} centre`} onClick={() => add(axis, ["centre", "centre"])}>
                  its middle line
                </Menu.Item>,
              ];
            })}
          </Menu.Dropdown>
        </Menu>
      </h3>
      {Object.keys(turns).length === 0 && <div className="soft">Stands square.</div>}
      {ordered(turns).map(([key, turn]) => (
        <div key={key} style={{ borderLeft: "2px solid var(--rule)", paddingLeft: 8, marginBottom: 6 }}>
          <div className="row soft">
            <span className="grow">about a line that runs {AXIS_WORDS[turn.axis]}</span>
            <ActionIcon
              size="xs"
              aria-label="Remove turn"
              onClick={() => void commit("Remove a turn", [{ op: "remove", path: pointer(...base, "turns", key) }])}
            >
              <IconX size={13} />
            </ActionIcon>
          </div>
          {form && (
            <RecordForm form={form} path={[...base, "turns", key]} record={{ ...turn }} title={`${name || "group"}, turned`} />
          )}
          {Object.keys(turn.at).map((a) => (
            <EntryField
              key={a}
              path={pointer(...base, "turns", key, "at", a)}
              label={`line at, ${FACES[a as Axis].join("–")}`}
              axis={a as Axis}
              edit={`${name || "group"}, turned at`}
            />
          ))}
        </div>
      ))}
    </section>
  );
}
