// The entries that a draft begins with, in the unit that the design is typed in.
import type { Entry } from "./document";
import { INCH } from "./units";

/** A default that was chosen in millimetres as a maker would say it in inches: eighths from 10 mm on, sixteenths under that, thousandths under 1.5 mm. */
export function inInches(mm: number): string {
  if (mm < 1.5) return `${Number((mm / INCH).toFixed(3))} in`;
  const parts = mm < 10 ? 16 : 8;
  let top = Math.max(1, Math.round((mm / INCH) * parts));
  let bottom = parts;
  const whole = Math.floor(top / bottom);
  top %= bottom;
  while (top && top % 2 === 0) {
    top /= 2;
    bottom /= 2;
  }
  return `${[whole || !top ? whole : "", top ? `${top}/${bottom}` : ""].filter((x) => x !== "").join("-")} in`;
}

/** What a new entry begins with in a design that is typed in `unit`: `first` is said in millimetres, or is no plain length. */
export function beginning(first: string, unit: "mm" | "in"): Entry {
  const plain = first.match(/^(\d+(?:\.\d+)?) mm$/);
  return { text: unit === "in" && plain ? inInches(Number(plain[1])) : first, unit };
}
