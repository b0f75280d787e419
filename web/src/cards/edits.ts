// Edits that more than one place makes: removing what is selected, renaming, operations that the core works out.

import type { StockForm } from "../api/types";
import { freshKey, nextOrder, originalOf, pointer } from "../lib/document";
import { withEntries } from "../lib/forms";
import { readOwner } from "../lib/owner";
import { fresh, useDesign } from "../state/design";
import { operate } from "../state/operations";
import { type Selection, useView } from "../state/view";

export async function removeSelected(selection: Selection): Promise<void> {
  const { doc, commit } = useDesign.getState();
  if (!selection || !doc) return;
  useView.getState().select(null);
  switch (selection.kind) {
    case "part":
      await operate({ operation: "remove_part", key: originalOf(selection.key) });
      break;
    case "size":
      await operate({ operation: "remove_size", key: selection.key });
      break;
    case "joint":
      await commit("Remove a joint", [{ op: "remove", path: pointer("joints", selection.key) }]);
      break;
    case "bore":
      await commit(`Remove ${doc.bores[selection.key]?.name ?? "a bore"}`, [
        { op: "remove", path: pointer("bores", selection.key) },
      ]);
      break;
    case "copy":
      await operate({ operation: "remove_copy", key: selection.key });
      break;
    case "frame":
      await operate({ operation: "remove_frame", key: selection.key });
      break;
    case "group":
      await operate({ operation: "remove_group", key: selection.key });
      break;
    case "clearance":
      await commit("No longer watch it", [{ op: "remove", path: pointer("clearances", selection.key) }]);
      break;
    case "many":
      if (selection.features.length)
        await commit(
          `Remove ${selection.features.length} features`,
          selection.features.map((f) => {
            const { part, key } = readOwner(f);
            return { op: "remove", path: pointer("parts", part, "features", key) };
          }),
        );
      else for (const key of new Set(selection.parts.map(originalOf))) await operate({ operation: "remove_part", key });
      break;
    case "flange":
      await operate({ operation: "remove_flange", part: selection.part, key: selection.key });
      break;
    case "feature":
      await commit("Remove a feature", [{ op: "remove", path: pointer("parts", selection.part, "features", selection.key) }]);
  }
}

/** A new stock of a kind, as the core begins one; its key. */
export async function addStock(form: StockForm): Promise<string | undefined> {
  const { doc, commit } = useDesign.getState();
  if (!doc) return undefined;
  const key = freshKey(doc.stocks, form.kind === "sheet" ? "stock" : form.kind);
  const value = { ...(withEntries(form.start, fresh) as object), order: nextOrder(doc.stocks) };
  const fine = await commit(`Add a stock: ${form.title.toLowerCase()}`, [{ op: "add", path: pointer("stocks", key), value }]);
  return fine ? key : undefined;
}
