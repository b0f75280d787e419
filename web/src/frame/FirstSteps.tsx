// What comes next while a design has only just begun: a few steps under its short cut list, each ticked once it is done, that can be put away.
import { Button, CloseButton } from "@mantine/core";
import { IconCheck, IconCircle } from "@tabler/icons-react";
import { KeyOf } from "../fields/KeyOf";
import { firstSteps } from "../lib/firstSteps";
import { useDesign } from "../state/design";
import { useFolded } from "../state/folded";
import { useView } from "../state/view";
import { startBoard } from "./commands";

export function FirstSteps() {
  const doc = useDesign((s) => s.doc);
  const draft = useView((s) => s.draft);
  const folded = useFolded((s) => s.steps);
  const putAway = useFolded((s) => s.putStepsAway);
  const steps = doc && firstSteps(doc);
  if (!steps || draft || folded) return null;
  const next = steps.find((s) => !s.done);
  const act = {
    board: startBoard,
    joint: () => useView.getState().setDraft({ kind: "joint" }),
    size: () => useView.getState().go("sizes"),
  };
  return (
    <section className="firststeps" aria-label="What comes next">
      <div className="row">
        <h3 className="grow">What comes next</h3>
        <CloseButton size="sm" aria-label="Put the steps away" onClick={putAway} />
      </div>
      <ol>
        {steps.map((step) => (
          <li key={step.words} data-done={step.done}>
            {step.done ? <IconCheck size={14} aria-label="done" /> : <IconCircle size={14} aria-hidden />}
            <span>{step.words}</span>
          </li>
        ))}
      </ol>
      {next?.act && (
        <Button
          size="compact-sm"
          onClick={act[next.act]}
          rightSection={next.act === "board" ? <KeyOf command="board" /> : undefined}
        >
          {next.press}
        </Button>
      )}
    </section>
  );
}
