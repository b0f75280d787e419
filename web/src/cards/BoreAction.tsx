// What a bore does to one of the parts that it meets, with the sentence that says what comes of it.
import { SegmentedControl } from "@mantine/core";
import type { BoreDoes } from "../lib/document";
import type { OnAxis } from "../state/boring";

const WORDS: Record<BoreDoes, string> = { cut: "Cut", drill: "Drill", mark: "Mark", leave: "Leave" };
/** What can be chosen, by how a part is met; what is folded is too thin to be drilled at an angle. */
const CHOICES: Record<OnAxis["how"], BoreDoes[]> = {
  square: ["cut", "mark", "leave"],
  angle: ["cut", "drill", "mark", "leave"],
  edge: ["drill", "leave"],
};
const COMES: Partial<Record<OnAxis["how"], Partial<Record<BoreDoes, string>>>> = {
  angle: {
    cut: "Cut straight through, as long as its angle needs.",
    drill: "Drilled by hand, at its angle.",
    mark: "Its mouth is marked on the face that lies up.",
    leave: "Met at an angle, left alone.",
  },
  edge: { drill: "Drilled by hand, from edge to edge.", leave: "Met by its edge, left alone." },
};

type Props = {
  name: string;
  how: OnAxis["how"];
  folded: boolean;
  value: BoreDoes;
  onChange: (action: BoreDoes) => void;
};

export function BoreAction({ name, how, folded, value, onChange }: Props) {
  const choices = CHOICES[how].filter((c) => c === value || !folded || c !== "drill");
  const shown = choices.includes(value) ? choices : [value, ...choices];
  return (
    <>
      <b className="clip" style={{ display: "block" }}>
        {name.replaceAll("_", " ")}
      </b>
      <SegmentedControl
        fullWidth
        value={value}
        aria-label={`${name}: bore`}
        onChange={(v) => onChange(v as BoreDoes)}
        data={shown.map((c) => ({ value: c, label: WORDS[c] }))}
      />
      {COMES[how]?.[value] && (
        <div className="soft" style={{ fontSize: 12 }}>
          {COMES[how][value]}
        </div>
      )}
    </>
  );
}

/** What is done at first to a part that is met so. */
export function atFirst(how: OnAxis["how"], folded: boolean): BoreDoes {
  if (how === "edge") return "leave";
  return how === "angle" && !folded ? "drill" : "cut";
}

export const ACTED: Record<BoreDoes, string> = { cut: "cut", drill: "drilled", mark: "marked", leave: "left alone" };
