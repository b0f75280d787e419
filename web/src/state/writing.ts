// The entry that has the focus, while a press in the picture or the list writes a name into it.
import { create } from "zustand";
import { type Axis, type Doc, FACES, isPlaced } from "../lib/document";

/** An entry that waits: along which axis a place has to lie, and what writes a name into it. */
export type Waits = { axis?: Axis; write: (name: string, more?: boolean) => void };

type WritingState = {
  entry: Waits | null;
  /** the face under the pointer that could be written */
  over: { part: string; face: string } | null;
  /** why what was pressed cannot be written */
  why: string;
  wait: (entry: Waits) => void;
  leave: (entry: Waits) => void;
  point: (over: WritingState["over"]) => void;
  say: (why: string) => void;
};

export const useWriting = create<WritingState>()((set, get) => ({
  entry: null,
  over: null,
  why: "",
  wait: (entry) => set({ entry, over: null, why: "" }),
  leave: (entry) => {
    if (get().entry === entry) set({ entry: null, over: null, why: "" });
  },
  point: (over) => {
    const before = get().over;
    if (before?.part !== over?.part || before?.face !== over?.face) set({ over, why: "" });
  },
  say: (why) => set({ why }),
}));

/** The name by which entries call an instance: its own, or that of a mirror image; '' for a copy, which has none. */
export function nameOf(doc: Doc, key: string): string {
  const [of, made, more] = key.split("@");
  if (!made) return doc.parts[of]?.name ?? "";
  return (!more && doc.copies[made.split(".")[0]]?.names?.[of]) || "";
}

/** What a press on a face writes, or why it writes nothing. */
export function faceNamed(doc: Doc, key: string, face: string, axis?: Axis): { name: string; why: string } {
  const part = nameOf(doc, key);
  if (!part) return { name: "", why: "A copy has no name that an entry could use; press its original." };
  const name = `${part}.${face}`;
  const own = (Object.keys(FACES) as Axis[]).find((a) => FACES[a].includes(face));
  if (axis && own && own !== axis)
    return { name: "", why: `${name} lies along ${own}; here a ${FACES[axis].join(" or a ")} face is meant.` };
  return { name, why: "" };
}

/** The name of a part with what makes it ready for one of its faces; '' where it has none. */
export function partNamed(doc: Doc, key: string): string {
  const name = nameOf(doc, key);
  const record = doc.parts[key.split("@")[0]];
  return name && isPlaced(record) ? `${name}.` : "";
}
