// The words of flanges, the edges that one can stand on, and a new one.
import type { EdgeOut, FlangeForm } from "../api/types";
import { FACES, type Flange, type Folding, FRAME, freshKey, nextOrder, type PlatePart } from "../lib/document";
import { withEntries } from "../lib/forms";
import { fresh } from "../state/design";
import { words } from "../state/shape";

/** What a flange is called, here as in every message: its own name, what its key says more than its edge, or its edge and kind. */
export function flangeName(key: string, flanges: Record<string, Flange>): string {
  const flange = flanges[key];
  if (flange?.name) return flange.name;
  if (!flange || ![flange.edge, `${flange.on}_${flange.edge}`].includes(key.replace(/_\d+$/, ""))) return key;
  const kind = {
    flange: "flange",
    hem: "hem",
    offset: "offset bend",
    profile: "profile",
    drawn: "drawn profile",
    line: "bend line",
  }[flange.kind];
  const own = `${flange.edge} ${kind}`;
  return flange.on && flange.on !== key ? `${own} of ${flangeName(flange.on, flanges)}` : own;
}

/** The edges that something can stand on: of the plate, or the ends and sides of the flanges; the values are 'FLANGE/EDGE'. */
export function edgesOf(board: PlatePart, found: EdgeOut[] = []): { value: string; label: string }[] {
  const frame = FRAME[board.plane];
  // those of a plain plate are known before the core has told them
  const names = found.length ? found.map((e) => e.name) : [...FACES[frame.u], ...FACES[frame.v]];
  const plate = names.map((e) => ({ value: `/${e}`, label: `${words(e)} edge of the plate` }));
  const sides: [string, string][] = [
    ["end", "far edge"],
    ["low", "low side"],
    ["high", "high side"],
  ];
  const others = Object.entries(board.folding?.flanges ?? {})
    .filter(([, f]) => f.kind !== "hem" && !f.out)
    .flatMap(([k]) =>
      sides.map(([e, w]) => ({ value: `${k}/${e}`, label: `${w} of ${words(flangeName(k, board.folding!.flanges))}` })),
    );
  const cuts = [
    { value: "/cut_low", label: "edge at which it begins" },
    { value: "/cut_high", label: "edge at which it ends" },
  ].filter((_, i) => board.folding?.split?.[i ? "high" : "low"]);
  return [...plate, ...cuts, ...others];
}

/** A new flange on an edge ('FLANGE/EDGE'), with its key; of a length where one is given. */
export function newFlange(folding: Folding | undefined, form: FlangeForm, edge: string, length?: string) {
  const [on, name] = edge.split("/");
  const flanges = folding?.flanges ?? {};
  const key = freshKey(flanges, on ? `${on}_${name}` : name);
  const value = {
    ...(withEntries(form.start, fresh) as { kind: string }),
    edge: name,
    on,
    toward: on ? flanges[on].toward : "a",
    order: nextOrder(flanges),
    ...(form.kind === "tab" ? { name: `${name} locking tab` } : {}),
    ...(length ? { length: fresh(length) } : {}),
  };
  return { key, value };
}
