// Measuring: two places, what lies between them, and a press that makes a value a size or keeps it under watch.
import { Button, CloseButton, SegmentedControl } from "@mantine/core";
import type { AboutOut } from "../../api/types";
import { AXIS_WORDS, type Axis, type Display, freshKey, nextOrder, type Place, pointer } from "../../lib/document";
import { angle as angleWords, area, length, mass } from "../../lib/figures";
import { fresh, useDesign, useShown } from "../../state/design";
import { useMeasure } from "../../state/measure";
import { placeWords } from "../../state/shape";
import { useView } from "../../state/view";

type Along = "x" | "y" | "z" | "straight" | "angle";

export function MeasurePanel() {
  const view = useView();
  const shown = useShown()!;
  const { found, fault } = useMeasure(view.picks);
  const { doc } = shown;
  const name = (place: Place) => placeWords(place, shown);
  const [a, b] = view.picks;
  // holes and flanges are there only once all sizes are known
  const blanks = a && b && [a, b].every((p) => p.what !== "feature" && !p.name.includes("."));
  const repeats = [a, b].some((p) =>
    p?.part
      .split("@")
      .slice(1)
      .some((s) => doc.copies[s.split(".")[0]]?.kind !== "mirror"),
  );

  const { makeSize, watch } = keepers(a, b, name);
  const rows: [string, Along | "gap", number | null | undefined][] = found?.along
    ? [
        ...(["x", "y", "z"] as Axis[]).map((x, i) => [AXIS_WORDS[x], x, found.along![i]] as [string, Along, number]),
        ["straight", "straight", found.straight],
        ...(a?.what === "part" && b?.what === "part"
          ? [["gap between them", "gap", found.gap] as [string, "gap", number | null]]
          : []),
        ["angle", "angle", found.angle],
      ]
    : [];
  return (
    <section className="floating" aria-label="Measure" data-testid="measure">
      <div className="row">
        <b className="grow">Measure</b>
        <SegmentedControl
          size="xs"
          aria-label="What is picked"
          value={view.pickAs}
          onChange={(v) => view.setPickAs(v as typeof view.pickAs)}
          data={[
            { value: "face", label: "faces" },
            { value: "edge", label: "edges" },
            { value: "centre", label: "centres" },
            { value: "part", label: "parts" },
          ]}
        />
        <CloseButton size="sm" aria-label="Leave measuring" onClick={() => view.setTool("")} />
      </div>
      <div className="soft" data-testid="measured-places">
        {!a
          ? "Press the first place, or a row of the cut list for a part's centre; a hole is taken by its middle."
          : !b
            ? `From the ${name(a)}. Press the second place, or read what is here.`
            : `From the ${name(a)} to the ${name(b)}`}
      </div>
      {fault && <div className="error">{fault}</div>}
      {found && !b && <AboutOne about={found.about} display={doc.display} />}
      {rows.length > 0 && b && (
        <>
          <table>
            <tbody>
              {rows.map(([label, along, value]) =>
                value === null || value === undefined ? null : (
                  <tr key={along}>
                    <td>{label}</td>
                    <td className="figure" data-testid={`measured-${along}`}>
                      {along === "angle" ? angleWords(value) : length(value, doc.display)}
                    </td>
                    <td style={{ width: 96 }}>
                      {blanks &&
                        !repeats &&
                        along !== "gap" &&
                        (a.what !== "part" || b.what !== "part" || along === "straight") && (
                          <Button size="compact-xs" onClick={() => void makeSize(along)}>
                            Make it a size
                          </Button>
                        )}
                    </td>
                  </tr>
                ),
              )}
            </tbody>
          </table>
          <div className="row" style={{ marginTop: 6 }}>
            <Button size="compact-sm" onClick={() => void watch()}>
              Keep this room under watch
            </Button>
            <Button size="compact-sm" variant="subtle" onClick={() => useView.setState({ picks: [] })}>
              Measure again
            </Button>
          </div>
        </>
      )}
    </section>
  );
}

/** What lies between two places becomes a size of the design, or is watched. */
function keepers(a: Place, b: Place, name: (place: Place) => string) {
  const { commit } = useDesign.getState();
  const doc = useDesign.getState().doc!;
  const view = useView.getState();

  async function makeSize(along: Along) {
    const key = freshKey(doc.sizes, "measured");
    const taken = new Set([...Object.values(doc.sizes), ...Object.values(doc.parts)].map((r) => r.name));
    let own = "measured";
    for (let n = 2; taken.has(own); n++) own = `measured_${n}`;
    const value = {
      name: own,
      kind: along === "angle" ? "angle" : "length",
      entry: { text: "0", unit: doc.unit },
      measured: { a, b, along },
      note: `${name(a)} to ${name(b)}`.slice(0, 200),
      order: nextOrder(doc.sizes),
    };
    if (await commit(`Measure ${own}`, [{ op: "add", path: pointer("sizes", key), value }])) {
      view.setTool("");
      view.select({ kind: "size", key });
    }
  }

  async function watch() {
    const key = freshKey(doc.clearances, "room");
    const value = {
      name: `${name(a)} to ${name(b)}`.slice(0, 60),
      order: nextOrder(doc.clearances),
      a,
      b,
      along: "shortest",
      least: fresh("1 mm"),
    };
    if (await commit(`Watch the room from ${name(a)} to ${name(b)}`, [{ op: "add", path: pointer("clearances", key), value }])) {
      view.setTool("");
      view.select({ kind: "clearance", key });
    }
  }

  return { makeSize, watch };
}

/** What one place alone has to tell. */
function AboutOne({ about, display }: { about: AboutOut; display: Display }) {
  const lengths = (them: number[] | null | undefined, sign: string) => them?.map((x) => length(x, display)).join(sign) ?? null;
  return (
    <table>
      <tbody>
        <Fact label="length" value={about.length == null ? null : length(about.length, display)} />
        <Fact label="area" value={about.area == null ? null : area(about.area, display)} />
        <Fact label="opening on it" value={lengths(about.opening, " × ")} />
        <Fact label="slope to the level" value={about.angle == null ? null : angleWords(about.angle)} />
        <Fact label="mass" value={about.mass == null ? null : mass(about.mass)} />
        <Fact
          label={about.mass == null ? "middle (right, back, up)" : "centre of gravity (right, back, up)"}
          value={lengths(about.centre, ", ")}
        />
      </tbody>
    </table>
  );
}

function Fact({ label, value }: { label: string; value: string | null }) {
  if (!value) return null;
  return (
    <tr>
      <td>{label}</td>
      <td className="figure">{value}</td>
    </tr>
  );
}
