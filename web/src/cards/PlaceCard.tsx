// A board in hand: what it is of, how it stands, how many, and where it hangs now; all of it also from the keyboard.
import { Button, Select } from "@mantine/core";
import { useEffect } from "react";
import { ChoiceField } from "../fields/PlainField";
import { FACES, FRAME, type Plane, sheetsOf } from "../lib/document";
import { type length, lengths } from "../lib/figures";
import type { Ghost, Vec } from "../lib/ghost";
import { useDesign } from "../state/design";
import { firstBox, usePlacing } from "../state/placing";
import { words } from "../state/shape";
import { useView } from "../state/view";

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
  const doc = useDesign((s) => s.doc)!;
  const head = useDesign((s) => s.head);
  const placing = usePlacing();
  const { ghost, plane, stock, number, typed, why, pointed, corner } = placing;
  const first = !head?.parts.some((p) => p.solid);
  const drawn = firstBox(placing);
  useEffect(() => usePlacing.getState().start(), []);
  useKeys();
  const faces = (head?.parts ?? [])
    .filter((p) => p.solid && p.low && p.high && !p.made_by.length)
    .flatMap((p) =>
      Object.values(FACES).flatMap((pair) =>
        pair.map((face) => ({ value: `${p.key} ${face}`, label: `${words(p.path)}, ${face}` })),
      ),
    );

  /** The middle of a face, for whoever has no pointer. */
  function before(value: string | null) {
    const [key, face] = (value ?? "").split(" ");
    const part = head?.parts.find((p) => p.key === key);
    if (!part?.low || !part.high) return;
    const at = [0, 1, 2].map((i) => {
      const pair = Object.values(FACES)[i];
      const which = pair.indexOf(face);
      return which < 0 ? (part.low![i] + part.high![i]) / 2 : [part.low!, part.high!][which][i];
    }) as Vec;
    placing.point({ part: key, face, at, scale: PLAIN_SCALE });
  }

  return (
    <>
      <h2>Place a board</h2>
      <p className="soft" style={{ margin: "2px 0 10px" }}>
        {first
          ? "Press on the ground where one corner is, then where the other is."
          : "Move over the picture, press where it belongs."}
      </p>
      <section>
        <ChoiceField
          label="Stock"
          value={stock}
          data={sheetsOf(doc).map(([value, s]) => ({ value, label: s.name }))}
          onSave={(v) => placing.set({ stock: v })}
        />
        <ChoiceField
          label="Stands"
          value={plane}
          data={(Object.keys(FRAME) as Plane[]).map((p) => ({ value: p, label: FRAME[p].words }))}
          onSave={(p) => placing.set({ plane: p as Plane })}
        />
        {!first && (
          <>
            <ChoiceField
              label="How many, evenly"
              value={String(number)}
              data={[1, 2, 3, 4, 5, 6, 8, 10, 12].map((n) => ({ value: String(n), label: n === 1 ? "one" : String(n) }))}
              onSave={(n) => placing.set({ number: Number(n) })}
            />
            <div className="entry">
              <label htmlFor="place-before">Before the face</label>
              <Select
                id="place-before"
                searchable
                placeholder="point at one, or choose"
                value={pointed ? `${pointed.part} ${pointed.face}` : null}
                data={faces}
                onChange={before}
              />
            </div>
          </>
        )}
      </section>
      <section aria-live="polite" data-testid="ghost">
        {ghost ? (
          <>
            {number > 1 ? (
              <p>
                <b>{number} boards</b>, evenly between {ghost.room[FRAME[plane].normal][0].entry} and{" "}
                {ghost.room[FRAME[plane].normal][1].entry}
              </p>
            ) : (
              <p>{said(ghost, plane, doc.display)}</p>
            )}
            {typed && <p className="soft">Distance typed: {typed}</p>}
          </>
        ) : (
          <p className={why ? "warn" : "soft"}>
            {why ||
              (drawn
                ? lengths(
                    [FRAME[plane].u, FRAME[plane].v].map((a) => drawn.high["xyz".indexOf(a)] - drawn.low["xyz".indexOf(a)]),
                    doc.display,
                  )
                : first
                  ? corner
                    ? "Now the other corner, or type its size, as 300 x 200."
                    : "Press the first corner."
                  : "Point at a face that it comes before.")}
          </p>
        )}
      </section>
      <p className="soft keysline" hidden={first}>
        <span className="kbd">S</span> stands another way <span className="kbd">N</span> next room{" "}
        <span className="kbd">↑ ↓</span> moves it <span className="kbd">Page ↑ ↓</span> to where it catches{" "}
        <span className="kbd">+ −</span> how many; digits set its distance
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

/** The keys while a board is in hand; in a field they are the field's. */
function useKeys() {
  useEffect(() => {
    function down(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) return;
      const { turn, next, move, set, typed, number, place } = usePlacing.getState();
      const steps: Record<string, [number, boolean]> = {
        ArrowUp: [1, false],
        ArrowRight: [1, false],
        ArrowDown: [-1, false],
        ArrowLeft: [-1, false],
        PageUp: [1, true],
        PageDown: [-1, true],
      };
      const act = (): (() => void) | null => {
        if (event.key in steps) return () => move(...steps[event.key]);
        if (/^[\d.,x×]$/.test(event.key)) return () => set({ typed: typed + event.key });
        switch (event.key) {
          case "s":
            return turn;
          case "n":
            return next;
          case "+":
            return () => set({ number: number + 1 });
          case "-":
            return () => set({ number: Math.max(1, number - 1) });
          case "Backspace":
            return () => set({ typed: typed.slice(0, -1) });
          case "Enter":
            return target.tagName === "BUTTON" ? null : () => void place();
          default:
            return null;
        }
      };
      const wanted = act();
      if (!wanted) return;
      event.preventDefault();
      event.stopPropagation();
      wanted();
    }
    window.addEventListener("keydown", down, true);
    return () => window.removeEventListener("keydown", down, true);
  }, []);
}
