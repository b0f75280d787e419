// One design on the bench: job line, cut list, canvas, job card, sheet strip; shortcuts and messages.
import { Button, CloseButton } from "@mantine/core";
import { Suspense, useEffect } from "react";
import { useNavigate, useParams } from "react-router";
import { JobCard } from "../cards/JobCard";
import { CutList } from "../frame/CutList";
import { runCommand } from "../frame/commands";
import { Dialogs } from "../frame/Dialogs";
import { FoldButton } from "../frame/FoldButton";
import { JobLine } from "../frame/JobLine";
import { QuickBar } from "../frame/QuickBar";
import { SheetStrip } from "../frame/SheetStrip";
import { plural } from "../lib/figures";
import { useDesign } from "../state/design";
import { useFolded } from "../state/folded";
import { commandFor, pressed, useKeys } from "../state/keys";
import { useView } from "../state/view";
import { SCREENS } from "../stations/screens";

export function Bench() {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const Screen = SCREENS[useView((s) => s.station)];
  const { doc, missing, offline, trouble, waiting, fault, open, close, clearFault, leaveOut } = useDesign();
  const own = useKeys((s) => s.own);
  const folded = useFolded();
  // what is being added asks for its card
  const cardFolded = useView((s) => s.draft === null) && folded.card;

  useEffect(() => {
    useView.getState().reset();
    void open(id);
    return close;
  }, [id, open, close]);

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      // switches and choices take no letters; only where text is typed do the shortcuts rest
      const typing = target.closest(
        "input:not([type=radio]):not([type=checkbox]):not([readonly]), textarea, [contenteditable], [role=dialog]",
      );
      const key = pressed(event);
      if (typing) return;
      if (target.closest("[role=listbox], [role=menu], [role=radiogroup]") && key.startsWith("Arrow")) return;
      if (target instanceof HTMLInputElement && key.startsWith("Arrow")) return;
      const command = commandFor(key, own);
      if (!command || !useDesign.getState().doc) return;
      event.preventDefault();
      runCommand(command);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [own]);

  useEffect(() => {
    document.title = doc ? `${doc.name} · Zygon` : "Zygon";
  }, [doc]);

  if (missing)
    return (
      <div className="empty">
        <h2>No such design</h2>
        <div>It was deleted, or it belongs to somebody else.</div>
        <Button onClick={() => navigate("/")}>All designs</Button>
      </div>
    );
  return (
    <div style={{ display: "flex", flexDirection: "column", height: "100%" }}>
      {offline && (
        <div className="banner" role="alert">
          {trouble || "The server does not answer."}{" "}
          {waiting.length
            ? `${plural(waiting.length, "edit")} ${waiting.length === 1 ? "waits" : "wait"} here and will be sent`
            : "What is on screen stands; work goes on"}{" "}
          as soon as {trouble ? "it can be" : "it is back"}.
          {trouble && waiting.length > 0 && (
            <Button size="compact-sm" variant="default" onClick={() => void leaveOut()}>
              Do without “{waiting[0].label}”
            </Button>
          )}
        </div>
      )}
      {fault && (
        <div className="banner" role="alert">
          {fault}
          <CloseButton size="sm" aria-label="Close the message" onClick={clearFault} />
        </div>
      )}
      <div
        className="bench"
        style={{ flex: 1, minHeight: 0 }}
        data-list={folded.list ? "folded" : undefined}
        data-card={cardFolded ? "folded" : undefined}
      >
        <JobLine />
        <CutList />
        <main className="canvas">
          {!doc && <div className="empty">Fetching the design…</div>}
          {doc && (
            <Suspense fallback={<div className="empty">Setting up the bench…</div>}>
              <Screen />
            </Suspense>
          )}
          <FoldButton side="list" />
          <FoldButton side="card" />
        </main>
        <JobCard />
        <SheetStrip />
      </div>
      <QuickBar />
      <Dialogs />
    </div>
  );
}
