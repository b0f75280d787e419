// Tabs one by one, in place of number and spacing.
import { Button, SegmentedControl } from "@mantine/core";
import type { JointOut } from "../api/types";
import { EntryField } from "../fields/EntryField";
import { freshKey, type Joint, pointer } from "../lib/document";
import { typed, useDesign } from "../state/design";

const entry = (mm: number) => typed(`${Number(mm.toFixed(3))} mm`);

export function TabsBy({ jointKey, joint, built, name }: { jointKey: string; joint: Joint; built: JointOut; name: string }) {
  const commit = useDesign((s) => s.commit);
  const listed = Object.keys(joint.tabs ?? {}).length > 0;
  const path = pointer("joints", jointKey, "tabs");
  const low = built.run[0];
  function list() {
    const tabs = Object.fromEntries(
      built.fingers.map((f, i) => [`t${i + 1}`, { at: entry((f.low + f.high) / 2 - low), length: entry(f.high - f.low) }]),
    );
    void commit(`${built.title}: tabs one by one`, [{ op: "add", path, value: tabs }]);
  }
  return (
    <SegmentedControl
      fullWidth
      value={listed ? "list" : "even"}
      style={{ marginBottom: 7 }}
      aria-label={`Tabs on ${name} by`}
      onChange={(v) => (v === "list" ? list() : void commit(`${built.title}: tabs evenly`, [{ op: "add", path, value: {} }]))}
      data={[
        { value: "even", label: "Evenly" },
        { value: "list", label: "One by one" },
      ]}
    />
  );
}

export function TabList({ jointKey, joint, built }: { jointKey: string; joint: Joint; built: JointOut }) {
  const commit = useDesign((s) => s.commit);
  const p = (...k: string[]) => pointer("joints", jointKey, "tabs", ...k);
  const tabs = joint.tabs ?? {};
  const middle = (built.run[1] - built.run[0]) / 2;
  return (
    <>
      {Object.keys(tabs).map((k, i) => (
        <div key={k} style={{ borderBottom: "1px solid var(--rule)", marginBottom: 5 }}>
          <EntryField path={p(k, "at")} label={`Tab ${i + 1}, middle`} edit={`${built.title}, tab ${i + 1}`} />
          <EntryField path={p(k, "length")} label="its length" edit={`${built.title}, tab ${i + 1}, length`} />
          {Object.keys(tabs).length > 1 && (
            <Button
              size="compact-xs"
              variant="subtle"
              onClick={() => void commit(`${built.title}: remove tab ${i + 1}`, [{ op: "remove", path: p(k) }])}
            >
              Remove tab {i + 1}
            </Button>
          )}
        </div>
      ))}
      <Button
        size="compact-xs"
        onClick={() =>
          void commit(`${built.title}: another tab`, [
            { op: "add", path: p(freshKey(tabs, "t")), value: { at: entry(middle), length: entry(20) } },
          ])
        }
      >
        Another tab
      </Button>
    </>
  );
}
