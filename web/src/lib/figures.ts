// Figures as people read them. A figure that was rounded says so with a ≈ in front.
import type { Display } from "./document";
import { INCH } from "./units";

const FINEST = 64;

function decimal(value: number, places: number): string {
  const shown = Number(value.toFixed(places));
  const text = String(Object.is(shown, -0) ? 0 : shown);
  return (Math.abs(shown - value) < 1e-6 ? "" : "≈") + text;
}

/** A length in mm as text, without its unit. */
export function figure(mm: number, display: Display): string {
  if (display === "mm") return decimal(mm, 2);
  if (display === "in") return decimal(mm / INCH, 3);
  const inches = mm / INCH;
  const sixtyFourths = Math.round(Math.abs(inches) * FINEST);
  const whole = Math.floor(sixtyFourths / FINEST);
  let top = sixtyFourths % FINEST;
  let bottom = FINEST;
  while (top && top % 2 === 0) {
    top /= 2;
    bottom /= 2;
  }
  const exact = Math.abs(sixtyFourths / FINEST - Math.abs(inches)) < 1e-7;
  const parts = [whole || !top ? String(whole) : "", top ? `${top}/${bottom}` : ""].filter(Boolean);
  return `${exact ? "" : "≈"}${inches < 0 && sixtyFourths ? "-" : ""}${parts.join("-")}`;
}

export function unitOf(display: Display): string {
  return display === "mm" ? "mm" : "in";
}

/** A length in mm as text with its unit. */
export function length(mm: number, display: Display): string {
  return `${figure(mm, display)} ${unitOf(display)}`;
}

/** Several lengths as '420 × 240 mm'. */
export function lengths(mm: number[], display: Display): string {
  return `${mm.map((x) => figure(x, display)).join(" × ")} ${unitOf(display)}`;
}

/** A value of an entry by its kind. */
export function value(v: { value: number; kind: string }, display: Display): string {
  if (v.kind === "length") return length(v.value, display);
  if (v.kind === "angle") return `${decimal((v.value * 180) / Math.PI, 2)}°`;
  return decimal(v.value, 4);
}

/** An angle in radians as degrees. */
export function angle(radians: number): string {
  return `${decimal((radians * 180) / Math.PI, 2)}°`;
}

/** An area in mm² as cm² or square inches. */
export function area(mm2: number, display: Display): string {
  return display === "mm" ? `${(mm2 / 100).toFixed(1)} cm²` : `${(mm2 / INCH / INCH).toFixed(2)} in²`;
}

/** An area in mm² as it is, or in square inches. */
export function smallArea(mm2: number, display: Display): string {
  return display === "mm" ? `${mm2.toFixed(2)} mm²` : `${(mm2 / INCH / INCH).toFixed(4)} in²`;
}

/** How far a cutter runs: metres or feet, one place; no one reads it to the hundredth. */
export function distance(mm: number, display: Display): string {
  return display === "mm" ? `${(mm / 1000).toFixed(1)} m` : `${(mm / INCH / 12).toFixed(1)} ft`;
}

export function money(amount: number, currency: string): string {
  return `${amount.toFixed(2)} ${currency}`;
}

export function mass(grams: number): string {
  if (grams > 0 && grams < 10) return `${grams.toFixed(1)}\u00a0g`;
  return grams < 1000 ? `${grams.toFixed(0)}\u00a0g` : `${(grams / 1000).toFixed(2)}\u00a0kg`;
}

export function duration(seconds: number): string {
  if (seconds < 90) return `${Math.round(seconds)} s`;
  const minutes = Math.round(seconds / 60);
  return minutes < 90 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, "0")} min`;
}

export function percent(share: number): string {
  return `${Math.round(share * 100)} %`;
}

export function plural(n: number, one: string, many = `${one}s`): string {
  return `${n} ${n === 1 ? one : many}`;
}
