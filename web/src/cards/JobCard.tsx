// The job card: the card of what is selected or drafted; the design's own card otherwise.
import { Button } from "@mantine/core";
import { useEffect, useRef } from "react";
import { TextField } from "../fields/PlainField";
import { ordered } from "../lib/document";
import { length, mass, plural } from "../lib/figures";
import { id } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { useForms, useJointWord } from "../state/forms";
import { useView } from "../state/view";
import { BoreCard } from "./BoreCard";
import { ClearanceCard } from "./ClearanceCard";
import { CopyCard, InstanceCard } from "./CopyCard";
import { CopyList } from "./CopyList";
import { DraftCard } from "./DraftCard";
import { FeatureCard } from "./FeatureCard";
import { FlangeCard } from "./FlangeCard";
import { FrameCard } from "./FrameCard";
import { GroupCard } from "./GroupCard";
import { JointCard } from "./JointCard";
import { ManyCard } from "./ManyCard";
import { MarksSection } from "./MarksSection";
import { MoveCard } from "./MoveCard";
import { MovesCard } from "./MovesCard";
import { PartCard } from "./PartCard";
import { ProblemList } from "./Problem";
import { RecordForm } from "./RecordForm";
import { SizeCard } from "./SizeCard";

export function JobCard() {
  const shown = useShown();
  const { selection, draft, moving } = useView();
  const card = useRef<HTMLElement>(null);
  const what = draft
    ? `draft ${draft.kind}`
    : selection
      ? JSON.stringify([selection.kind, "key" in selection ? selection.key : ""])
      : "";
  // another card is read from its top
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is shown is what it waits for
  useEffect(() => {
    card.current?.scrollTo(0, 0);
  }, [what]);
  if (!shown) return <aside className="card" />;
  return (
    <aside className="card" aria-label="Job card" ref={card}>
      {draft ? <DraftCard draft={draft} /> : moving ? <MovesCard /> : <Card selection={selection} />}
    </aside>
  );
}

function Card({ selection }: { selection: ReturnType<typeof useView.getState>["selection"] }) {
  switch (selection?.kind) {
    case "part":
      if (selection.key.includes("@")) return <InstanceCard key={selection.key} instance={selection.key} />;
      return <PartCard key={selection.key} partKey={selection.key} face={selection.face} />;
    case "joint":
      return <JointCard key={selection.key} jointKey={selection.key} />;
    case "feature":
      return <FeatureCard key={`${selection.part}/${selection.key}`} partKey={selection.part} featureKey={selection.key} />;
    case "flange":
      return <FlangeCard key={`${selection.part}/${selection.key}`} partKey={selection.part} flangeKey={selection.key} />;
    case "bore":
      return <BoreCard key={selection.key} boreKey={selection.key} />;
    case "size":
      return <SizeCard key={selection.key} sizeKey={selection.key} />;
    case "copy":
      return <CopyCard key={selection.key} copyKey={selection.key} />;
    case "group":
      return <GroupCard key={selection.key} groupKey={selection.key} />;
    case "clearance":
      return <ClearanceCard key={selection.key} clearanceKey={selection.key} />;
    case "move":
      return <MoveCard key={selection.movement} movement={selection.movement} />;
    case "frame":
      return <FrameCard key={selection.key} frameKey={selection.key} />;
    case "many":
      return <ManyCard parts={selection.parts} features={selection.features} />;
    default:
      return <DesignCard />;
  }
}

/** The design's bores, with what lies along them. */
function BoreList() {
  const { doc, built } = useShown()!;
  const select = useView((s) => s.select);
  if (!Object.keys(doc.bores).length) return null;
  return (
    <section>
      <h3>Bores</h3>
      {ordered(doc.bores).map(([k, b]) => (
        <button
          type="button"
          className={`linkrow ${b.out ? "leftout" : ""}`}
          key={k}
          onClick={() => select({ kind: "bore", key: k })}
        >
          <span className="swatch" style={{ background: "var(--cut-inside)" }} />
          <span className="clip title">{b.name.replaceAll("_", " ")}</span>
          <span className="soft clip grow" style={{ textAlign: "right" }}>
            {built.sets?.find((s) => s.bore === k)?.words}
          </span>
        </button>
      ))}
    </section>
  );
}

const RULES = ["rules"];

function DesignCard() {
  const forms = useForms();
  const word = useJointWord();
  const shown = useShown()!;
  const commit = useDesign((s) => s.commit);
  const ordering = useDesign((s) => s.ordering);
  const view = useView();
  const { doc, built } = shown;
  return (
    <>
      <h2>{doc.name}</h2>
      <div className="soft">{mass(built.totals.mass)} of cut parts · press a part to see its card</div>
      <section>
        <h3>Problems</h3>
        <ProblemList
          problems={built.problems}
          empty={
            built.parts.length && !ordering.length ? "None. Everything can be cut and put together as it stands." : undefined
          }
        />
        {ordering.length > 0 && (
          <p className="soft" data-testid="ordering">
            Still looking for {ordering.map((n) => n.replaceAll("_", " ")).join(", ")}…
          </p>
        )}
      </section>
      <section>
        <h3>
          <span>Joints</span>
          <Button size="compact-xs" onClick={() => view.setDraft({ kind: "joint" })}>
            Join two parts
          </Button>
        </h3>
        {built.joints.length === 0 && <div className="soft">None yet.</div>}
        {built.joints.map((j) => (
          <button type="button" className="linkrow" key={j.key} onClick={() => view.select({ kind: "joint", key: j.key })}>
            <span className="swatch" style={{ background: "var(--joint)" }} />
            <span className="grow clip">{j.title.replaceAll("_", " ")}</span>
            <span className={j.refused ? "error" : "soft"}>{j.refused ? "refused" : word(j.kind).toLowerCase()}</span>
          </button>
        ))}
      </section>
      <BoreList />
      {Object.keys(doc.frames).length > 0 && (
        <section>
          <h3>Frames</h3>
          {ordered(doc.frames).map(([k, f]) => (
            <button type="button" className="linkrow" key={k} onClick={() => view.select({ kind: "frame", key: k })}>
              <span className="swatch" style={{ background: "var(--joint)" }} />
              <span className="grow clip title">{f.name.replaceAll("_", " ")}</span>
              <span className="soft">{plural(Object.keys(f.lines).length, "line")}</span>
            </button>
          ))}
        </section>
      )}
      <CopyList copies={ordered(doc.copies)} />
      {Object.keys(doc.clearances).length > 0 && (
        <section>
          <h3>Room under watch</h3>
          {ordered(doc.clearances).map(([k, c]) => {
            const room = built.clearances.find((x) => x.key === k)?.room;
            const broken = built.problems.some((p) => p.owner === id.clearance(k));
            return (
              <button
                type="button"
                className={`linkrow ${c.out ? "leftout" : ""}`}
                key={k}
                onClick={() => view.select({ kind: "clearance", key: k })}
              >
                <span className="grow clip title">{c.name}</span>
                <span className={`figure ${broken ? "error" : "good"}`}>{room == null ? "gone" : length(room, doc.display)}</span>
              </button>
            );
          })}
        </section>
      )}
      <section>
        <h3>Design</h3>
        <TextField
          label="Name"
          value={doc.name}
          onSave={(name) => name && void commit(`Name: ${name}`, [{ op: "replace", path: "/name", value: name }])}
        />
        <TextField
          label="Note"
          value={doc.note}
          maxLength={2000}
          onSave={(note) => void commit("Note", [{ op: "add", path: "/note", value: note }])}
        />
        <TextField
          label="Part numbers"
          value={doc.numbering}
          maxLength={40}
          onSave={(v) => void commit(`Part numbers: ${v}`, [{ op: "add", path: "/numbering", value: v || "{number}" }])}
        />
        <div className="soft" style={{ fontSize: 12 }}>
          Written with {"{number}"} on the whole list, or {"{group}"} and {"{part}"}: TH-{"{group}"}-{"{part}"} gives TH-01-03.
        </div>
      </section>
      <MarksSection />
      {forms.rules && (
        <section>
          <h3>{forms.rules.title}</h3>
          <RecordForm form={forms.rules} path={RULES} record={{ ...doc.rules }} title="Rules" />
        </section>
      )}
    </>
  );
}
