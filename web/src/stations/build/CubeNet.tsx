// The view picker: a cube unfolded into its flat pattern. Press a face of the net to look at that side.
import { useView } from "../../state/view";

const S = 34;
const FACES: [string, number, number][] = [
  ["top", 1, 0],
  ["left", 0, 1],
  ["front", 1, 1],
  ["right", 2, 1],
  ["back", 3, 1],
  ["bottom", 1, 2],
];

export function CubeNet() {
  const side = useView((s) => s.side);
  const look = useView((s) => s.look);
  return (
    <svg className="net" width={4 * S + 2} height={3 * S + 2} role="group" aria-label="Look at a side">
      {FACES.map(([name, x, y]) => (
        <g
          key={name}
          data-on={side.name === name}
          transform={`translate(${x * S + 1} ${y * S + 1})`}
          role="button"
          tabIndex={0}
          aria-label={`Look at the ${name}`}
          onClick={() => look(name)}
          onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && look(name)}
        >
          <rect width={S} height={S} />
          <text x={S / 2} y={S / 2 + 3.5}>
            {name}
          </text>
        </g>
      ))}
    </svg>
  );
}
