// How a new part is bent: which way its bends run, and its lengths.
import type { ReactNode } from "react";
import type { FoldedShape } from "../api/types";
import { ChoiceField } from "../fields/PlainField";
import { AXIS_WORDS, type Axis } from "../lib/document";

type Props = {
  shape: FoldedShape;
  frame: { u: Axis; v: Axis };
  along: "u" | "v";
  onAlong: (along: "u" | "v") => void;
  children: ReactNode;
};

export function BentAs({ shape, frame, along, onAlong, children }: Props) {
  return (
    <>
      {shape.one_way && (
        <ChoiceField
          label="Bends run"
          value={along}
          data={(["u", "v"] as const).map((value) => ({ value, label: AXIS_WORDS[frame[value]] }))}
          onSave={(v) => onAlong(v as "u" | "v")}
        />
      )}
      {children}
      <p className="soft" style={{ margin: "2px 0 0" }}>
        Lengths to the outer sharps.
      </p>
    </>
  );
}
