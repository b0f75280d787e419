// What every command does, whether it comes from a key, the quick bar or a menu.
import { said } from "../api/client";
import { removeSelected } from "../cards/edits";
import { AXES, type CopyKind, type Doc, FACES, freshKey, nextOrder, originalOf, pointer, sheetsOf } from "../lib/document";
import { id, isOf, readOwner } from "../lib/owner";
import { fresh, useDesign } from "../state/design";
import { readSolid } from "../state/files";
import type { Command } from "../state/keys";
import { usePlacing } from "../state/placing";
import { litOf } from "../state/shape";
import { ofEach } from "../state/stations";
import { useView } from "../state/view";

/** What is selected as a copy names it: a group or copy whole, else the parts. */
function selectedOf(): string[] {
  const { selection } = useView.getState();
  const { head, doc } = useDesign.getState();
  if (selection?.kind === "group") return [id.group(selection.key)];
  if (selection?.kind === "copy") return [id.copy(selection.key)];
  const found = litOf(selection, head ?? undefined, doc).map((key) => {
    const made = key.split("@").slice(1);
    return made.length ? id.copy(made[made.length - 1].split(".")[0]) : id.part(originalOf(key));
  });
  return [...new Set(found)];
}

export function startCopy(way: CopyKind): void {
  useView.getState().setDraft({ kind: "copy", way, of: selectedOf() });
}

export function startGroup(): void {
  const parts = selectedOf()
    .filter((r) => isOf(r, "part"))
    .map((r) => readOwner(r).key);
  useView.getState().setDraft({ kind: "group", parts });
}

/** A bought body with the shape of a STEP or mesh file, beside all that stands there. */
export async function addSolid(file: File): Promise<void> {
  const { doc, head, commit } = useDesign.getState();
  if (!doc) return;
  try {
    const shape = await readSolid(file);
    const name = freeName(
      doc,
      file.name
        .replace(/\.[^.]*$/, "")
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, "_")
        .replace(/^[_0-9]+|_+$/g, "") || "body",
    );
    // beside all that stands there, on the ground
    const right = Math.max(...(head?.parts ?? []).map((p) => p.high?.[0] ?? Number.NEGATIVE_INFINITY));
    const beside = Number.isFinite(right) ? `${Math.ceil(right) + 20} mm` : "0";
    const at = Object.fromEntries(AXES.map((a) => [a, fresh(a === "x" ? beside : "0")]));
    const by = Object.fromEntries(AXES.map((a) => [a, FACES[a][0]]));
    const key = freshKey(doc.parts, name);
    const value = { kind: "hardware", name, order: nextOrder(doc.parts), shape, at, by };
    if (await commit(`Bought body from ${file.name}`, [{ op: "add", path: pointer("parts", key), value }]))
      useView.getState().select({ kind: "part", key });
  } catch (error) {
    useDesign.setState({ fault: said(error) });
  }
}

/** A name that nothing has yet. */
function freeName(doc: Doc, stem: string): string {
  const taken = new Set([...Object.values(doc.parts), ...Object.values(doc.sizes)].map((r) => r.name));
  const wish = stem.slice(0, 34);
  if (!taken.has(wish) && !(wish in doc.parts)) return wish;
  for (let n = 2; ; n++) if (!taken.has(`${wish}_${n}`) && !(`${wish}_${n}` in doc.parts)) return `${wish}_${n}`;
}

/** A bought block beside the origin, to be set between its places. */
export async function addBlock(): Promise<void> {
  const { doc, commit } = useDesign.getState();
  if (!doc) return;
  const entry = fresh;
  const taken = new Set([...Object.values(doc.parts), ...Object.values(doc.sizes)].map((r) => r.name));
  let name = "block_1";
  for (let n = 2; taken.has(name) || name in doc.parts; n++) name = `block_${n}`;
  const value = {
    kind: "bought",
    name,
    order: nextOrder(doc.parts),
    plane: "lying",
    position: { face: "bottom", at: entry("0") },
    spans: { x: { low: entry("0"), high: entry("60 mm") }, y: { low: entry("0"), high: entry("40 mm") } },
    deep: entry("25 mm"),
  };
  if (await commit("A bought block", [{ op: "add", path: pointer("parts", name), value }]))
    useView.getState().select({ kind: "part", key: name });
}

/** A board in hand; where there is nothing to cut it from, its form says so. */
export function startBoard(): void {
  const { doc } = useDesign.getState();
  useView.getState().setDraft(doc && sheetsOf(doc).length ? { kind: "place" } : { kind: "board" });
}

/** A drawer in hand. */
export function startDrawer(): void {
  startBoard();
  // once the card has begun
  requestAnimationFrame(() => usePlacing.getState().set({ what: "drawer" }));
}

export function toggleSection(): void {
  const view = useView.getState();
  view.setSection(view.section ? null : { axis: "x", share: 0.5, flipped: true });
}

export function runCommand(command: Command): void {
  const view = useView.getState();
  const design = useDesign.getState();
  const parts = design.head?.parts ?? [];
  const every = litOf(view.selection, design.head ?? undefined, design.doc);
  const lit = every[0];
  const inBuild = (then: () => void) => {
    if (view.station !== "build") view.go("build");
    then();
  };
  const step = (by: number) => {
    if (!parts.length) return;
    const i = parts.findIndex((p) => p.key === lit);
    const next = i < 0 ? (by > 0 ? 0 : parts.length - 1) : (i + by + parts.length) % parts.length;
    view.select({ kind: "part", key: parts[next].key });
  };
  const actions: Record<Command, () => void> = {
    ...ofEach((s) => () => view.go(s)),
    quick: () => view.setDialog("quick"),
    keys: () => view.setDialog("keys"),
    history: () => view.setDialog("history"),
    undo: () => void (design.undo && design.step("undo")),
    redo: () => void (design.redo && design.step("redo")),
    hide: () => (every.length > 1 ? view.hide(every) : lit && view.toggleHidden(lit)),
    glass: () => (every.length > 1 ? view.seeThrough(every) : lit && view.toggleGlass(lit)),
    isolate: () =>
      every.length &&
      view.isolate(
        every,
        parts.map((p) => p.key),
      ),
    mirror: () => startCopy("mirror"),
    group: startGroup,
    move: () => view.setMoving(!view.moving),
    measure: () => inBuild(() => view.setTool("measure")),
    section: () => inBuild(toggleSection),
    loop: () => view.setTool("loop"),
    showAll: () => view.showAll(),
    board: startBoard,
    line: () => view.setDraft({ kind: "line" }),
    joint: () => view.setDraft({ kind: "joint", a: lit }),
    feature: () => view.setDraft({ kind: "feature", part: lit && originalOf(lit) }),
    bore: () => view.setDraft({ kind: "bore" }),
    remove: () => void removeSelected(view.selection),
    nextPart: () => step(1),
    previousPart: () => step(-1),
    fit: () => view.look("corner"),
    away: () => (view.tool ? view.setTool("") : view.draft ? view.setDraft(null) : view.select(null)),
  };
  actions[command]();
}
