// What a board that was just placed touches, with the joint that suits best for each, tried in the picture; taken at once or left as it is.
import { Button, Select } from "@mantine/core";
import { useState } from "react";
import type { TouchOut } from "../api/types";
import { useDesign } from "../state/design";
import { useJointWord } from "../state/forms";
import { words } from "../state/shape";
import { useJoined, useTouches } from "../state/touches";
import { useView } from "../state/view";
import { useTried } from "./useDraft";

const NONE = "none";
/** How two boards meet, in words. */
const MEETING: Record<string, string> = {
  corner: "in a corner",
  tee: "edge to its face",
  cross: "crosses it",
  edge: "edge to edge",
  lap: "laps over it",
  faces: "face to face",
  angle: "at an angle",
  angle_lap: "laps at an angle",
};

/** How two members meet. */
const OF_MEMBERS: Record<string, string> = { corner: "end to end", tee: "end to side", cross: "crosses it" };

export function TouchesCard({ part }: { part: string }) {
  const name = useDesign((s) => s.doc?.parts[part]?.name ?? "");
  const word = useJointWord();
  const member = useDesign((s) => s.doc?.parts[part]?.kind === "member");
  const { select, setDraft } = useView.getState();
  const asked = useTouches(part);
  const touches = asked.data ?? [];
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const kindOf = (t: TouchOut) => chosen[t.part] ?? t.offers[0]?.kind ?? NONE;
  const pairs = touches.filter((t) => kindOf(t) !== NONE).map((t): [string, string, string] => [part, t.part, kindOf(t)]);
  const { label, patch, fault } = useJoined(pairs);
  useTried(patch);
  const tried = useDesign((s) => s.tryFault);
  const joinAll = (then: () => void) => {
    if (patch)
      void useDesign
        .getState()
        .commit(label, patch)
        .then((fine) => fine && then());
  };
  const another = () => setDraft({ kind: "place" });
  const kinds = [...new Set(touches.flatMap((t) => t.offers.map((o) => o.kind)))];
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        joinAll(() => select({ kind: "part", key: part }));
      }}
    >
      <h2>{words(name)} touches</h2>
      {asked.isPending && <p className="soft">Looking what it touches…</p>}
      {asked.data && !touches.length && <p className="soft">It touches nothing that it could be joined to.</p>}
      {touches.length > 1 && (
        <div className="entry">
          <label htmlFor="touch-all">All of them</label>
          <Select
            id="touch-all"
            placeholder="one each"
            value={kinds.find((k) => touches.every((t) => kindOf(t) === k)) ?? (pairs.length ? null : NONE)}
            data={[
              ...kinds
                .filter((k) => touches.every((t) => t.offers.some((o) => o.kind === k)))
                .map((k) => ({ value: k, label: word(k) })),
              { value: NONE, label: "as it is" },
            ]}
            onChange={(kind) => kind && setChosen(Object.fromEntries(touches.map((t) => [t.part, kind])))}
          />
        </div>
      )}
      <section>
        {touches.map((t) => (
          <div className="entry" key={t.part}>
            <label htmlFor={`touch-${t.part}`}>
              {words(t.path)} <span className="soft">{(member ? OF_MEMBERS : MEETING)[t.contact] ?? ""}</span>
            </label>
            <Select
              id={`touch-${t.part}`}
              value={kindOf(t)}
              data={[
                ...[...new Map(t.offers.map((o) => [o.kind, o])).values()].map((o) => ({
                  value: o.kind,
                  label: `${word(o.kind)}${o.note ? ` (${o.note})` : ""}`,
                })),
                { value: NONE, label: "as it is" },
              ]}
              onChange={(kind) => kind && setChosen({ ...chosen, [t.part]: kind })}
            />
          </div>
        ))}
      </section>
      {(fault || tried) && (
        <p className="error" role="alert">
          {fault || tried?.message}
        </p>
      )}
      <div className="row" style={{ marginTop: 12 }}>
        {pairs.length > 0 && (
          <Button type="submit" variant="filled" disabled={!patch || Boolean(tried)}>
            {pairs.length > 1 ? "Join them all" : "Join it"}
          </Button>
        )}
        {pairs.length > 0 && !member && (
          <Button disabled={!patch || Boolean(tried)} onClick={() => joinAll(another)}>
            Join, next board
          </Button>
        )}
        <Button onClick={() => select({ kind: "part", key: part })}>As it is</Button>
        {!pairs.length && !member && <Button onClick={another}>Another board</Button>}
      </div>
    </form>
  );
}
