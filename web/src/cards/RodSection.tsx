// Where a rod runs: its axis, both ends, and its centre line; and the bar that it is cut from.
import { EntryField } from "../fields/EntryField";
import { ChoiceField } from "../fields/PlainField";
import {
  AXES,
  AXIS_WORDS,
  type Axis,
  barsOf,
  FACES,
  hasWidth,
  type Member,
  pointer,
  type Rod,
  type Turned,
} from "../lib/document";
import { typed, useDesign, useShown } from "../state/design";
import { MemberEnd } from "./MemberEnd";

/** The bar or tube that a length is cut from. */
export function BarField({ partKey, part, label }: { partKey: string; part: Rod | Member; label: string }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  return (
    <ChoiceField
      label={label}
      value={part.stock}
      data={barsOf(doc).map(([value, s]) => ({ value, label: s.name }))}
      onSave={(stock) =>
        void commit(`${part.name}: ${doc.stocks[stock].name}`, [
          { op: "replace", path: pointer("parts", partKey, "stock"), value: stock },
        ])
      }
    />
  );
}

export function RodStock({ partKey, rod }: { partKey: string; rod: Rod }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  return (
    <>
      <BarField partKey={partKey} part={rod} label="Bar" />
      {hasWidth(doc, rod.stock) && (
        <WidthField
          axis={rod.axis}
          wide={rod.wide}
          onSave={(wide) =>
            void commit(`${rod.name}: its width ${AXIS_WORDS[wide]}`, [
              { op: "add", path: pointer("parts", partKey, "wide"), value: wide },
            ])
          }
        />
      )}
    </>
  );
}

/** Along which of the two axes that it does not run along the width of a section lies. */
export function WidthField({ axis, wide, onSave }: { axis: Axis; wide?: Axis | null; onSave: (wide: Axis) => void }) {
  const across = AXES.filter((a) => a !== axis);
  return (
    <ChoiceField
      label="Its width lies"
      value={wide ?? across[0]}
      data={across.map((a) => ({ value: a, label: AXIS_WORDS[a] }))}
      onSave={(a) => onSave(a as Axis)}
    />
  );
}

/** The entries of a rod that runs along another axis: what said where it lay there says where it begins. */
export function alongAxis(rod: Lying, axis: Axis): Lying {
  if (axis === rod.axis) return rod;
  const { [axis]: begins, ...rest } = rod.at;
  const turned = { axis, span: rod.span, at: { ...rest, [rod.axis]: begins ?? typed("0") } };
  // its width cannot lie along it
  return rod.wide ? { ...turned, wide: rod.wide === axis ? rod.axis : rod.wide } : turned;
}

/** What is done at the ends of a round one: a thread, a chamfer, a groove with its ring. */
function RodEnds({ partKey, rod }: { partKey: string; rod: Rod }) {
  const doc = useDesign((s) => s.doc)!;
  const told = useShown()!.built.parts.find((p) => p.key === partKey)?.member;
  const stock = doc.stocks[rod.stock];
  if (!(stock?.kind === "bar" && stock.shape === "round")) return null;
  return (
    <>
      <h3>
        Its ends: A is its {FACES[rod.axis][0]}, B its {FACES[rod.axis][1]}
      </h3>
      {(["a", "b"] as const).map((end, i) => (
        <MemberEnd key={end} end={end} partKey={partKey} member={rod} told={told?.ends[i]} bent={false} href="" framed={false} />
      ))}
    </>
  );
}

type Lying = Pick<Rod, "axis" | "span" | "at"> & Partial<Pick<Rod, "wide">>;

export function RodPlace({ partKey, rod }: { partKey: string; rod: Rod | Turned }) {
  const commit = useDesign((s) => s.commit);
  const base = ["parts", partKey];
  const [low, high] = FACES[rod.axis];
  return (
    <section>
      <h3>Where it runs</h3>
      <ChoiceField
        label="Runs"
        value={rod.axis}
        data={AXES.map((a) => ({ value: a, label: AXIS_WORDS[a] }))}
        onSave={(a) => {
          const next = alongAxis(rod, a as Axis);
          void commit(`${rod.name}: ${AXIS_WORDS[next.axis]}`, [
            { op: "replace", path: pointer(...base, "axis"), value: next.axis },
            { op: "replace", path: pointer(...base, "at"), value: next.at },
            ...(next.wide ? [{ op: "add" as const, path: pointer(...base, "wide"), value: next.wide }] : []),
          ]);
        }}
      />
      <EntryField path={pointer(...base, "span", "low")} label={`${low} from`} axis={rod.axis} edit={`${rod.name}.${low}`} />
      <EntryField path={pointer(...base, "span", "high")} label={`to ${high}`} axis={rod.axis} edit={`${rod.name}.${high}`} />
      {rod.kind === "rod" && <RodEnds partKey={partKey} rod={rod} />}
      <h3>Its centre line</h3>
      {AXES.filter((a) => a !== rod.axis).map((a) => (
        <EntryField
          key={a}
          path={pointer(...base, "at", a)}
          label={`from ${FACES[a][0]}`}
          axis={a}
          edit={`${rod.name}, centre along ${a}`}
        />
      ))}
    </section>
  );
}
