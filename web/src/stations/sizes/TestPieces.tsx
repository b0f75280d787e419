// Reading test pieces: the slack of the row of squares gives the kerf, the chosen slots give the fits, the legs of a strip K.
import { Button, SegmentedControl } from "@mantine/core";
import { useState } from "react";
import { ordered, type TestPiece } from "../../lib/document";
import { length } from "../../lib/figures";
import { useDesign } from "../../state/design";
import { operate } from "../../state/operations";
import { useView } from "../../state/view";
import { Reading } from "./Reading";

type Comb = Extract<TestPiece, { kind: "comb" | "round_comb" }>;
type Bend = Extract<TestPiece, { kind: "bend" }>;
const TITLES = { comb: "Test comb", round_comb: "Comb of holes", kerf: "Kerf test", bend: "Bend test strip" };
type Kerf = Extract<TestPiece, { kind: "kerf" }>;
type Read<Fields extends string> = Record<Fields, number>;
/** What is read of a comb: how a key lies in its slots, or a shaft in its holes. */
const FITS = { comb: ["press", "snug", "slip", "loose"], round_comb: ["fixed", "running"] };

/** The test pieces of the design; of some kinds only where those are named. */
export function TestPieces({ kinds }: { kinds: TestPiece["kind"][] }) {
  const doc = useDesign((s) => s.doc)!;
  const view = useView();
  const tests = Object.entries(doc.tests).filter(([, t]) => kinds.includes(t.kind));
  if (!tests.length) return null;
  const stocks = Object.fromEntries(ordered(doc.stocks));
  return (
    <>
      {tests.map(([key, test]) => (
        <section key={key} className="testpiece" aria-label={TITLES[test.kind]}>
          <div className="row">
            <h3 className="grow">
              {TITLES[test.kind]}, {stocks[test.stock]?.name} on {doc.cutters[test.cutter]?.name}
            </h3>
            <Button
              size="compact-xs"
              onClick={() => {
                view.select({ kind: "part", key: test.parts[0] });
                view.go("flats");
              }}
            >
              See its flat
            </Button>
            <Button size="compact-xs" onClick={() => void operate({ operation: "remove_test", key })}>
              Remove
            </Button>
          </div>
          {(test.kind === "comb" || test.kind === "round_comb") && <CombReading testKey={key} test={test} />}
          {test.kind === "kerf" && <KerfReading testKey={key} test={test} />}
          {test.kind === "bend" && <BendReading testKey={key} test={test} />}
        </section>
      ))}
    </>
  );
}

function CombReading({ testKey, test }: { testKey: string; test: Comb }) {
  const [chosen, setChosen] = useState<Record<string, number>>({});
  const names = FITS[test.kind];
  const round = test.kind === "round_comb";
  const [fault, setFault] = useState("");
  const ready = Object.keys(chosen).length > 0;
  return (
    <>
      <p className="soft" style={{ margin: "2px 0 6px" }}>
        {round
          ? "Cut the comb, put the shaft in its holes, and press in which it sits tight and in which it turns freely."
          : "Cut comb and key, push the key's edge into the slots, and press how each one feels. Leave out what no slot gives."}
      </p>
      <div className="combslots">
        {test.clearances.map((c) => (
          <div key={c} className="row">
            <span className="figure" style={{ width: 64 }}>
              {c >= 0 ? "+" : "−"}
              {Math.abs(c).toFixed(2)} mm
            </span>
            <SegmentedControl
              size="xs"
              aria-label={`${round ? "Hole" : "Slot"} ${c.toFixed(2)}`}
              value={names.find((f) => chosen[f] === c) ?? "none"}
              onChange={(v) => {
                const rest = Object.fromEntries(Object.entries(chosen).filter(([f, x]) => x !== c && f !== v));
                setChosen(v === "none" ? rest : { ...rest, [v]: c });
                setFault("");
              }}
              data={[{ value: "none", label: "–" }, ...names.map((f) => ({ value: f, label: f }))]}
            />
          </div>
        ))}
      </div>
      {fault && (
        <p className="error" role="alert">
          {fault}
        </p>
      )}
      <Button
        variant="filled"
        disabled={!ready}
        style={{ marginTop: 6 }}
        onClick={() =>
          void operate({ operation: round ? "fits_from_round_comb" : "fits_from_comb", key: testKey, values: chosen }).then(
            setFault,
          )
        }
      >
        Set the fits
      </Button>
    </>
  );
}

function KerfReading({ testKey, test }: { testKey: string; test: Kerf }) {
  const doc = useDesign((s) => s.doc)!;
  return (
    <Reading of="kerf" onRead={(values) => operate({ operation: "kerf_from_slack", key: testKey, ...(values as Read<"slack">) })}>
      Lay the {test.squares} squares in the frame, push them together, and measure the gap that is left.{" "}
      {length(test.play, doc.display)} of it is drawn; the rest, shared out over the cuts, is what the kerf of{" "}
      {length(test.kerf, doc.display)} was taken too small.
    </Reading>
  );
}

function BendReading({ testKey, test }: { testKey: string; test: Bend }) {
  return (
    <Reading
      of="bend"
      begin={{ radius: String(test.radius) }}
      onRead={(values) =>
        operate({ operation: "bend_from_legs", key: testKey, ...(values as Read<"first" | "second" | "radius">) })
      }
    >
      Cut the strip of {test.length} mm, bend it on its line by {test.angle}°, and measure both legs outside
      {test.angle > 90 ? ", to the tangent" : ", to the sharp corner"}. K and deduction of this stock follow.
    </Reading>
  );
}
