// A member of a frame: the bar or tube that it is cut from, how it lies on its line, how its ends are cut, and what they are joined to.
import { ActionIcon, Button, Tooltip } from "@mantine/core";
import { IconDownload, IconTrash } from "@tabler/icons-react";
import { useState } from "react";
import type { Form, MemberOut } from "../api/types";
import { type Entry, freshKey, type Member, nextOrder, ordered, originalOf, pointer } from "../lib/document";
import { figure, length } from "../lib/figures";
import { id as owner } from "../lib/owner";
import { fresh, useDesign, useShown } from "../state/design";
import { useForms, useJointWord } from "../state/forms";
import { words } from "../state/shape";
import { useView } from "../state/view";
import { DrawOnFace } from "./DrawOnFace";
import { lineWords } from "./FrameCard";
import { LetThrough } from "./LetThrough";
import { degrees, MemberEnd } from "./MemberEnd";
import { RecordForm } from "./RecordForm";

export function MemberPlace({ partKey, member }: { partKey: string; member: Member }) {
  const doc = useDesign((s) => s.doc)!;
  const shown = useShown()!;
  const id = useDesign((s) => s.id);
  const forms = useForms();
  const { select } = useView.getState();
  const frame = doc.frames[member.frame];
  const built = shown.built.parts.find((p) => p.key === partKey)?.member;
  const files = `/api/designs/${id}/files/templates/${partKey}`;
  const numbers = frame ? member.lines.map((k) => lineWords(frame, k)).join(", ") : "";
  return (
    <>
      <section>
        <h3>
          <span>{built?.bends ? "Bends" : "Ends"}</span>
          {built && !built.bends && <span className="figure soft">short {length(built.short, doc.display)}</span>}
        </h3>
        {built?.bends && <BendTable bends={built.bends} then={built.then ?? 0} />}
        {(["a", "b"] as const).map((end, i) => (
          <MemberEnd
            key={end}
            end={end}
            partKey={partKey}
            member={member}
            told={built?.ends[i]}
            bent={Boolean(built?.bends)}
            href={`${files}?what=${end}`}
          />
        ))}
        {built?.turn != null && built.turn > 1e-6 && (
          <div className="soft">Turned by {degrees(built.turn)} between both cuts.</div>
        )}
        {built?.laid_flat && (
          <Button component="a" size="compact-xs" leftSection={<IconDownload size={13} />} href={`${files}?what=whole`}>
            Laid flat, with its holes, DXF
          </Button>
        )}
      </section>
      <MemberJoints partKey={partKey} />
      <MemberHoles partKey={partKey} member={member} />
      {!built?.bends && <LetThrough partKey={partKey} />}
      <section>
        <h3>
          <span>{forms.member?.title}</span>
          <Button size="compact-xs" onClick={() => select({ kind: "frame", key: member.frame })}>
            {words(frame?.name ?? "frame")}, {numbers}
          </Button>
        </h3>
        {forms.member && <RecordForm form={forms.member} path={["parts", partKey]} record={{ ...member }} title={member.name} />}
        <DrawOnFace part={owner.frame(member.frame)}>{frame?.drawing ? "Draw its path…" : "Draw its path freely…"}</DrawOnFace>
      </section>
    </>
  );
}

/** What the bender does, bend by bend. */
function BendTable({ bends, then }: { bends: NonNullable<MemberOut["bends"]>; then: number }) {
  const { display } = useDesign((s) => s.doc)!;
  const f = (mm: number) => figure(Number(mm.toFixed(2)), display);
  const over = bends.some((b) => Math.abs(b.over - b.bend) > 1e-6);
  return (
    <>
      <table className="plain" aria-label="Bender's table">
        <thead>
          <tr>
            <th>Bend</th>
            <th className="num">Feed</th>
            <th className="num">Turn</th>
            <th className="num">Bend by</th>
            {over && <th className="num">over to</th>}
            <th className="num">begins at</th>
          </tr>
        </thead>
        <tbody>
          {bends.map((b, i) => (
            <tr key={b.at}>
              <td>{i + 1}</td>
              <td className="num figure">{f(b.feed)}</td>
              <td className="num figure">{degrees(b.turn)}</td>
              <td className="num figure">{degrees(b.bend)}</td>
              {over && <td className="num figure">{degrees(b.over)}</td>}
              <td className="num figure">{f(b.at)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="soft">
        Then <span className="figure">{length(then, display)}</span>. Marks are on the straight bar, from end A.
      </div>
    </>
  );
}

/** What its ends are joined to, and what else it meets. */
function MemberJoints({ partKey }: { partKey: string }) {
  const shown = useShown()!;
  const word = useJointWord();
  const { select, setDraft } = useView.getState();
  const joints = shown.built.joints.filter((j) => [j.a, j.b].some((k) => originalOf(k) === partKey));
  return (
    <section>
      <h3>
        <span>Joints</span>
        <Button size="compact-xs" onClick={() => setDraft({ kind: "touches", part: partKey })}>
          What it meets
        </Button>
      </h3>
      {joints.length === 0 && <div className="soft">None yet: both ends are as they are drawn.</div>}
      {joints.map((j) => (
        <button type="button" className="linkrow" key={j.key} onClick={() => select({ kind: "joint", key: j.key })}>
          <span className="swatch" style={{ background: "var(--joint)" }} />
          <span className="grow clip">{words(j.title)}</span>
          <span className={j.refused ? "error" : "soft"}>{j.refused ? "refused" : word(j.kind).toLowerCase()}</span>
        </button>
      ))}
    </section>
  );
}

/** What is drilled in it, or marked. */
function MemberHoles({ partKey, member }: { partKey: string; member: Member }) {
  const form = useForms().member_hole;
  const commit = useDesign((s) => s.commit);
  const [open, setOpen] = useState("");
  const holes = ordered(member.holes ?? {});
  const { doc, built } = useShown()!;
  const at = (key: string, field: string) =>
    length(built.values[pointer("parts", partKey, "holes", key, field)]?.value ?? 0, doc.display);

  function add() {
    if (!form) return;
    const key = freshKey(member.holes ?? {}, "hole");
    void commit(`${member.name}: a hole`, [
      { op: "add", path: pointer("parts", partKey, "holes"), value: member.holes ?? {} },
      {
        op: "add",
        path: pointer("parts", partKey, "holes", key),
        value: { ...begun(form), order: nextOrder(member.holes ?? {}) },
      },
    ]).then((fine) => fine && setOpen(key));
  }

  return (
    <section>
      <h3>
        <span>Holes</span>
        <Button size="compact-xs" onClick={add}>
          Add a hole
        </Button>
      </h3>
      {holes.map(([key, hole], n) => (
        <div key={key}>
          <div className="row">
            <button
              type="button"
              className="linkrow grow"
              aria-expanded={open === key}
              onClick={() => setOpen(open === key ? "" : key)}
            >
              <span className="grow clip">{holeWords(hole, (field) => at(key, field))}</span>
              <span className="soft figure">
                {at(key, "off")} from {(hole.end ?? "a").toUpperCase()}
              </span>
            </button>
            <Tooltip label="Remove it">
              <ActionIcon
                aria-label={`Remove hole ${n + 1}`}
                onClick={() =>
                  void commit(`${member.name}: a hole less`, [{ op: "remove", path: pointer("parts", partKey, "holes", key) }])
                }
              >
                <IconTrash size={15} />
              </ActionIcon>
            </Tooltip>
          </div>
          {open === key && form && (
            <div className="inset">
              <RecordForm
                form={form}
                path={["parts", partKey, "holes", key]}
                record={{ ...hole }}
                title={`${member.name}, hole ${n + 1}`}
                skip={hole.count > 1 ? [] : ["pitch"]}
              />
            </div>
          )}
        </div>
      ))}
    </section>
  );
}

/** A hole in a few words: how many, what it is, how wide. */
function holeWords(hole: Member["holes"][string], at: (field: "wide" | "long") => string): string {
  const many = (hole.count ?? 1) * (hole.ring ?? 1);
  const what = hole.long ? `slot ${at("wide")} × ${at("long")}` : `⌀ ${at("wide")}`;
  return `${many > 1 ? `${many} × ` : ""}${hole.made === "mark" ? "mark " : ""}${what}`;
}

/** What a record begins with that has no values of its own yet. */
function begun(form: Form): { [field: string]: Entry } {
  return Object.fromEntries(
    form.fields.flatMap((f) => (f.type === "entry" && f.begin && f.default === null ? [[f.name, fresh(f.begin)]] : [])),
  );
}
