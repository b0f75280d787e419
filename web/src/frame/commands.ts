// What every command does, whether it comes from a key, the quick bar or a menu.
import { removeSelected } from "../cards/edits";
import { useDesign } from "../state/design";
import type { Command } from "../state/keys";
import { litParts, useView } from "../state/view";

export function runCommand(command: Command): void {
  const view = useView.getState();
  const design = useDesign.getState();
  const parts = design.head?.parts ?? [];
  const lit = litParts(view.selection, design.head?.joints ?? [], design.doc?.bores ?? {})[0];
  const step = (by: number) => {
    if (!parts.length) return;
    const i = parts.findIndex((p) => p.key === lit);
    const next = i < 0 ? (by > 0 ? 0 : parts.length - 1) : (i + by + parts.length) % parts.length;
    view.select({ kind: "part", key: parts[next].key });
  };
  const actions: Record<Command, () => void> = {
    sizes: () => view.go("sizes"),
    build: () => view.go("build"),
    flats: () => view.go("flats"),
    nest: () => view.go("nest"),
    shop: () => view.go("shop"),
    quick: () => view.setDialog("quick"),
    keys: () => view.setDialog("keys"),
    history: () => view.setDialog("history"),
    undo: () => void (design.undo && design.step("undo")),
    redo: () => void (design.redo && design.step("redo")),
    hide: () => lit && view.toggleHidden(lit),
    glass: () => lit && view.toggleGlass(lit),
    showAll: () => view.showAll(),
    board: () => view.setDraft({ kind: "board" }),
    joint: () => view.setDraft({ kind: "joint", a: lit }),
    feature: () => view.setDraft({ kind: "feature", part: lit }),
    bore: () => view.setDraft({ kind: "bore" }),
    remove: () => void removeSelected(view.selection),
    nextPart: () => step(1),
    previousPart: () => step(-1),
    fit: () => view.look("corner"),
    away: () => (view.draft ? view.setDraft(null) : view.select(null)),
  };
  actions[command]();
}
