// Where a document keeps its drawings, by what is drawn on (a part, or the id of a bar's stock or of a frame) and which of it, as the core has them.
import { type Doc, isPlate } from "./document";
import { isOf, readOwner } from "./owner";

type Kept = { points?: object };

/** The drawing there; undefined where there is none. */
export function drawingIn(doc: Doc, part: string, feature: string): Kept | undefined {
  if (isOf(part, "stock")) {
    const stock = doc.stocks[readOwner(part).key];
    return stock?.kind === "bar" && stock.shape === "drawn" ? (stock.drawing ?? undefined) : undefined;
  }
  if (isOf(part, "frame")) return doc.frames[readOwner(part).key]?.drawing ?? undefined;
  const record = doc.parts[part];
  if (record?.kind === "turned") return record.drawing ?? undefined;
  if (!isPlate(record)) return undefined;
  if (isOf(feature, "flange")) return record.folding?.flanges[readOwner(feature).key]?.drawing ?? undefined;
  if (feature) return record.features?.[feature]?.drawing as Kept | undefined;
  return record.outline?.kind === "free" ? (record.outline.drawing as Kept) : undefined;
}
