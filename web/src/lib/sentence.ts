// What a sentence in the quick bar asks for: "mirror front", "hide lid", "3 shelves between left and right", "groove floor left 6 deep", "width 430".
import type { Plane } from "./document";

/** What can be done to parts that are named. */
export const DEEDS = {
  mirror: ["mirror"],
  hide: ["hide"],
  show: ["show", "unhide"],
  glass: ["see through", "glass"],
  isolate: ["show only", "isolate", "only"],
  remove: ["remove", "delete"],
  group: ["group"],
  select: ["select", "find", "go to"],
} as const;
export type Deed = keyof typeof DEEDS;

/** What stands between two others, by the way that it stands. */
const STANDING: Record<string, Plane> = {
  shelf: "lying",
  divider: "facing_side",
  panel: "facing_front",
  shelves: "lying",
  dividers: "facing_side",
  panels: "facing_front",
};

export type Asked =
  | { do: Deed; parts: string[] }
  | { do: "join"; kind: string; a: string; b: string; depth: string }
  | { do: "evenly"; number: number; plane: Plane; what: string; a: string; b: string }
  | { do: "size"; key: string; text: string };

export type Named = { key: string; name: string };
export type Sentence = {
  asked: Asked | null;
  /** the words that were understood, as they are called, and those that were not */
  understood: string[];
  unknown: string[];
};

export type Things = { parts: Named[]; sizes: Named[]; joints: { kind: string; title: string }[] };

const plain = (name: string) => name.toLowerCase().replaceAll("_", " ").trim();
/** Words that say nothing by themselves. */
const SMALL = new Set([
  "and",
  "with",
  "to",
  "in",
  "into",
  "the",
  "a",
  "an",
  "by",
  "of",
  "on",
  "between",
  "joint",
  "deep",
  ",",
  "evenly",
  "mm",
]);

/** Takes the longest name that the words begin with, or the one that the first word begins; how many words it is. */
function nameAt(words: string[], from: number, named: Named[]): { thing: Named; length: number } | null {
  const longest = named
    .map((thing) => ({ thing, own: plain(thing.name).split(" ") }))
    .filter(({ own }) => own.every((w, i) => words[from + i] === w))
    .sort((a, b) => b.own.length - a.own.length)[0];
  if (longest) return { thing: longest.thing, length: longest.own.length };
  const begun = words[from]?.length > 2 ? named.filter((t) => plain(t.name).startsWith(words[from])) : [];
  return begun.length === 1 ? { thing: begun[0], length: 1 } : null;
}

/** All names in the words, in their order, and what is left over. */
function namesIn(words: string[], named: Named[]): { found: Named[]; rest: string[] } {
  const [found, rest]: [Named[], string[]] = [[], []];
  for (let i = 0; i < words.length; ) {
    const hit = nameAt(words, i, named);
    if (hit) found.push(hit.thing);
    else rest.push(words[i]);
    i += hit?.length ?? 1;
  }
  return { found, rest };
}

function deedOf(words: string[]): { deed: Deed; length: number } | null {
  const all = (Object.entries(DEEDS) as [Deed, readonly string[]][]).flatMap(([deed, ways]) =>
    ways.map((way) => ({ deed, own: way.split(" ") })),
  );
  const hit = all.filter(({ own }) => own.every((w, i) => words[i] === w)).sort((a, b) => b.own.length - a.own.length)[0];
  return hit ? { deed: hit.deed, length: hit.own.length } : null;
}

/** The kind of joint that the first words name: by any of its title's own words. */
function jointOf(words: string[], joints: Things["joints"]): { kind: string; title: string; length: number } | null {
  const small = new Set(["and", "in", "joint", "through", "face"]);
  const hits = joints.flatMap(({ kind, title }) => {
    const own = plain(title).split(/[\s-]+/);
    if (!words[0] || small.has(words[0]) || !own.some((w) => w === words[0] || w === `${words[0]}s` || `${w}s` === words[0]))
      return [];
    let length = 1;
    while (own.includes(words[length]) || words[length] === "joint") length++;
    return [{ kind, title, length, whole: own.filter((w) => words.slice(0, length).includes(w)).length / own.length }];
  });
  return hits.sort((a, b) => b.length - a.length || b.whole - a.whole)[0] ?? null;
}

/** What is asked for; the words that were not understood are told. */
export function sentenceOf(text: string, things: Things): Sentence {
  const words = text.toLowerCase().replaceAll(",", " ").split(/\s+/).filter(Boolean);
  const said = (rest: string[]) => rest.filter((w) => !SMALL.has(w));
  const nothing = { asked: null, understood: [], unknown: said(words) };
  if (!words.length) return nothing;

  const size = nameAt(words, 0, things.sizes);
  const raw = text
    .trim()
    .split(/\s+/)
    .slice(size?.length ?? 0)
    .join(" ")
    .replace(/^=?\s*/, "");
  if (size && raw)
    return { asked: { do: "size", key: size.thing.key, text: raw }, understood: [size.thing.name, raw], unknown: [] };

  const many = /^\d+$/.test(words[0]) ? Number(words[0]) : ["a", "one"].includes(words[0]) ? 1 : null;
  const what = many === null ? "" : (words[1] ?? "");
  if (many !== null && what in STANDING) {
    const { found, rest } = namesIn(words.slice(2), things.parts);
    const understood = [`${many} ${what}`, ...found.map((p) => p.name)];
    const unknown = said(rest);
    if (found.length !== 2 || unknown.length) return { asked: null, understood, unknown };
    return {
      asked: { do: "evenly", number: many, plane: STANDING[what], what, a: found[0].key, b: found[1].key },
      understood,
      unknown,
    };
  }

  const deed = deedOf(words);
  if (deed) {
    const { found, rest } = namesIn(words.slice(deed.length), things.parts);
    const understood = [words.slice(0, deed.length).join(" "), ...found.map((p) => p.name)];
    const unknown = said(rest);
    if (!found.length || unknown.length) return { asked: null, understood, unknown };
    return { asked: { do: deed.deed, parts: [...new Set(found.map((p) => p.key))] }, understood, unknown };
  }

  const parted = words.flatMap((w) => w.split("-")).filter(Boolean);
  const joint = jointOf(parted, things.joints);
  if (joint) {
    const { found, rest } = namesIn(parted.slice(joint.length), things.parts);
    const depth = /(\d+(?:\.\d+)?)\s*(mm|in)?\s+deep/.exec(rest.join(" "));
    const left = depth ? rest.join(" ").replace(depth[0], "").split(" ").filter(Boolean) : rest;
    const understood = [joint.title.toLowerCase(), ...found.map((p) => p.name), ...(depth ? [depth[0]] : [])];
    const unknown = said(left);
    if (found.length !== 2 || found[0].key === found[1].key || unknown.length) return { asked: null, understood, unknown };
    const deep = depth ? `${depth[1]}${depth[2] ? ` ${depth[2]}` : ""}` : "";
    return { asked: { do: "join", kind: joint.kind, a: found[0].key, b: found[1].key, depth: deep }, understood, unknown };
  }

  const { found, rest } = namesIn(words, [...things.parts, ...things.sizes]);
  return { asked: null, understood: found.map((p) => p.name), unknown: said(rest) };
}
