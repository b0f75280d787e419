// What can be done where a face was pressed, at hand beside the press.
import * as THREE from "three";
import type { PartOut } from "../../api/types";
import { isPlate, originalOf, sheetsOf } from "../../lib/document";
import { CATCH, stepOf } from "../../lib/ghost";
import { beginBore } from "../../state/boring";
import { useDesign } from "../../state/design";
import { usePlacing } from "../../state/placing";
import { useView } from "../../state/view";
import { faceWord } from "./picking";
import { scaleAt } from "./stage";
import type { Hit, Under } from "./usePicking";

type Act = { label: string; words: string; act: () => void };

/** Cuts and marks that begin where the face was pressed. */
const CUTS = [
  ["hole", "Hole"],
  ["rectangle", "Cut-out"],
  ["pocket", "Pocket"],
  ["mark_text", "Text"],
] as const;

/** Where on a board something was pressed, from the low ends along both its axes, on round steps. */
export function pressedAt(part: PartOut, at: THREE.Vector3, step: number): [number, number] {
  const matrix = new THREE.Matrix4().set(...(part.matrix.flat() as Parameters<THREE.Matrix4["set"]>)).invert();
  const p = at.clone().applyMatrix4(matrix);
  return [Math.round(p.x / step) * step, Math.round(p.y / step) * step];
}

export function FaceActs({ under, parts, box }: { under: Under; parts: PartOut[]; box: DOMRect }) {
  const doc = useDesign((s) => s.doc);
  const hit: Hit | undefined = under.hits[under.chosen];
  const part = parts.find((p) => p.key === hit?.key);
  const face = hit && part && (hit.leg ?? faceWord(part, hit.owner));
  if (!doc || !part || !hit || !face) return null;
  const { setDraft, setTool, pick } = useView.getState();
  const board = doc.parts[part.of];
  const scale = scaleAt(hit.at);
  const acts: Act[] = [];
  if (sheetsOf(doc).length)
    acts.push({
      label: "Board",
      words: "A board that comes before this face",
      act: () => {
        setDraft({ kind: "place" });
        // once the card has begun
        requestAnimationFrame(() =>
          usePlacing.getState().point({ part: part.key, face, at: [hit.at.x, hit.at.y, hit.at.z], scale }),
        );
      },
    });
  if (isPlate(board) && part.key === part.of && (face === part.face_a || face === part.face_b))
    for (const [as, label] of CUTS)
      acts.push({
        label,
        words: `${label} where the face was pressed`,
        act: () => setDraft({ kind: "feature", part: part.of, as, at: pressedAt(part, hit.at, stepOf(scale, doc.unit)) }),
      });
  // the face of a flange looks along an axis, or the core says why not
  if (isPlate(board) && !face.endsWith(".end"))
    acts.push({
      label: "Bore",
      words: "A straight hole square to this face, through all that lies in its way",
      act: () => void beginBore(part.key, face, [hit.at.x, hit.at.y, hit.at.z], CATCH * scale, stepOf(scale, doc.unit)),
    });
  if (isPlate(board) && !face.endsWith(".end"))
    acts.push({
      label: "Screw",
      words: "A screw with its head on this face, through all that lies behind",
      act: () => void beginBore(part.key, face, [hit.at.x, hit.at.y, hit.at.z], CATCH * scale, stepOf(scale, doc.unit), true),
    });
  if (isPlate(board) && face.indexOf(".") < 0)
    acts.push({
      label: "Axle",
      words: "A rod through here, and all that stands in its way",
      act: () => setDraft({ kind: "axle", part: part.key, face, at: [hit.at.x, hit.at.y, hit.at.z], scale }),
    });
  if (isPlate(board) && part.key === part.of && face.indexOf(".") < 0)
    acts.push({
      label: "Hardware",
      words: "A foot, a magnet, a bearing or a pin on this face",
      act: () => setDraft({ kind: "stand", part: part.key, face, at: [hit.at.x, hit.at.y, hit.at.z] }),
    });
  if (isPlate(board))
    acts.push({ label: "Joint", words: "Join this board to another one", act: () => setDraft({ kind: "joint", a: part.key }) });
  acts.push({
    label: "Measure",
    words: "Measure from this face",
    act: () => {
      setTool("measure");
      pick({ part: part.key, what: "face", name: face });
    },
  });
  return (
    <div
      className="acts"
      role="toolbar"
      aria-label={`What can be done on ${originalOf(part.path).replaceAll("_", " ")}, ${face}`}
      style={{
        left: Math.max(8, Math.min(under.x - box.left - 60, box.width - 62 * acts.length)),
        top: Math.max(8, under.y - box.top - 46),
      }}
    >
      {acts.map((a) => (
        <button key={a.label} type="button" title={a.words} onClick={a.act}>
          {a.label}
        </button>
      ))}
    </div>
  );
}
