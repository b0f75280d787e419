// The card of a bore: its axis, the shaft, and for each part whether it is cut, marked or left alone, with its fit.
import { Button, Menu, SegmentedControl } from "@mantine/core";
import { EntryField } from "../fields/EntryField";
import { TextField } from "../fields/PlainField";
import { AXIS_WORDS, type Axis, type Bore, FACES, pointer } from "../lib/document";
import { length } from "../lib/figures";
import { id } from "../lib/owner";
import { usePartsAlong } from "../state/boring";
import { typed, useDesign, useShown } from "../state/design";
import { CardHead } from "./CardHead";
import { removeSelected } from "./edits";
import { OutSwitch } from "./OutSwitch";
import { ProblemSection } from "./Problem";

const NOWHERE: Bore["at"] = {};
export function BoreCard({ boreKey }: { boreKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const bore = doc.bores[boreKey] as Bore | undefined;
  const met = usePartsAlong(bore?.axis ?? "x", bore?.at ?? NOWHERE);
  if (!bore) return <p className="soft">This bore is gone.</p>;
  const p = (...k: string[]) => pointer("bores", boreKey, ...k);
  const others = met.flatMap((m) => {
    const part = doc.parts[m.part];
    return part && m.how === "square" && !bore.parts[m.part] ? [[m.part, part] as const] : [];
  });
  const problems = shown.built.problems.filter((x) => x.owner === id.bore(boreKey));
  return (
    <>
      <CardHead
        title={bore.name.replaceAll("_", " ")}
        remove="Remove bore"
        onRemove={() => void removeSelected({ kind: "bore", key: boreKey })}
      />
      <div className="soft">A bore running {AXIS_WORDS[bore.axis]}</div>
      <section>
        <h3>Entries</h3>
        <TextField
          label="Name"
          value={bore.name}
          maxLength={40}
          onSave={(name) =>
            name && void commit(`Rename ${bore.name} to ${name}`, [{ op: "replace", path: p("name"), value: name }])
          }
        />
        <EntryField path={p("diameter")} label="Shaft diameter" edit={`${bore.name}, diameter`} />
        {(Object.keys(bore.at) as Axis[]).map((a) => (
          <EntryField
            key={a}
            path={p("at", a)}
            label={`${FACES[a][0]}–${FACES[a][1]} at`}
            axis={a}
            edit={`${bore.name}, place`}
          />
        ))}
        {(["low", "high"] as const).map((end, i) => (
          <EntryField
            key={end}
            path={p(end)}
            label={["Begins at", "Ends at"][i]}
            axis={bore.axis}
            optional
            placeholder="runs all the way"
            edit={`${bore.name}, ${["where it begins", "where it ends"][i]}`}
          />
        ))}
        <OutSwitch path={p()} name={bore.name} out={Boolean(bore.out)} />
      </section>
      <section>
        <h3>Through</h3>
        {Object.entries(bore.parts).map(([k, through]) => (
          <Through key={k} boreKey={boreKey} bore={bore} part={k} through={through} />
        ))}
        {others.length > 0 && (
          <Menu>
            <Menu.Target>
              <Button size="compact-xs">Through another part</Button>
            </Menu.Target>
            <Menu.Dropdown>
              {others.map(([k, part]) => (
                <Menu.Item
                  key={k}
                  onClick={() =>
                    void commit(`${bore.name} through ${part.name}`, [
                      { op: "add", path: p("parts", k), value: { action: "cut", fit: typed("0") } },
                    ])
                  }
                >
                  {part.name.replaceAll("_", " ")}
                </Menu.Item>
              ))}
            </Menu.Dropdown>
          </Menu>
        )}
      </section>
      <ProblemSection problems={problems} />
    </>
  );
}

type ThroughProps = { boreKey: string; bore: Bore; part: string; through: Bore["parts"][string] };

/** One of the parts that a bore meets: cut, marked or left alone, and with which fit. */
function Through({ boreKey, bore, part, through }: ThroughProps) {
  const { built } = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const p = (...k: string[]) => pointer("bores", boreKey, ...k);
  const shaft = built.values[p("diameter")]?.value;
  const fit = built.values[p("parts", part, "fit")]?.value;
  const name = doc.parts[part]?.name;
  return (
    <div style={{ marginBottom: 8 }}>
      <div className="row" style={{ marginBottom: 4 }}>
        <b className="grow clip">{name?.replaceAll("_", " ")}</b>
        <SegmentedControl
          value={through.action}
          aria-label={`${name}: bore`}
          onChange={(v) =>
            void commit(`${bore.name}: ${name} is ${v === "leave" ? "left alone" : v === "mark" ? "marked" : "cut"}`, [
              { op: "replace", path: p("parts", part, "action"), value: v },
            ])
          }
          data={[
            { value: "cut", label: "Cut" },
            { value: "mark", label: "Mark" },
            { value: "leave", label: "Leave" },
          ]}
        />
      </div>
      {through.action === "cut" && (
        <>
          <EntryField path={p("parts", part, "fit")} label="Fit to shaft" edit={`${bore.name} in ${name}, fit`} fits />
          {shaft !== undefined && fit !== undefined && (
            <div className="soft" style={{ fontSize: 12 }}>
              Hole {length(shaft + fit, doc.display)}, {length(Math.abs(fit), doc.display)} {fit < 0 ? "under" : "over"} the shaft
            </div>
          )}
        </>
      )}
    </div>
  );
}
