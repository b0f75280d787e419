// Finding parts: by name with * and ?, by stock, by problem, by what they have ("holes 6 mm").
import type { PartOut, ProblemOut } from "../api/types";
import type { Doc } from "./document";
import { LENGTH_UNITS } from "./units";

/** A size is met where it differs by less than this (mm). */
const NEAR = 0.05;

/** A name pattern: * for any run of letters, ? for any one; without either it has to be somewhere in the name. */
export function named(name: string, pattern: string): boolean {
  const plain = (t: string) => t.toLowerCase().replaceAll("_", " ");
  if (!/[*?]/.test(pattern)) return plain(name).includes(plain(pattern));
  const source = plain(pattern)
    .replace(/[.+^${}()|[\]\\]/g, "\\$&")
    .replaceAll("*", ".*")
    .replaceAll("?", ".");
  return new RegExp(`^${source}$`, "u").test(plain(name));
}

function sizeIn(text: string, unit: "mm" | "in"): { size: number | null; rest: string } {
  const found = /(\d+(?:\.\d+)?)\s*(mm|cm|m|in|ft|"|')?(?![\w.])/.exec(text);
  if (!found) return { size: null, rest: text.trim() };
  return { size: Number(found[1]) * LENGTH_UNITS[found[2] ?? unit], rest: text.replace(found[0], " ").trim() };
}

/** Whether a part is what the words ask for; every word has to fit in one way or another. */
export function finds(part: PartOut, text: string, doc: Doc, problems: ProblemOut[]): boolean {
  const query = text.trim().toLowerCase();
  if (!query) return true;
  if (named(part.path, query) || named(doc.parts[part.of]?.name ?? "", query)) return true;
  if (/^problems?$/.test(query)) return problems.some((p) => !p.kept && (p.part === part.of || p.other === part.of));
  const stock = doc.stocks[part.stock];
  if (stock && (named(stock.name, query) || named(part.stock, query) || named(stock.material, query))) return true;
  const { size, rest } = sizeIn(query, doc.unit);
  const word = rest.replace(/s$/, "");
  const has = part.has.filter(([what]) => !word || String(what).startsWith(word));
  if (!word && size === null) return false;
  return size === null ? has.length > 0 : has.some(([, own]) => Math.abs(Number(own) - size) < NEAR);
}
