// Looking at the design with another of its cutters: tried first, kept only when that is wanted.
import { Button, Select } from "@mantine/core";
import { useDesign } from "../../state/design";

export function CutterLook() {
  const doc = useDesign((s) => s.doc)!;
  const tried = useDesign((s) => s.trying?.doc.cutter);
  const { preview, commit } = useDesign.getState();
  const shown = tried ?? doc.cutter;
  const patch = (key: string) => [{ op: "replace", path: "/cutter", value: key }];
  return (
    <span className="row" style={{ gap: 6 }}>
      <Select
        aria-label="Cut on"
        size="xs"
        w={196}
        value={shown}
        data={Object.entries(doc.cutters).map(([value, c]) => ({ value, label: c.name }))}
        onChange={(v) => v && preview(v === doc.cutter ? null : patch(v))}
      />
      {shown !== doc.cutter && (
        <>
          <Button
            size="compact-xs"
            variant="filled"
            onClick={() => void commit(`Cut with ${doc.cutters[shown].name}`, patch(shown))}
          >
            Keep it
          </Button>
          <Button size="compact-xs" onClick={() => preview(null)}>
            Back to {doc.cutters[doc.cutter]?.name}
          </Button>
        </>
      )}
    </span>
  );
}
