import * as THREE from "three";
import { expect, test } from "vitest";
import type { PartOut, SolidOut } from "../../api/types";
import { legFace, placeAt } from "./picking";

// two corners on the plate, one on the bend, two on a leg; face B first, then face A: a triangle of the leg on each face, and one of its rim
const skin = (angle: number) => ({
  zone: [0, 0, -1, 1, 1],
  faces: [
    { key: "", owner: "" },
    { key: "c.1", owner: "flange:p:c" },
  ],
  bends: [{ angle }],
});
const data = (angle: number) => ({ skin: skin(angle), triangles: [2, 3, 4, 7, 8, 9, 3, 4, 9, 0, 1, 2] }) as unknown as SolidOut;

test("a leg bent up has its inner face where face A is, one bent down where face B is", () => {
  expect(legFace(data(1.5), "flange:p:c", 0)).toBe("c.1.outer");
  expect(legFace(data(1.5), "flange:p:c", 1)).toBe("c.1.inner");
  expect(legFace(data(-1.5), "flange:p:c", 0)).toBe("c.1.inner");
  expect(legFace(data(-1.5), "flange:p:c", 1)).toBe("c.1.outer");
});

test("its rim, the plate, other owners and flat boards have no leg's face", () => {
  expect(legFace(data(1.5), "flange:p:c", 2)).toBeUndefined();
  expect(legFace(data(1.5), "face_b", 3)).toBeUndefined();
  expect(legFace(data(1.5), "flange:p:other", 0)).toBeUndefined();
  expect(legFace({ ...data(1), skin: null } as SolidOut, "flange:p:c", 0)).toBeUndefined();
});

test("a press on it is a place to measure from where faces are picked, and the part where parts are", () => {
  const part = { key: "p@m.1", of: "p", face_a: "top", face_b: "bottom", words: {} } as unknown as PartOut;
  const at = (as: "face" | "part" | "centre") => placeAt(part, "flange:p:c", new THREE.Vector3(), as, "c.1.outer");
  expect(at("face")).toEqual({ part: "p@m.1", what: "face", name: "c.1.outer" });
  expect(at("part")).toEqual({ part: "p@m.1", what: "part", name: "" });
  expect(at("centre")).toEqual({ part: "p@m.1", what: "centre", name: "" });
});
