// A board in hand: what it is of, how it stands, how many, and where it hangs now; all of it also from the keyboard.
import { Button, SegmentedControl, Select } from "@mantine/core";
import { useEffect } from "react";
import { ChoiceField, TextField } from "../fields/PlainField";
import { type Axis, FACES, FRAME, type Plane, sheetsOf } from "../lib/document";
import { type length, lengths } from "../lib/figures";
import { type Ghost, likely, typedLength, type Vec, wayOut } from "../lib/ghost";
import { useDesign } from "../state/design";
import { firstBox } from "../state/firstBox";
import { usePlacing } from "../state/placing";
import { words } from "../state/shape";
import { useView } from "../state/view";

const SAID = "ghost-said";
/** Scale where no pointer tells one: a pixel of a design as it is first framed. */
const PLAIN_SCALE = 1;

/** Where the board hangs, in one line that can be spoken. */
function said(ghost: Ghost, plane: Plane, display: Parameters<typeof length>[1]): string {
  const { u, v } = FRAME[plane];
  const size = [u, v].map((a) => ghost.room[a][1].value - ghost.room[a][0].value);
  const ends = [u, v].map((a) => `${ghost.room[a][0].entry} to ${ghost.room[a][1].entry}`).join(", ");
  return `${lengths(size, display)}, ${ends}; ${ghost.face} at ${ghost.at}${ghost.words ? ` (${ghost.words})` : ""}`;
}

export function PlaceCard() {
  const head = useDesign((s) => s.head);
  const placing = usePlacing();
  const { ghost, what } = placing;
  const first = !head?.parts.some((p) => p.solid);
  const drawn = firstBox(placing);
  useEffect(() => usePlacing.getState().start(), []);
  useKeys();
  return (
    <>
      <h2>{what === "drawer" ? "Place a drawer" : "Place a board"}</h2>
      <p className="soft" style={{ margin: "2px 0 10px" }}>
        {first
          ? "Press on the ground where one corner is, then where the other is."
          : what === "drawer"
            ? "Move over the opening that it fills, and press."
            : "Move over the picture, press where it belongs."}
      </p>
      <PlaceFields first={first} />
      <GhostSaid first={first} />
      <p className="soft keysline" hidden={first}>
        <span className="kbd">S</span> stands another way <span className="kbd">N</span> next room{" "}
        <span className="kbd">↑ ↓</span> moves it <span className="kbd">Page ↑ ↓</span> to where it catches{" "}
        <span className="kbd">+ −</span> how many <span className="kbd">P</span> as a pair <span className="kbd">O</span> slides
        out <span className="kbd">D</span> a drawer; digits set its distance
      </p>
      <div className="row" style={{ marginTop: 12 }}>
        <Button variant="filled" disabled={!(ghost || drawn) || placing.busy} onClick={() => void placing.place()}>
          Place it
        </Button>
        <Button onClick={() => useView.getState().setDraft({ kind: "board" })}>Type it instead</Button>
        <Button onClick={() => useView.getState().setDraft(null)}>Leave it</Button>
      </div>
    </>
  );
}

const PAIR = "pair";
const WAYS: Record<Axis, string> = { x: "Length, left to right", y: "Length, front to back", z: "Height" };

/** What is in hand, of what it is, how it stands, how many there are, how it moves. */
function PlaceFields({ first }: { first: boolean }) {
  const doc = useDesign((s) => s.doc)!;
  const placing = usePlacing();
  const { what, plane, stock, bottom, number, pair, out, ghost } = placing;
  const drawer = what === "drawer";
  const sheets = sheetsOf(doc).map(([value, s]) => ({ value, label: s.name }));
  const ends = drawer ? [...FACES.y, ...FACES.x] : [FRAME[plane].u, FRAME[plane].v].flatMap((a) => [...FACES[a]]);
  const many = [1, 2, 3, 4, 5, 6, 8, 10, 12].map((n) => ({
    value: String(n),
    label: n === 1 ? "one" : drawer ? String(n) : `${n}, evenly`,
  }));
  return (
    <section>
      {!first && (
        <SegmentedControl
          aria-label="What is placed"
          fullWidth
          value={what}
          data={[
            { value: "board", label: "Board" },
            { value: "drawer", label: "Drawer" },
          ]}
          onChange={(w) => placing.set({ what: w as typeof what })}
        />
      )}
      <ChoiceField label="Stock" value={stock} data={sheets} onSave={(v) => placing.set({ stock: v })} />
      {drawer && <ChoiceField label="Bottom of" value={bottom} data={sheets} onSave={(v) => placing.set({ bottom: v })} />}
      {!drawer && (
        <ChoiceField
          label="Stands"
          value={plane}
          data={(Object.keys(FRAME) as Plane[]).map((p) => ({ value: p, label: FRAME[p].words }))}
          onSave={(p) => placing.set({ plane: p as Plane })}
        />
      )}
      {!first && (
        <>
          <ChoiceField
            label="How many"
            value={pair ? PAIR : String(number)}
            data={drawer || out ? many : [many[0], { value: PAIR, label: "a pair, mirrored" }, ...many.slice(1)]}
            onSave={(n) => placing.set(n === PAIR ? { pair: true } : { pair: false, number: Number(n) })}
          />
          <ChoiceField
            label={drawer ? "Comes out at" : "Slides out at"}
            value={out}
            data={[
              { value: "", label: drawer ? "where it is open" : "it stays" },
              ...ends.map((word) => ({ value: word, label: word })),
            ]}
            onSave={(word) => placing.set({ out: word })}
          />
          <BeforeFace />
          {ghost?.room.open.map((a) => (
            <TextField
              key={a}
              label={WAYS[a as Axis]}
              value={typedLength(ghost.room[a as Axis][1].value - ghost.room[a as Axis][0].value, doc.unit)}
              onSave={(text) => placing.set({ lengths: { ...placing.lengths, [a]: text } })}
            />
          ))}
        </>
      )}
    </section>
  );
}

/** The face that it hangs before, chosen by whoever has no pointer. */
function BeforeFace() {
  const head = useDesign((s) => s.head);
  const { pointed, point } = usePlacing();
  const faces = (head?.parts ?? [])
    .filter((p) => p.solid && p.low && p.high && !p.made_by.length)
    .flatMap((p) =>
      Object.values(FACES).flatMap((pair) =>
        pair.map((face) => ({ value: `${p.key} ${face}`, label: `${words(p.path)}, ${face}` })),
      ),
    );

  /** The middle of a face. */
  function before(value: string) {
    const [key, face] = value.split(" ");
    const part = head?.parts.find((p) => p.key === key);
    if (!part?.low || !part.high) return;
    const at = [0, 1, 2].map((i) => {
      const pair = Object.values(FACES)[i];
      const which = pair.indexOf(face);
      return which < 0 ? (part.low![i] + part.high![i]) / 2 : [part.low!, part.high!][which][i];
    }) as Vec;
    point({ part: key, face, at, scale: PLAIN_SCALE });
    // the keys that move it are heard from here on
    requestAnimationFrame(() => document.getElementById(SAID)?.focus());
  }

  return (
    <div className="entry">
      <label htmlFor="place-before">Before the face</label>
      <Select
        id="place-before"
        searchable
        selectFirstOptionOnChange
        placeholder="point at one, or choose"
        value={pointed ? `${pointed.part} ${pointed.face}` : null}
        data={faces}
        onOptionSubmit={before}
      />
    </div>
  );
}

/** Where it hangs, in words, and the places where it catches there. */
function GhostSaid({ first }: { first: boolean }) {
  const display = useDesign((s) => s.doc!.display);
  const placing = usePlacing();
  const { ghost, plane, what, number, pair, typed, why, corner, pointed, along } = placing;
  const over = useView((s) => s.hover);
  const drawn = firstBox(placing);
  const normal = FRAME[plane].normal;
  const size = (g: Ghost) =>
    lengths(
      ["x", "y", "z"].map((_, i) => g.high[i] - g.low[i]),
      display,
    );
  const ends = (g: Ghost, a: Axis) => `${g.room[a][0].entry} and ${g.room[a][1].entry}`;
  return (
    <section
      id={SAID}
      tabIndex={-1}
      aria-live="polite"
      data-testid="ghost"
      data-over={over}
      data-before={pointed ? `${pointed.part} ${pointed.face}` : ""}
      data-along={along ? FACES[along.axis][along.end] : ""}
    >
      {ghost && what === "drawer" && (
        <p>
          <b>{number > 1 ? `${number} drawers` : "A drawer"}</b> in {size(ghost)}, drawn out at{" "}
          {placing.out || wayOut(ghost.room)}
        </p>
      )}
      {ghost && what === "board" && (
        <>
          <p>
            {pair && <b>A pair: </b>}
            {number > 1 ? (
              <>
                <b>{number} boards</b>, evenly between {ends(ghost, normal)}
              </>
            ) : (
              said(ghost, plane, display)
            )}
            {placing.out && `; slides out at ${placing.out}`}
          </p>
          {typed && <p className="soft">Distance typed: {typed}</p>}
          {number === 1 && <Catches ghost={ghost} />}
        </>
      )}
      {/* a drawer that was refused still hangs there: why is said beside it */}
      {(!ghost || why) && (
        <p className={why ? "warn" : "soft"}>
          {why ||
            (drawn
              ? lengths(
                  [FRAME[plane].u, FRAME[plane].v].map((a) => drawn.high["xyz".indexOf(a)] - drawn.low["xyz".indexOf(a)]),
                  display,
                )
              : first
                ? corner
                  ? "Now the other corner, or type its size, as 300 x 200."
                  : "Press the first corner."
                : "Point at a face that it comes before.")}
        </p>
      )}
    </section>
  );
}

/** The likeliest places where it catches, to press or by Alt and a digit. */
function Catches({ ghost }: { ghost: Ghost }) {
  const { hold } = usePlacing();
  return (
    <div className="catches" role="group" aria-label="Where it catches">
      {likely(ghost).map((c, i) => (
        <button key={c.entry + c.face} type="button" aria-pressed={c.words === ghost.words} onClick={() => hold(c.low)}>
          <span className="kbd">Alt {i + 1}</span> {c.words}
        </button>
      ))}
    </div>
  );
}

/** The keys while something is in hand; in a field they are the field's. */
function useKeys() {
  useEffect(() => {
    function down(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) return;
      const wanted = event.altKey ? caught(event) : acted(event, target.tagName === "BUTTON");
      if (!wanted) return;
      event.preventDefault();
      event.stopPropagation();
      wanted();
    }
    window.addEventListener("keydown", down, true);
    return () => window.removeEventListener("keydown", down, true);
  }, []);
}

function caught(event: KeyboardEvent): (() => void) | null {
  const { ghost, hold } = usePlacing.getState();
  const chosen = /^Digit[1-9]$/.test(event.code) && ghost ? likely(ghost)[Number(event.code.slice(5)) - 1] : undefined;
  return chosen ? () => hold(chosen.low) : null;
}

const STEPS: Record<string, [number, boolean]> = {
  ArrowUp: [1, false],
  ArrowRight: [1, false],
  ArrowDown: [-1, false],
  ArrowLeft: [-1, false],
  PageUp: [1, true],
  PageDown: [-1, true],
};

function acted(event: KeyboardEvent, onButton: boolean): (() => void) | null {
  const { turn, next, move, set, typed, number, pair, place, wayOn, what } = usePlacing.getState();
  if (event.key in STEPS) return () => move(...STEPS[event.key]);
  if (/^[\d.,x×]$/.test(event.key)) return () => set({ typed: typed + event.key });
  switch (event.key) {
    case "s":
      return turn;
    case "n":
      return next;
    case "p":
      return () => set({ pair: !pair });
    case "o":
      return wayOn;
    case "d":
      return () => set({ what: what === "drawer" ? "board" : "drawer" });
    case "+":
      return () => set({ number: number + 1 });
    case "-":
      return () => set({ number: Math.max(1, number - 1) });
    case "Backspace":
      return () => set({ typed: typed.slice(0, -1) });
    case "Enter":
      return onButton ? null : () => void place();
    default:
      return null;
  }
}
