// A bore that is there many times: in a row along each of the two ways across its axis.
import { Button } from "@mantine/core";
import { EntryField } from "../fields/EntryField";
import { AXES, type Axis, type Bore, FACES, pointer } from "../lib/document";
import { fresh, typed, useDesign } from "../state/design";

export function BoreRows({ boreKey, bore }: { boreKey: string; bore: Bore }) {
  const commit = useDesign((s) => s.commit);
  const rows = bore.rows ?? {};
  const path = (...k: string[]) => pointer("bores", boreKey, "rows", ...k);
  const words = (a: Axis) => FACES[a].join(" to ");
  return AXES.filter((a) => a !== bore.axis).map((a) =>
    rows[a] ? (
      <div key={a} style={{ marginBottom: 10 }}>
        <EntryField path={path(a, "number")} label={`How many, ${words(a)}`} kind="count" edit={`${bore.name}, how many`} />
        <EntryField path={path(a, "spacing")} label="each" edit={`${bore.name}, spacing`} />
        <Button
          size="compact-xs"
          style={{ marginTop: 4 }}
          onClick={() => void commit(`${bore.name} once, ${words(a)}`, [{ op: "remove", path: path(a) }])}
        >
          Once, {words(a)}
        </Button>
      </div>
    ) : (
      <Button
        key={a}
        size="compact-xs"
        style={{ marginRight: 6 }}
        onClick={() => {
          const row = { number: typed("2"), spacing: fresh("40 mm") };
          void commit(`${bore.name} in a row, ${words(a)}`, [
            { op: "add", path: pointer("bores", boreKey, "rows"), value: { ...rows, [a]: row } },
          ]);
        }}
      >
        Row, {words(a)}
      </Button>
    ),
  );
}
