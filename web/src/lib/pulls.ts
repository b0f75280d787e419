// What an entry says once a face was pulled: free by its trailing constant, or caught on a name.
import type { PullOut } from "../api/types";
import { stepOf } from "./ghost";

/** So near (in pixels) a face catches on a place. */
const NEAR = 8;

export type Pulled = {
  /** where the face is now, in mm */
  value: number;
  text: string;
  /** the name that it caught on, else '' */
  caught: string;
  /** why the place where it is now cannot be named */
  barred?: string;
};

/** The entry with another constant behind its base, which vanishes where it is 0; as the core writes it. */
export function withConstant(pull: Pick<PullOut, "base" | "factor" | "places" | "word">, mm: number): string {
  const figure = Number((mm / pull.factor).toFixed(pull.places)) + 0;
  const digits = Math.abs(figure)
    .toFixed(pull.places)
    .replace(/\.?0+$/, "");
  const text = digits + (/[a-z]/.test(pull.word) ? ` ${pull.word}` : pull.word);
  if (!pull.base) return figure < 0 ? `-${text}` : text;
  return figure ? `${pull.base} ${figure < 0 ? "-" : "+"} ${text}` : pull.base;
}

/** What pulling by so many mm gives. With `replace` a catch takes the place of a whole expression, of which else the constant alone changes. */
export function pulledTo(pull: PullOut, by: number, scale: number, unit: "mm" | "in", replace = false): Pulled {
  const wanted = pull.value + by;
  const near = pull.catches
    .filter((c) => Math.abs(c.value - wanted) <= NEAR * scale)
    .sort((a, b) => Math.abs(a.value - wanted) - Math.abs(b.value - wanted))[0];
  if (near && Math.abs(near.value - pull.value) > 1e-6) {
    const text = pull.whole || replace ? near.entry : withConstant(pull, pull.constant + near.value - pull.value);
    return { value: near.value, text, caught: near.entry };
  }
  const step = stepOf(scale, unit);
  // a plain figure comes to be a round one; behind a name it is the distance that is round
  const constant = Math.round((pull.constant + by) / step) * step;
  const barred = pull.barred.find((b) => Math.abs(b.value - wanted) <= NEAR * scale)?.why;
  return {
    value: pull.value + constant - pull.constant,
    text: withConstant(pull, constant),
    caught: "",
    ...(barred ? { barred } : {}),
  };
}

/** What pulling by exactly so many mm gives, as where the distance was typed. */
export function pulledBy(pull: PullOut, mm: number): Pulled {
  return { value: pull.value + mm, text: withConstant(pull, pull.constant + mm), caught: "" };
}
