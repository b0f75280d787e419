// A new design: its name, what it begins with, the few sizes that matter, and how it would look.
import { Button, Modal, SegmentedControl, Select, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";
import { said } from "../api/client";
import type { StarterAsk, StarterForm } from "../api/types";
import { lengths, plural } from "../lib/figures";
import { type Answers, beginDesign, useStarterShown, useStarters, useUnit } from "../state/designs";
import { StarterPicture } from "./StarterPicture";

type Props = { opened: boolean; onClose: () => void; onMade: (id: string) => void };

export function NewDesign({ opened, onClose, onMade }: Props) {
  return (
    <Modal opened={opened} onClose={onClose} title="New design" size={860}>
      {opened && <Begin onMade={onMade} />}
    </Modal>
  );
}

function Begin({ onMade }: { onMade: (id: string) => void }) {
  const starters = useStarters();
  const { unit: kept, choose } = useUnit();
  const unit = kept || "mm";
  const [name, setName] = useState("");
  const [kind, setKind] = useState("open-box");
  const [typed, setTyped] = useState<Record<string, Record<string, string>>>({});
  const [fault, setFault] = useState("");
  const starter = starters.find((s) => s.key === kind);
  const answers: Answers = { starter: kind, unit, values: typed[`${kind} ${unit}`] ?? {} };

  async function submit(event: FormEvent) {
    event.preventDefault();
    choose(unit);
    try {
      onMade(await beginDesign(name.trim() || (starter?.title ?? "Design"), answers));
    } catch (error) {
      setFault(said(error));
    }
  }

  return (
    <form onSubmit={submit} style={{ display: "grid", gap: 14 }}>
      <div className="row" style={{ alignItems: "flex-end" }}>
        <TextInput
          className="grow"
          label="Name"
          placeholder="Seed box"
          value={name}
          onChange={(e) => setName(e.target.value)}
          maxLength={80}
          data-autofocus
        />
        <SegmentedControl
          aria-label="Measured in"
          value={unit}
          data={[
            { value: "mm", label: "millimetres" },
            { value: "in", label: "inches" },
          ]}
          onChange={(u) => choose(u as "mm" | "in")}
        />
      </div>
      <div>
        <div style={{ fontSize: 12.5, marginBottom: 4 }}>Begin with</div>
        <div className="starters">
          {starters.map((s) => (
            <button
              key={s.key}
              type="button"
              className="starter"
              aria-pressed={kind === s.key}
              title={s.words}
              onClick={() => {
                setKind(s.key);
                setFault("");
              }}
            >
              <StarterPicture kind={s.key} />
              {s.title}
            </button>
          ))}
        </div>
      </div>
      {starter && (
        <Answered
          key={`${kind} ${unit}`}
          starter={starter}
          answers={answers}
          onAnswer={(field, text) => setTyped({ ...typed, [`${kind} ${unit}`]: { ...answers.values, [field]: text } })}
        />
      )}
      {fault && (
        <div className="error" role="alert">
          {fault}
        </div>
      )}
      <Button type="submit" variant="filled">
        Begin
      </Button>
    </form>
  );
}

type AnsweredProps = { starter: StarterForm; answers: Answers; onAnswer: (field: string, text: string) => void };

/** What the starter asks, and how it would look with these answers. */
function Answered({ starter, answers, onAnswer }: AnsweredProps) {
  const { shown, fault, entry } = useStarterShown(answers);
  return (
    <div className="answered">
      <div>
        <p className="soft" style={{ margin: "0 0 8px" }}>
          {starter.words}
        </p>
        {starter.asks.map((a) => (
          <Answer
            key={a.name}
            asked={a}
            unit={answers.unit}
            value={answers.values[a.name]}
            fault={entry === `values/${a.name}` ? fault : ""}
            onAnswer={(text) => onAnswer(a.name, text)}
          />
        ))}
      </div>
      <figure aria-label={`${starter.title}, as it would begin`}>
        {shown && shown.parts > 0 ? (
          <>
            <img src={`data:image/svg+xml,${encodeURIComponent(shown.picture)}`} alt="" />
            <figcaption className="soft">
              {plural(shown.parts, "part")},{" "}
              <span className="figure">{lengths(shown.size, answers.unit === "in" ? "fraction" : "mm")}</span>
            </figcaption>
          </>
        ) : (
          <p className="soft">{fault ? "It cannot begin so." : "An empty sheet: draw the first board, or type it."}</p>
        )}
      </figure>
    </div>
  );
}

type AnswerProps = { asked: StarterAsk; unit: "mm" | "in"; value?: string; fault: string; onAnswer: (text: string) => void };

function Answer({ asked, unit, value, fault, onAnswer }: AnswerProps) {
  const usual = unit === "in" ? asked.inch : asked.mm;
  const id = `answer-${asked.name}`;
  return (
    <div className="entry">
      <label htmlFor={id}>{asked.words}</label>
      {asked.kind === "stock" ? (
        <Select
          id={id}
          value={value || usual}
          data={asked.choices.filter((c) => c.unit === unit).map((c) => ({ value: c.value, label: c.label }))}
          onChange={(v) => v && onAnswer(v)}
        />
      ) : (
        <TextInput id={id} value={value ?? usual} error={fault || undefined} onChange={(e) => onAnswer(e.target.value)} />
      )}
    </div>
  );
}
