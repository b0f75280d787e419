// Hardware found by what one would ask for over the counter: "M5 washer", "dowel 8", "countersunk M4 x 20".
import { TextInput } from "@mantine/core";
import { useState } from "react";
import type { HardwareOut } from "../api/types";
import { mass } from "../lib/figures";
import { useHardware } from "../state/hardware";

/** So many are listed at once. */
const LISTED = 12;

type Props = {
  /** What is found goes best through a hole of so many mm first. */
  hole?: number;
  roles: readonly string[];
  onTake: (found: HardwareOut) => void;
  placeholder?: string;
  /** what is said of what is found and is of none of the roles */
  other?: string;
};

export function FindHardware({
  hole,
  roles,
  onTake,
  placeholder = "M5 washer, countersunk M4 x 20",
  other = "That is no part of a set.",
}: Props) {
  const [text, setText] = useState("");
  const { found, fault } = useHardware(text, hole);
  const fitting = found.filter((h) => roles.includes(h.role));
  return (
    <div>
      <div className="entry">
        <label htmlFor="find-hardware">Find a piece</label>
        <TextInput
          id="find-hardware"
          value={text}
          maxLength={80}
          placeholder={placeholder}
          onChange={(e) => setText(e.currentTarget.value)}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === "Escape") setText("");
            if (e.key === "Enter" && fitting[0]) {
              onTake(fitting[0]);
              setText("");
            }
          }}
        />
      </div>
      {fault && <div className="soft">{fault}</div>}
      {!fault && found.length > 0 && !fitting.length && <div className="soft">{other}</div>}
      {fitting.slice(0, LISTED).map((h) => (
        <button
          type="button"
          key={h.designation}
          className="linkrow"
          onClick={() => {
            onTake(h);
            setText("");
          }}
        >
          <span className="grow clip">{h.name}</span>
          <span className="soft figure" style={{ whiteSpace: "nowrap" }}>
            {h.standard || h.source}, {mass(h.mass)}
          </span>
        </button>
      ))}
      {fitting.length > LISTED && <div className="soft">and {fitting.length - LISTED} more: say a length as well.</div>}
    </div>
  );
}
