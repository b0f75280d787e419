// The card of a bore: its axis, the shaft, and for each part whether it is cut, marked or left alone, with its fit.
import { Button, Menu } from "@mantine/core";
import { EntryField } from "../fields/EntryField";
import { TextField } from "../fields/PlainField";
import { AXIS_WORDS, type Axis, type Bore, FACES, isPlate, pointer } from "../lib/document";
import { length } from "../lib/figures";
import { id } from "../lib/owner";
import { type OnAxis, usePartsAlong } from "../state/boring";
import { fresh, typed, useDesign, useShown } from "../state/design";
import { ACTED, atFirst, BoreAction } from "./BoreAction";
import { heights } from "./BoreDraft";
import { BoreRows } from "./BoreRows";
import { ForRod, InCopies } from "./BoreThrough";
import { CardHead } from "./CardHead";
import { removeSelected } from "./edits";
import { towardNote } from "./leaning";
import { OutSwitch } from "./OutSwitch";
import { ProblemSection } from "./Problem";
import { SetSection } from "./SetSection";

/** Whether the set along a bore says how wide its holes are. */
const ownsHoles = (bore: Bore) => Boolean(bore.hardware) && bore.hardware?.head !== "none";

const NOWHERE: Bore["at"] = {};

/** How wide it is, and where it runs. */
function BorePlace({ boreKey, bore }: { boreKey: string; bore: Bore }) {
  const p = (...k: string[]) => pointer("bores", boreKey, ...k);
  return (
    <>
      {!ownsHoles(bore) && <EntryField path={p("diameter")} label="Shaft diameter" edit={`${bore.name}, diameter`} />}
      {(Object.keys(bore.at) as Axis[]).map((a) => (
        <EntryField key={a} path={p("at", a)} label={`${FACES[a][0]}–${FACES[a][1]} at`} axis={a} edit={`${bore.name}, place`} />
      ))}
      <Leaning boreKey={boreKey} bore={bore} />
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
    </>
  );
}

export function BoreCard({ boreKey }: { boreKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const bore = doc.bores[boreKey] as Bore | undefined;
  const line = bore ?? { axis: "x" as const, at: NOWHERE, parts: {} };
  const met = usePartsAlong({ ...line, parts: Object.keys(line.parts) });
  if (!bore) return <p className="soft">This bore is gone.</p>;
  const p = (...k: string[]) => pointer("bores", boreKey, ...k);
  const others = met.flatMap((m) => {
    const part = doc.parts[m.part];
    return part && !bore.parts[m.part] ? [[m, part] as const] : [];
  });
  const problems = shown.built.problems.filter((x) => x.owner === id.bore(boreKey));
  return (
    <>
      <CardHead
        title={bore.name.replaceAll("_", " ")}
        remove="Remove bore"
        onRemove={() => void removeSelected({ kind: "bore", key: boreKey })}
      />
      <div className="soft">
        {bore.member
          ? `Lets ${doc.parts[bore.member]?.name.replaceAll("_", " ")} through, along it and as wide as it; its copies too`
          : `A bore running ${AXIS_WORDS[bore.axis]}`}
        {bore.of ? ` along ${doc.parts[bore.of]?.name.replaceAll("_", " ")}, as it stands` : ""}
      </div>
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
        {!bore.member && <BorePlace boreKey={boreKey} bore={bore} />}
        {!bore.member && <BoreRows boreKey={boreKey} bore={bore} />}
        <OutSwitch path={p()} name={bore.name} out={Boolean(bore.out)} />
      </section>
      <SetSection boreKey={boreKey} bore={bore} />
      <section>
        <h3>Through</h3>
        {Object.entries(bore.parts).map(([k, through]) => (
          <Through
            key={k}
            boreKey={boreKey}
            bore={bore}
            part={k}
            through={through}
            how={met.find((m) => m.part === k)?.how ?? "square"}
          />
        ))}
        {others.length > 0 && (
          <Menu>
            <Menu.Target>
              <Button size="compact-xs">Through another part</Button>
            </Menu.Target>
            <Menu.Dropdown>
              {others.map(([m, part]) => (
                <Menu.Item
                  key={m.part}
                  onClick={() =>
                    void commit(`${bore.name} through ${part.name}`, [
                      {
                        op: "add",
                        path: p("parts", m.part),
                        value: {
                          action: m.how === "edge" ? "drill" : atFirst(m.how, isPlate(part) && Boolean(part.folding)),
                          fit: typed("0"),
                        },
                      },
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

/** How a bore leans off its axis, and the button that lets it. */
function Leaning({ boreKey, bore }: { boreKey: string; bore: Bore }) {
  const commit = useDesign((s) => s.commit);
  const doc = useDesign((s) => s.doc)!;
  const p = (...k: string[]) => pointer("bores", boreKey, ...k);
  const along = p("at", bore.axis);
  if (!bore.lean)
    return (
      <Button
        size="compact-xs"
        onClick={() => {
          void commit(`${bore.name} leans`, [
            { op: "add", path: p("lean"), value: typed("10 deg") },
            { op: "add", path: p("toward"), value: typed("0 deg") },
            { op: "add", path: along, value: heights(doc, bore)[bore.axis] ?? fresh("0 mm") },
          ]);
        }}
      >
        Let it lean
      </Button>
    );
  return (
    <>
      <EntryField path={p("lean")} label="Leans" kind="angle" edit={`${bore.name}, lean`} />
      <EntryField path={p("toward")} label="Toward" kind="angle" edit={`${bore.name}, toward`} />
      <div className="row">
        <span className="soft grow" style={{ fontSize: 12 }}>
          {towardNote(bore.axis)}
        </span>
        <Button
          size="compact-xs"
          onClick={() =>
            void commit(
              `${bore.name} stands straight`,
              [p("lean"), ...(bore.toward ? [p("toward")] : []), along].map((path) => ({ op: "remove", path })),
            )
          }
        >
          Stand it straight
        </Button>
      </div>
    </>
  );
}

type ThroughProps = { boreKey: string; bore: Bore; part: string; through: Bore["parts"][string]; how: OnAxis["how"] };

/** One of the parts that a bore meets: cut, drilled, marked or left alone, and with which fit. */
function Through({ boreKey, bore, part, through, how }: ThroughProps) {
  const { built } = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const p = (...k: string[]) => pointer("bores", boreKey, ...k);
  const set = built.sets?.find((s) => s.bore === boreKey);
  const shaft = built.values[p("diameter")]?.value;
  const fit = built.values[p("parts", part, "fit")]?.value;
  const record = doc.parts[part];
  const name = record?.name ?? part;
  return (
    <div style={{ marginBottom: 8 }}>
      <BoreAction
        name={name}
        how={how}
        folded={isPlate(record) && Boolean(record.folding)}
        value={through.action}
        onChange={(v) =>
          void commit(`${bore.name}: ${name} is ${ACTED[v]}`, [{ op: "replace", path: p("parts", part, "action"), value: v }])
        }
      />
      {(through.action === "cut" || through.action === "drill") && (
        <>
          <EntryField
            path={p("parts", part, "fit")}
            label={ownsHoles(bore) ? "Hole wider by" : "Fit to shaft"}
            edit={`${bore.name} in ${name}, fit`}
            fits="shaft"
          />
          {ownsHoles(bore) && set?.holes[part] !== undefined && fit !== undefined && (
            <div className="soft" style={{ fontSize: 12 }}>
              Hole {length(set.holes[part] + fit, doc.display)}
            </div>
          )}
          {bore.member && <ForRod bore={bore} part={part} path={p("parts", part)} through={through} />}
          {!ownsHoles(bore) && shaft !== undefined && fit !== undefined && (
            <div className="soft" style={{ fontSize: 12 }}>
              Hole {length(shaft + fit, doc.display)}, {length(Math.abs(fit), doc.display)} {fit < 0 ? "under" : "over"} the shaft
            </div>
          )}
        </>
      )}
      <InCopies boreKey={boreKey} bore={bore} part={part} through={through} />
    </div>
  );
}
