// A part that becomes another kind of part: what it said as the old kind goes, what all kinds say stays.
import { type PlatePart, pointer } from "./document";

/** What only parts of a kind say. */
const OWN: Record<PlatePart["kind"], string[]> = {
  board: [],
  folded: ["made", "price", "folding"],
  bought: ["made", "price", "deep", "mass", "solid"],
};

/** The edits that make a part another kind, with what it says as that kind; what is bought stays bought when it is folded. */
export function becomes(key: string, part: PlatePart, kind: PlatePart["kind"], says: Record<string, unknown> = {}) {
  const own = part.kind === "bought" && kind === "folded" ? { made: "bought", ...says } : says;
  // how the one kind is made, the other may not be
  const stays = (field: string) => (field === "made" ? field in own : OWN[kind].includes(field));
  const gone = OWN[part.kind].filter((field) => field in part && !stays(field));
  return [
    ...gone.map((field) => ({ op: "remove", path: pointer("parts", key, field) })),
    { op: "replace", path: pointer("parts", key, "kind"), value: kind },
    ...Object.entries(own).map(([field, value]) => ({ op: "add", path: pointer("parts", key, field), value })),
  ];
}
