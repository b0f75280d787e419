// What a sentence of the quick bar does: worked out by the core before it is done, so that it can be seen.
import { useQuery } from "@tanstack/react-query";
import { api, got, said } from "../api/client";
import type { FreeRoom, PartOut, Patch } from "../api/types";
import { AXES, type Axis, FACES, FRAME, freshKey, isPlate, nextOrder, pointer, sheetsOf } from "../lib/document";
import { id } from "../lib/owner";
import type { Asked } from "../lib/sentence";
import { fresh, typed, useDesign } from "./design";
import { possibleJoints } from "./joints";
import { workedOut } from "./operations";

export type Done = { label: string; patch: Patch };

/** The edit that a sentence asks for; null where it is none but a way to look. */
export async function workOut(asked: Asked): Promise<Done | null> {
  const { doc, head } = useDesign.getState();
  if (!doc || !head) return null;
  switch (asked.do) {
    case "size": {
      const size = doc.sizes[asked.key];
      return {
        label: `${size.name}: ${asked.text}`,
        patch: [{ op: "replace", path: pointer("sizes", asked.key, "entry"), value: typed(asked.text) }],
      };
    }
    case "mirror": {
      const part = doc.parts[asked.parts[0]];
      const axis = isPlate(part) && asked.parts.length === 1 ? FRAME[part.plane].normal : "x";
      return workedOut({ operation: "mirror", of: asked.parts.map(id.part), axis });
    }
    case "remove":
      if (asked.parts.length > 1) throw new Error("One part at a time is removed by its name; select several to remove them.");
      return workedOut({ operation: "remove_part", key: asked.parts[0] });
    case "group":
      return workedOut({ operation: "group", of: asked.parts, name: freshKey(doc.groups, "group") });
    case "join": {
      const offer = (await possibleJoints(asked.a, asked.b))
        .filter((o) => o.kind === asked.kind)
        .sort((x, y) => Number(Boolean(x.refused)) - Number(Boolean(y.refused)))[0];
      if (!offer || offer.refused) throw new Error(offer?.refused ?? "That joint cannot be there.");
      const [a, b] = offer.order === "ba" ? [asked.b, asked.a] : [asked.a, asked.b];
      const depth = asked.depth ? { depth: fresh(/[a-z]/.test(asked.depth) ? asked.depth : `${asked.depth} ${doc.unit}`) } : {};
      const value = { kind: asked.kind, a, b, order: nextOrder(doc.joints), ...depth };
      return { label: offer.title, patch: [{ op: "add", path: pointer("joints", freshKey(doc.joints, `${a}-${b}`)), value }] };
    }
    case "evenly":
      return evenly(asked, head.parts);
    default:
      return null;
  }
}

/** The axis along which two parts stand apart, and which of them is the lower; null where they do not. */
export function apart(a: Pick<PartOut, "low" | "high">, b: Pick<PartOut, "low" | "high">): { axis: Axis; first: boolean } | null {
  for (const [i, axis] of AXES.entries()) {
    if (!a.low || !a.high || !b.low || !b.high) return null;
    const across = [0, 1, 2].filter((k) => k !== i).every((k) => a.low![k] < b.high![k] - 1 && b.low![k] < a.high![k] - 1);
    if (!across) continue;
    if (a.high[i] <= b.low[i] + 0.1) return { axis, first: true };
    if (b.high[i] <= a.low[i] + 0.1) return { axis, first: false };
  }
  return null;
}

async function evenly(asked: Extract<Asked, { do: "evenly" }>, parts: PartOut[]): Promise<Done> {
  const { doc, id: design } = useDesign.getState();
  const [a, b] = [asked.a, asked.b].map((key) => parts.find((p) => p.key === key));
  const between = a && b && apart(a, b);
  if (!doc || !a || !b || !between) throw new Error("These two do not stand before each other.");
  const like = doc.parts[asked.a];
  const stock = isPlate(like) && like.stock ? like.stock : (sheetsOf(doc)[0]?.[0] ?? "");
  const face = FACES[between.axis][between.first ? 1 : 0];
  const body = { part: a.key, face, plane: asked.plane, stock };
  const found = await got(api.POST("/api/designs/{design_id}/rooms", { params: { path: { design_id: design } }, body }));
  const far = between.first ? 1 : 0;
  const room: FreeRoom | undefined = found.rooms.find((r) => r[between.axis][far].part === b.key);
  if (!room) throw new Error(`Nothing is free between ${a.path} and ${b.path}.`);
  const { u, v, normal } = FRAME[asked.plane];
  const ends = (axis: Axis): [string, string] => [room[axis][0].entry, room[axis][1].entry];
  const middle = room.catches.find((c) => c.words === "in the middle") ?? room.catches[0];
  return workedOut({
    operation: "place_board",
    stock,
    plane: asked.plane,
    spans: { [u]: ends(u), [v]: ends(v) },
    face: middle?.face ?? FACES[normal][0],
    at: middle?.entry ?? room[normal][0].entry,
    number: asked.number,
    between: asked.number > 1 ? ends(normal) : null,
    pair: false,
  });
}

/** What a sentence does, while it is looked at; why it cannot be, where it cannot. */
export function useDone(asked: Asked | null) {
  const design = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["done", design, revision, asked],
    queryFn: () => workOut(asked!),
    enabled: asked !== null,
    retry: false,
  });
  return {
    done: asked ? (found.data ?? null) : null,
    why: asked && found.error ? said(found.error) : "",
    busy: Boolean(asked) && found.isPending,
  };
}
