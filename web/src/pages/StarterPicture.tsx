// Line drawings of the starters.
const PATHS: Record<string, string> = {
  nothing: "M8 8h64v44H8z",
  "open-box": "M6 22l34-12 34 12-34 12zM6 22v18l34 14V34M74 22v18L40 54M14 22l26-9 26 9-26 9z",
  "closed-box": "M6 20L40 8l34 12-34 12zM6 20v22l34 12V32M74 20v22L40 54",
  tray: "M6 30l34-12 34 12-34 12zM6 30v9l34 13V42M74 30v9L40 52M14 30l26-9 26 9-26 9z",
  "folded-box": "M20 20h40v20H20zM20 20v-12h40v12M20 40v12h40V40M20 20H8v20h12M60 20h12v20H60",
  cabinet: "M18 4h44v52H18zM22 8h36v40H22zM22 21h36M22 34h36M22 52h36",
  "drawer-unit": "M16 6h48v48H16zM20 10h40v12H20zM20 24h40v12H20zM20 38h40v12H20zM36 16h8M36 30h8M36 44h8",
  stool: "M10 12h60v6H10zM18 18v36h8V18M54 18v36h8V18M26 30h28M26 38h28",
  enclosure: "M8 26l32-12 32 12-32 12zM8 26v14l32 12V38M72 26v14L40 52M46 43l0 5M52 41l0 5M58 38.500l0 5",
  "shelf-case": "M20 6h40v50H20zM24 9h32v44H24zM24 20h32M24 31h32M24 42h32",
};

export function StarterPicture({ kind }: { kind: string }) {
  return (
    <svg viewBox="0 0 80 60" width={58} height={43} aria-hidden="true">
      <path
        d={PATHS[kind]}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.4}
        strokeLinejoin="round"
        strokeDasharray={kind === "nothing" ? "3 3" : undefined}
      />
    </svg>
  );
}
