// What stocks look like in pictures: textures of our own, drawn the same each time, and how they take the light.
import * as THREE from "three";
import type { Doc } from "../../../lib/document";

export type Surface = "ply" | "hardwood" | "board" | "steel" | "galvanised" | "acrylic" | "plastic";

/** Pixels of a texture, and how many mm of the part one of them covers along the grain and across it. */
const SIZE = 512;
const COVERS: Record<Surface, [number, number]> = {
  ply: [420, 420],
  hardwood: [300, 160],
  board: [160, 160],
  steel: [220, 60],
  galvanised: [70, 70],
  acrylic: [200, 200],
  plastic: [200, 200],
};
/** A veneer of plywood, seen on its edge (mm). */
const LAYER = 1.4;
const LAYERS = 8;
/** Heavier stock is metal (g/cm³). */
const METAL = 2;

/** What a stock looks like, by what it is of. */
export function surfaceOf(stock: Doc["stocks"][string] | undefined): Surface {
  if (!stock) return "plastic";
  const words = `${stock.name} ${stock.material ?? ""}`.toLowerCase();
  if (/galvani|zinc/.test(words)) return "galvanised";
  if (/acryl|polycarbonate|glass/.test(words)) return "acrylic";
  if (stock.kind === "bar") return (stock.density ?? 0) > METAL ? "steel" : "hardwood";
  if (stock.hatch === "metal") return "steel";
  if (stock.hatch === "plastic") return "plastic";
  if (stock.hatch === "ply" && !/oak|ash|beech|maple|walnut|solid/.test(words)) return "ply";
  return stock.hatch === "board" ? "board" : /ply/.test(words) ? "ply" : "hardwood";
}

/** mm of the part that a texture covers, along the grain and across. */
export const covers = (surface: Surface): [number, number] => COVERS[surface];
/** mm of the part that the texture of an edge covers, along it and across. */
export const edgeCovers = (): [number, number] => [240, LAYER * LAYERS];

/** Numbers from 0 to 1 that are the same each time (mulberry32). */
function lots(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

type Draw = (c: CanvasRenderingContext2D, lot: () => number, tint: THREE.Color) => void;

const shade = (tint: THREE.Color, by: number, alpha = 1) => {
  const [r, g, b] = [tint.r, tint.g, tint.b].map((x) => Math.round(255 * Math.min(1, Math.max(0, x * by))));
  return `rgba(${r},${g},${b},${alpha})`;
};

/** Lines along the grain that swing a little; they end as they begin, so that the texture joins itself. */
function grain(c: CanvasRenderingContext2D, lot: () => number, tint: THREE.Color, lines: number, depth: number, swing: number) {
  for (let n = 0; n < lines; n++) {
    const y = lot() * SIZE;
    const [high, turns, off] = [swing * lot(), 1 + Math.floor(lot() * 2), lot() * 7];
    c.strokeStyle = shade(tint, 1 - depth * lot(), 0.12 + 0.3 * lot());
    c.lineWidth = 0.5 + 2 * lot();
    for (const again of [-SIZE, 0, SIZE]) {
      c.beginPath();
      for (let x = 0; x <= SIZE; x += 8) {
        const at = y + again + high * Math.sin((2 * Math.PI * turns * x) / SIZE + off);
        if (x) c.lineTo(x, at);
        else c.moveTo(x, at);
      }
      c.stroke();
    }
  }
}

function specks(c: CanvasRenderingContext2D, lot: () => number, tint: THREE.Color, count: number, long: number, depth: number) {
  for (let n = 0; n < count; n++) {
    c.fillStyle = shade(tint, 1 + depth * (lot() - 0.5), 0.35);
    c.fillRect(lot() * SIZE, lot() * SIZE, 1 + long * lot(), 1 + lot());
  }
}

const FACES: Record<Surface, Draw> = {
  ply: (c, lot, tint) => grain(c, lot, tint, 150, 0.2, 14),
  hardwood: (c, lot, tint) => {
    grain(c, lot, tint, 190, 0.34, 9);
    specks(c, lot, tint, 900, 14, 0.5);
  },
  board: (c, lot, tint) => specks(c, lot, tint, 9000, 2, 0.3),
  steel: (c, lot, tint) => specks(c, lot, tint, 7000, 90, 0.18),
  galvanised: (c, lot, tint) => {
    // crystals of zinc: each place has the shade of the nearest of some points
    const seeds = Array.from({ length: 110 }, () => [lot() * SIZE, lot() * SIZE, 0.86 + 0.26 * lot()]);
    for (let y = 0; y < SIZE; y += 4)
      for (let x = 0; x < SIZE; x += 4) {
        let [best, by] = [Number.POSITIVE_INFINITY, 1];
        for (const [u, v, s] of seeds) {
          const dx = Math.min(Math.abs(u - x), SIZE - Math.abs(u - x));
          const dy = Math.min(Math.abs(v - y), SIZE - Math.abs(v - y));
          const far = dx * dx + dy * dy;
          if (far < best) [best, by] = [far, s];
        }
        c.fillStyle = shade(tint, by);
        c.fillRect(x, y, 4, 4);
      }
  },
  acrylic: () => {},
  plastic: (c, lot, tint) => specks(c, lot, tint, 2500, 1, 0.08),
};

/** The edge of plywood: veneers by turns along and across; of other stock as its face. */
const layers: Draw = (c, lot, tint) => {
  const high = SIZE / LAYERS;
  for (let n = 0; n < LAYERS; n++) {
    c.fillStyle = shade(tint, n % 2 ? 0.72 : 0.98);
    c.fillRect(0, n * high, SIZE, high);
    c.fillStyle = shade(tint, 0.5, 0.5);
    c.fillRect(0, n * high, SIZE, 2);
  }
  specks(c, lot, tint, 1600, 10, 0.3);
};

function texture(draw: Draw, tint: THREE.Color, seed: number): THREE.CanvasTexture {
  const canvas = document.createElement("canvas");
  canvas.width = SIZE;
  canvas.height = SIZE;
  const c = canvas.getContext("2d")!;
  c.fillStyle = shade(tint, 1);
  c.fillRect(0, 0, SIZE, SIZE);
  draw(c, lots(seed), tint);
  const made = new THREE.CanvasTexture(canvas);
  made.wrapS = THREE.RepeatWrapping;
  made.wrapT = THREE.RepeatWrapping;
  made.colorSpace = THREE.SRGBColorSpace;
  made.anisotropy = 8;
  return made;
}

const LIGHT: Record<Surface, Partial<THREE.MeshPhysicalMaterialParameters>> = {
  ply: { roughness: 0.72, metalness: 0 },
  hardwood: { roughness: 0.6, metalness: 0 },
  board: { roughness: 0.85, metalness: 0 },
  steel: { roughness: 0.38, metalness: 0.85 },
  galvanised: { roughness: 0.42, metalness: 0.75 },
  acrylic: { roughness: 0.08, metalness: 0, transparent: true, opacity: 0.42, depthWrite: false },
  plastic: { roughness: 0.5, metalness: 0 },
};

/** The material of faces and that of edges, of a stock's tint. */
export function materialsOf(surface: Surface, tint: string): [THREE.Material, THREE.Material] {
  // colours as they are written, not as light is reckoned
  const colour = new THREE.Color().setStyle(tint, THREE.LinearSRGBColorSpace);
  const make = (draw: Draw, seed: number) =>
    new THREE.MeshStandardMaterial({
      ...LIGHT[surface],
      map: surface === "acrylic" ? null : texture(draw, colour, seed),
      color: surface === "acrylic" ? tint : "#ffffff",
      side: THREE.DoubleSide,
    });
  return [make(FACES[surface], 7), make(surface === "ply" ? layers : FACES[surface], 11)];
}
