// A picture of the design as a customer sees it: stock as it looks, soft light, a shadow on the ground; drawn here, with no service.
import * as THREE from "three";
import { RoomEnvironment } from "three/examples/jsm/environments/RoomEnvironment.js";
import type { BuiltOut, PartOut } from "../../../api/types";
import { type Doc, lookOf } from "../../../lib/document";
import { solid as solidData } from "../../../state/resources";
import { solidGeometry } from "../../build/solids";
import { materialsOf, surfaceOf } from "./surfaces";
import { textured } from "./textured";

/** How a picture is taken: degrees round the design from its front, counter-clockwise seen from above, and up; `apart` 0 to 1. */
export type Shot = {
  around: number;
  up: number;
  parallel: boolean;
  apart: number;
  ground: boolean;
  lines: boolean;
  clear: boolean;
};

/** No graphics card draws more at once without fail; a larger picture is put together of such pieces. */
const PIECE = 1024;
/** A fine picture is drawn in smaller ones: between two of them the page answers, also where the processor does the drawing. */
const FINE_PIECE = 256;
const FOV = 22;
/** Air round the design, as a share of the picture. */
const AIR = 1.16;
/** How far apart parts are pulled, as in the other pictures. */
const SPREAD = 1.4;
/** Lights that cast shadows: several beside one another make those soft. */
const LIGHTS = 8;
/** While the picture is being set up so many do. */
const FEW = 2;
const STEEL = "#9aa4ad";
const GROUND = "#f4f1ea";
const INK = "#2b3138";

/** Holds a design ready to be photographed; `dispose` gives back what the graphics card keeps. */
export class Studio {
  private readonly scene = new THREE.Scene();
  private readonly design = new THREE.Group();
  private readonly renderer: THREE.WebGLRenderer;
  private readonly lights: THREE.DirectionalLight[] = [];
  private readonly lines: THREE.LineSegments[] = [];
  private readonly ground: THREE.Mesh<THREE.PlaneGeometry, THREE.ShadowMaterial>;
  private readonly moved = new Map<THREE.Object3D, THREE.Vector3>();
  private readonly kept: { dispose: () => void }[] = [];
  private gone = false;

  constructor(built: BuiltOut, doc: Doc) {
    this.renderer = new THREE.WebGLRenderer({ antialias: true, alpha: true, preserveDrawingBuffer: true });
    this.renderer.shadowMap.enabled = true;
    this.renderer.shadowMap.autoUpdate = false;
    this.renderer.shadowMap.type = THREE.PCFShadowMap;
    this.renderer.toneMapping = THREE.NeutralToneMapping;
    const maker = new THREE.PMREMGenerator(this.renderer);
    const room = maker.fromScene(new RoomEnvironment(), 0.04);
    this.scene.environment = room.texture;
    this.scene.environmentIntensity = 0.9;
    this.kept.push(room, maker, this.renderer);
    this.scene.add(this.design);
    this.place(built, doc);
    for (let n = 0; n < LIGHTS; n++) {
      const light = new THREE.DirectionalLight("#fff6e8");
      light.castShadow = true;
      light.shadow.mapSize.set(1024, 1024);
      light.shadow.radius = 5;
      this.lights.push(light);
      this.scene.add(light, light.target);
    }
    this.ground = new THREE.Mesh(new THREE.PlaneGeometry(1, 1), new THREE.ShadowMaterial({ opacity: 0.26 }));
    this.ground.receiveShadow = true;
    this.scene.add(this.ground);
  }

  /** Draws the design at a size into a canvas (pixels), as it is seen while the picture is set up. */
  take(shot: Shot, wide: number, high: number, into: HTMLCanvasElement): void {
    for (const _ of this.pieces(shot, wide, high, into, FEW, PIECE));
  }

  /** Draws it with soft shadows, as it is kept; the page lives on meanwhile, and nothing else may be taken until it is done. */
  async takeFine(shot: Shot, wide: number, high: number, into: HTMLCanvasElement): Promise<void> {
    for (const _ of this.pieces(shot, wide, high, into, LIGHTS, FINE_PIECE)) {
      await new Promise((next) => setTimeout(next));
      if (this.gone) throw new Error("The design changed while its picture was taken: take it again.");
    }
  }

  private *pieces(shot: Shot, wide: number, high: number, into: HTMLCanvasElement, lights: number, piece: number) {
    const box = this.pull(shot.apart);
    this.light(box, lights);
    for (const l of this.lines) l.visible = shot.lines;
    this.ground.visible = shot.ground;
    const camera = this.camera(shot, box, wide / high);
    into.width = wide;
    into.height = high;
    const paper = into.getContext("2d")!;
    paper.clearRect(0, 0, wide, high);
    if (!shot.clear) {
      paper.fillStyle = shot.ground ? GROUND : "#ffffff";
      paper.fillRect(0, 0, wide, high);
    }
    this.renderer.setClearColor("#000000", 0);
    this.renderer.shadowMap.needsUpdate = true; // once for all pieces
    for (let y = 0; y < high; y += piece)
      for (let x = 0; x < wide; x += piece) {
        const [w, h] = [Math.min(piece, wide - x), Math.min(piece, high - y)];
        this.renderer.setSize(w, h, false);
        camera.setViewOffset(wide, high, x, y, w, h);
        this.renderer.render(this.scene, camera);
        paper.drawImage(this.renderer.domElement, x, y);
        yield;
      }
  }

  dispose(): void {
    this.gone = true;
    for (const k of this.kept) k.dispose();
    this.ground.geometry.dispose();
    this.ground.material.dispose();
    for (const l of this.lights) l.dispose();
    this.renderer.forceContextLoss();
  }

  private place(built: BuiltOut, doc: Doc): void {
    const looks = new Map<string, [THREE.Material, THREE.Material]>();
    const look = (stock: string) => {
      const found = looks.get(stock) ?? materialsOf(surfaceOf(doc.stocks[stock]), stock ? lookOf(doc, stock).tint : STEEL);
      if (!looks.has(stock)) {
        looks.set(stock, found);
        this.kept.push(...found);
      }
      return found;
    };
    const groups = new Map<string, THREE.Group>();
    for (const p of built.parts) {
      const data = p.solid ? solidData(p.solid) : undefined;
      if (!data) continue;
      const group = this.groupOf(p);
      groups.set(p.key, group);
      const solid = solidGeometry(p.solid, data);
      const made = textured(
        solid.faces,
        surfaceOf(doc.stocks[p.stock]),
        data.skin !== undefined || p.flat !== "",
        grainOf(p, solid.faces),
      );
      this.add(group, made, look(p.stock), solid.edges, new THREE.Matrix4().set(...(p.matrix.flat() as Matrix)));
    }
    const steel = materialsOf("steel", STEEL);
    this.kept.push(...steel);
    const piece = (key: string, matrix: readonly number[], of: string) => {
      const data = solidData(key);
      if (!data) return;
      const solid = solidGeometry(key, data);
      const to = new THREE.Matrix4().set(...([...matrix, 0, 0, 0, 1] as unknown as Matrix));
      this.add(groups.get(of) ?? this.design, textured(solid.faces, "steel", false, 2), steel, null, to);
    };
    for (const set of built.sets ?? [])
      set.places.forEach((place, n) => {
        set.pieces[n].forEach((one, i) => {
          piece(one.solid, place.matrices[i], place.parts[0] ?? "");
        });
      });
    for (const one of built.fitted ?? []) piece(one.solid, one.matrix, one.part);
  }

  /** The group that a part goes in, by how far it is pulled apart. */
  private groupOf(p: PartOut): THREE.Group {
    const group = new THREE.Group();
    const middle = p.low && p.high ? p.low.map((x, i) => (x + p.high![i]) / 2) : [0, 0, 0];
    this.moved.set(group, new THREE.Vector3(...(middle as [number, number, number])));
    this.design.add(group);
    return group;
  }

  private add(
    to: THREE.Object3D,
    faces: THREE.BufferGeometry,
    look: [THREE.Material, THREE.Material],
    edges: THREE.BufferGeometry | null,
    matrix: THREE.Matrix4,
  ): void {
    const mesh = new THREE.Mesh(faces, look);
    mesh.matrixAutoUpdate = false;
    mesh.matrix.copy(matrix);
    mesh.castShadow = true;
    mesh.receiveShadow = true;
    this.kept.push(faces);
    to.add(mesh);
    if (!edges) return;
    const ink = new THREE.LineBasicMaterial({ color: INK, transparent: true, opacity: 0.35 });
    const lines = new THREE.LineSegments(edges, ink);
    lines.matrixAutoUpdate = false;
    lines.matrix.copy(matrix);
    this.kept.push(ink);
    this.lines.push(lines);
    to.add(lines);
  }

  /** The parts pulled apart by a share, and the box round them. */
  private pull(share: number): THREE.Box3 {
    for (const group of this.moved.keys()) group.position.set(0, 0, 0);
    this.design.updateMatrixWorld(true);
    const whole = new THREE.Box3().setFromObject(this.design, true);
    const middle = whole.getCenter(new THREE.Vector3());
    for (const [group, at] of this.moved)
      group.position.copy(
        at
          .clone()
          .sub(middle)
          .multiplyScalar(share * SPREAD),
      );
    this.design.updateMatrixWorld(true);
    return share ? new THREE.Box3().setFromObject(this.design, true) : whole;
  }

  /** Lights over the left shoulder, and the ground under the design. */
  private light(box: THREE.Box3, count: number): void {
    const middle = box.getCenter(new THREE.Vector3());
    const reach = box.getSize(new THREE.Vector3()).length() / 2 || 1;
    this.lights.forEach((light, n) => {
      light.visible = n < count;
      light.intensity = 1.7 / count;
      const turn = (2 * Math.PI * n) / count;
      const way = new THREE.Vector3(-0.5 + 0.28 * Math.cos(turn), -0.95 + 0.28 * Math.sin(turn), 1.3).normalize();
      light.position.copy(middle).addScaledVector(way, 3 * reach);
      light.target.position.copy(middle);
      light.target.updateMatrixWorld();
      const eye = light.shadow.camera;
      Object.assign(eye, {
        left: -1.6 * reach,
        right: 1.6 * reach,
        top: 1.6 * reach,
        bottom: -1.6 * reach,
        near: reach,
        far: 6 * reach,
      });
      eye.updateProjectionMatrix();
      light.shadow.normalBias = reach / 250;
    });
    this.ground.scale.set(12 * reach, 12 * reach, 1);
    this.ground.position.set(middle.x, middle.y, box.min.z - reach / 2000);
  }

  private camera(shot: Shot, box: THREE.Box3, aspect: number): THREE.PerspectiveCamera | THREE.OrthographicCamera {
    const [around, up] = [shot.around, shot.up].map((x) => (x * Math.PI) / 180);
    const toward = new THREE.Vector3(Math.sin(around) * Math.cos(up), -Math.cos(around) * Math.cos(up), Math.sin(up));
    const right = new THREE.Vector3(Math.cos(around), Math.sin(around), 0);
    const over = toward.clone().cross(right);
    const middle = box.getCenter(new THREE.Vector3());
    const corners = [...Array(8).keys()].map((i) =>
      new THREE.Vector3(i & 1 ? box.max.x : box.min.x, i & 2 ? box.max.y : box.min.y, i & 4 ? box.max.z : box.min.z).sub(middle),
    );
    const reach = box.getSize(new THREE.Vector3()).length() || 1;
    const tan = Math.tan((FOV * Math.PI) / 360);
    let distance = 3 * reach;
    let camera: THREE.PerspectiveCamera | THREE.OrthographicCamera;
    if (shot.parallel) {
      const high = AIR * Math.max(...corners.map((c) => Math.max(Math.abs(c.dot(right)) / aspect, Math.abs(c.dot(over)))));
      camera = new THREE.OrthographicCamera(-high * aspect, high * aspect, high, -high, 0.1, 8 * reach);
    } else {
      // nearer corners are seen larger: what is in the middle of the picture is not the middle of the box
      for (let again = 0; again < 6; again++) {
        distance = Math.max(
          ...corners.map((c) => c.dot(toward) + (AIR * Math.max(Math.abs(c.dot(right)) / aspect, Math.abs(c.dot(over)))) / tan),
        );
        for (const way of [right, over]) {
          const seen = corners.map((c) => c.dot(way) / (distance - c.dot(toward)));
          const off = ((Math.max(...seen) + Math.min(...seen)) / 2) * distance;
          middle.addScaledVector(way, off);
          for (const c of corners) c.addScaledVector(way, -off);
        }
      }
      camera = new THREE.PerspectiveCamera(FOV, aspect, distance / 50, distance + 8 * reach);
    }
    camera.up.copy(over);
    camera.position.copy(middle).addScaledVector(toward, distance);
    camera.lookAt(middle);
    camera.updateMatrixWorld();
    return camera;
  }
}

type Matrix = Parameters<THREE.Matrix4["set"]>;

/** Along which of its own axes a part's grain is seen to run: sheets along their longer side, bars along their length. */
function grainOf(p: PartOut, faces: THREE.BufferGeometry): number {
  faces.computeBoundingBox();
  const size = faces.boundingBox!.getSize(new THREE.Vector3()).toArray();
  if (p.flat !== "") return size[0] >= size[1] ? 0 : 1;
  return size.indexOf(Math.max(...size));
}
