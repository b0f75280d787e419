// Owner ids: what a contour, a triangle or a problem belongs to, and what a copy is of, as one text. They are made and read here alone, as the core does.
export type OwnerKind =
  | "joint"
  | "bore"
  | "feature"
  | "flange"
  | "bend"
  | "edge"
  | "part"
  | "group"
  | "copy"
  | "size"
  | "clearance"
  | "move"
  | "stock"
  | "frame";
export type Owner = { kind: string; key: string; part: string; flange: string };

const plain = (kind: OwnerKind) => (key: string) => `${kind}:${key}`;

export const id = {
  joint: plain("joint"),
  bore: plain("bore"),
  edge: plain("edge"),
  part: plain("part"),
  group: plain("group"),
  copy: plain("copy"),
  size: plain("size"),
  clearance: plain("clearance"),
  move: plain("move"),
  stock: plain("stock"),
  frame: plain("frame"),
  feature: (part: string, key: string, flange = "") => `feature:${part}:${flange ? `${flange}.` : ""}${key}`,
  flange: (part: string, key: string) => `flange:${part}:${key}`,
  bend: (part: string, key: string) => `bend:${part}:${key}`,
};

/** An id taken apart: the part of features, flanges and bends, and the flange that a feature is cut into. */
export function readOwner(text: string): Owner {
  const [kind, ...rest] = text.split(":");
  if (!["feature", "flange", "bend"].includes(kind)) return { kind, key: rest.join(":"), part: "", flange: "" };
  const [part, key = ""] = [rest[0] ?? "", rest.slice(1).join(":")];
  const dot = kind === "feature" ? key.indexOf(".") : -1;
  return dot < 0 ? { kind, key, part, flange: "" } : { kind, key: key.slice(dot + 1), part, flange: key.slice(0, dot) };
}

/** Whether an id is of a kind. */
export function isOf(text: string, kind: OwnerKind): boolean {
  return text.startsWith(`${kind}:`);
}

/** Whether an id is of what is cut into a flange. */
export function isWithin(text: string, part: string, flange: string): boolean {
  const owner = readOwner(text);
  return owner.kind === "feature" && owner.part === part && owner.flange === flange;
}
