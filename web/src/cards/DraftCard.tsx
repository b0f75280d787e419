// What is being added: it shows in the design as it is typed, and becomes one edit when it is added.
import type { Draft } from "../state/view";
import { AxleDraft } from "./AxleDraft";
import { BentDraft } from "./BentDraft";
import { BoardDraft } from "./BoardDraft";
import { BoreDraft } from "./BoreDraft";
import { ConnectorDraft } from "./ConnectorDraft";
import { CopyDraft } from "./CopyDraft";
import { CrankDraft } from "./CrankDraft";
import { FeatureDraft } from "./FeatureDraft";
import { FrameDraft } from "./FrameDraft";
import { GroupDraft } from "./GroupDraft";
import { HangDraft } from "./HangDraft";
import { ItemDraft } from "./ItemDraft";
import { JointDraft } from "./JointDraft";
import { LineCard } from "./LineCard";
import { OutlineDraft } from "./OutlineDraft";
import { PlaceCard } from "./PlaceCard";
import { RodDraft } from "./RodDraft";
import { StandDraft } from "./StandDraft";
import { TouchesCard } from "./TouchesCard";
import { TurnedDraft } from "./TurnedDraft";

export function DraftCard({ draft }: { draft: NonNullable<Draft> }) {
  switch (draft.kind) {
    case "board":
      return <BoardDraft key={String(draft.folded)} folded={draft.folded} />;
    case "place":
      return <PlaceCard />;
    case "touches":
      return <TouchesCard key={draft.part} part={draft.part} />;
    case "axle":
      return <AxleDraft key={`${draft.part} ${draft.at.join()}`} {...draft} />;
    case "bent":
      return <BentDraft />;
    case "rod":
      return <RodDraft />;
    case "turned":
      return <TurnedDraft key={draft.on} on={draft.on} />;
    case "frame":
      return <FrameDraft />;
    case "connector":
      return <ConnectorDraft key={`${draft.frame} ${draft.points.join()}`} frame={draft.frame} points={draft.points} />;
    case "line":
      return <LineCard />;
    case "outline":
      return <OutlineDraft key={`${draft.part}/${draft.feature}`} part={draft.part} feature={draft.feature ?? ""} />;
    case "item":
      return <ItemDraft />;
    case "crank":
      return <CrankDraft key={draft.rod} rod={draft.rod} />;
    case "hang":
      return <HangDraft key={`${draft.part} ${draft.on}`} part={draft.part} on={draft.on} />;
    case "stand":
      return <StandDraft key={`${draft.part} ${draft.at.join()}`} {...draft} />;
    case "joint":
      return <JointDraft a={draft.a} b={draft.b} />;
    case "feature":
      return <FeatureDraft key={`${draft.as} ${draft.at?.join()}`} part={draft.part} as={draft.as} at={draft.at} />;
    case "bore":
      return <BoreDraft key={JSON.stringify(draft.begun?.at)} begun={draft.begun} pressed={draft.pressed} />;
    case "copy":
      return <CopyDraft key={`${draft.way} ${draft.of.join()}`} way={draft.way} of={draft.of} />;
    case "group":
      return <GroupDraft parts={draft.parts} />;
  }
}
