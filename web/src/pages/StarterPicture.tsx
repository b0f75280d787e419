// Line drawings of the starters.
const PATHS: Record<string, string> = {
  nothing: "M8 8h64v44H8z",
  "open-box": "M6 22l34-12 34 12-34 12zM6 22v18l34 14V34M74 22v18L40 54M14 22l26-9 26 9-26 9z",
  "closed-box": "M6 20L40 8l34 12-34 12zM6 20v22l34 12V32M74 20v22L40 54",
  tray: "M6 30l34-12 34 12-34 12zM6 30v9l34 13V42M74 30v9L40 52M14 30l26-9 26 9-26 9z",
  "folded-box": "M20 20h40v20H20zM20 20v-12h40v12M20 40v12h40V40M20 20H8v20h12M60 20h12v20H60",
  "shelf-case": "M20 6h40v50H20zM24 9h32v44H24zM24 20h32M24 31h32M24 42h32",
};

export function StarterPicture({ kind }: { kind: string }) {
  return (
    <svg viewBox="0 0 80 60" width={76} height={57} aria-hidden="true">
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
