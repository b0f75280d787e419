// A press on a face says where on the board it was, from its low corner and on round steps, however the board stands.
import * as THREE from "three";
import { expect, test } from "vitest";
import type { PartOut } from "../../api/types";
import { pressedAt } from "./FaceActs";

const part = (rows: number[][]) => ({ matrix: rows }) as unknown as PartOut;

test("a lying board, one that faces the front, and one that is turned", () => {
  const lying = part([
    [1, 0, 0, 20],
    [0, 1, 0, 30],
    [0, 0, 1, 100],
    [0, 0, 0, 1],
  ]);
  expect(pressedAt(lying, new THREE.Vector3(63.2, 78.9, 112), 5)).toEqual([45, 50]);
  const front = part([
    [1, 0, 0, 20],
    [0, 0, -1, 12],
    [0, 1, 0, 40],
    [0, 0, 0, 1],
  ]);
  expect(pressedAt(front, new THREE.Vector3(63.2, 0, 100.4), 1)).toEqual([43, 60]);
  const [c, s] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
  const turned = part([
    [c, -s, 0, 0],
    [s, c, 0, 0],
    [0, 0, 1, 0],
    [0, 0, 0, 1],
  ]);
  expect(pressedAt(turned, new THREE.Vector3(c * 50 - s * 20, s * 50 + c * 20, 12), 0.5)).toEqual([50, 20]);
});
