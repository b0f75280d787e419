// Build: the assembly in 3D, and the tools that add to it.
import { Button, Menu, Tooltip } from "@mantine/core";
import {
  IconArrowsMaximize,
  IconChevronDown,
  IconEye,
  IconFlipVertical,
  IconHexagonLetterB,
  IconLink,
  IconPencil,
  IconPlus,
  IconRotate2,
  IconRuler2,
  IconStack2,
} from "@tabler/icons-react";
import { useRef } from "react";
import { KeyOf } from "../../fields/KeyOf";
import { addBlock, addSolid, startBoard, startCopy, startDrawer, startGroup, toggleSection } from "../../frame/commands";
import type { CopyKind } from "../../lib/document";
import { useShown } from "../../state/design";
import { useForms } from "../../state/forms";
import { useView } from "../../state/view";
import { AssemblyPanel } from "./Assembly";
import { CubeNet } from "./CubeNet";
import { PullPanel } from "./FlangeGrips";
import { ApartPanel, SectionPanel, UnfoldPanel } from "./LookPanel";
import { MeasurePanel } from "./MeasurePanel";
import { MoveBar } from "./MoveBar";
import { OutlineBar } from "./outline/Bar";
import { Scene } from "./Scene";

export function Build() {
  const shown = useShown();
  const view = useView();
  const file = useRef<HTMLInputElement>(null);
  if (!shown) return null;
  const empty = shown.built.parts.length === 0 && !view.draft;
  return (
    <>
      <input
        ref={file}
        type="file"
        accept=".step,.stp,.stl,.3mf,.glb,.obj,.ply"
        aria-label="File of a bought body"
        hidden
        onChange={(e) => {
          const chosen = e.currentTarget.files?.[0];
          e.currentTarget.value = "";
          if (chosen) void addSolid(chosen);
        }}
      />
      {view.draft?.kind === "outline" ? <OutlineBar /> : <BuildBar onFile={() => file.current?.click()} />}
      {view.draft?.kind !== "outline" && <CubeNet />}
      <Scene />
      {view.step !== null && <AssemblyPanel />}
      {view.moving && <MoveBar />}
      {view.step === null && !view.moving && view.tool === "measure" && <MeasurePanel />}
      {view.step === null && !view.moving && view.tool !== "measure" && view.section && <SectionPanel />}
      {view.step === null && !view.moving && view.tool !== "measure" && !view.section && view.apart > 0 && <ApartPanel />}
      {view.step === null && !view.moving && view.tool !== "measure" && !view.section && !view.apart && view.unfolding && (
        <UnfoldPanel />
      )}
      <PullPanel />
      {empty && (
        <div className="empty" style={{ background: "var(--canvas)" }}>
          <h2>Nothing built yet</h2>
          <div>
            Draw a first board on the ground, from corner to corner; others are placed between its faces and those that follow.
          </div>
          <Button variant="filled" onClick={startBoard}>
            Draw the first board
          </Button>
        </div>
      )}
    </>
  );
}

/** The tools that add to the assembly, and look at it. */
function BuildBar({ onFile }: { onFile: () => void }) {
  const view = useView();
  const hidden = Object.keys(view.hidden).length + Object.keys(view.glass).length;
  return (
    <div className="toolbar" role="toolbar" aria-label="Build tools">
      <PartMenu onFile={onFile} />
      <Button leftSection={<IconLink size={15} />} onClick={() => view.setDraft({ kind: "joint" })}>
        Joint
      </Button>
      <Button
        leftSection={<IconPencil size={15} />}
        onClick={() => view.setDraft({ kind: "feature", part: view.selection?.kind === "part" ? view.selection.key : undefined })}
      >
        Cut or mark
      </Button>
      <Button leftSection={<IconHexagonLetterB size={15} />} onClick={() => view.setDraft({ kind: "bore" })}>
        Bore
      </Button>
      <CopyMenu />
      <LookMenu />
      <Tooltip label="Turn back to the corner view of everything">
        <Button aria-label="Whole" px={9} onClick={() => view.look("corner")}>
          <IconArrowsMaximize size={15} />
        </Button>
      </Tooltip>
      <Tooltip label="In what order the parts slide together">
        <Button
          leftSection={<IconStack2 size={15} />}
          aria-pressed={view.step !== null}
          onClick={() => view.setStep(view.step === null ? 0 : null)}
        >
          Put together
        </Button>
      </Tooltip>
      <Tooltip label="What turns and slides, how far, and what it strikes">
        <Button leftSection={<IconRotate2 size={15} />} aria-pressed={view.moving} onClick={() => view.setMoving(!view.moving)}>
          Move
        </Button>
      </Tooltip>
      {hidden > 0 && (
        <Tooltip label="Every part solid and in sight">
          <Button leftSection={<IconEye size={15} />} onClick={view.showAll}>
            Show all
          </Button>
        </Tooltip>
      )}
    </div>
  );
}

/** What is made again, mirrored, in rows, grids and rings; and groups. */
function CopyMenu() {
  const { copies } = useForms();
  return (
    <Menu position="bottom-start">
      <Menu.Target>
        <Button leftSection={<IconFlipVertical size={15} />} rightSection={<IconChevronDown size={13} />}>
          Copy
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        {copies.map(({ kind, title }) => (
          <Menu.Item
            key={kind}
            onClick={() => startCopy(kind as CopyKind)}
            rightSection={kind === "mirror" ? <KeyOf command="mirror" /> : undefined}
          >
            {title}
          </Menu.Item>
        ))}
        <Menu.Divider />
        <Menu.Item onClick={startGroup} rightSection={<KeyOf command="group" />}>
          Group of parts
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}

/** Other ways to look at what is there, and to select it. */
function LookMenu() {
  const view = useView();
  const bent = useShown()?.built.parts.some((p) => p.folded);
  return (
    <Menu position="bottom-start">
      <Menu.Target>
        <Button
          leftSection={<IconRuler2 size={15} />}
          rightSection={<IconChevronDown size={13} />}
          aria-pressed={view.tool !== "" || view.section !== null || view.apart > 0 || view.unfolding !== null}
        >
          Look
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item onClick={() => view.setTool("measure")} rightSection={<KeyOf command="measure" />}>
          Measure
        </Menu.Item>
        <Menu.Item onClick={toggleSection} rightSection={<KeyOf command="section" />}>
          Section
        </Menu.Item>
        <Menu.Item onClick={() => view.setApart(view.apart ? 0 : 0.4)}>Pull apart</Menu.Item>
        {bent && (
          <Menu.Item onClick={() => view.setUnfolding(view.unfolding ? null : { mode: "all", share: 0.5 })}>
            Fold and unfold
          </Menu.Item>
        )}
        <Menu.Divider />
        <Menu.Item onClick={() => view.setTool("loop")} rightSection={<KeyOf command="loop" />}>
          Select by a loop
        </Menu.Item>
        <Menu.Item onClick={() => view.setTool("box")}>Select by a box</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}

/** Every kind of part that may be added. */
function PartMenu({ onFile }: { onFile: () => void }) {
  const view = useView();
  return (
    <Menu position="bottom-start">
      <Menu.Target>
        <Button leftSection={<IconPlus size={15} />} rightSection={<IconChevronDown size={13} />}>
          Part
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item onClick={startBoard} rightSection={<KeyOf command="board" />}>
          Board
        </Menu.Item>
        <Menu.Item onClick={() => view.setDraft({ kind: "board", folded: true })}>Folded part, of sheet metal</Menu.Item>
        <Menu.Item onClick={startDrawer}>Drawer, in an opening</Menu.Item>
        <Menu.Item onClick={() => view.setDraft({ kind: "line" })} rightSection={<KeyOf command="line" />}>
          Tubes, drawn as lines
        </Menu.Item>
        <Menu.Item onClick={() => view.setDraft({ kind: "frame" })}>Frame of tubes</Menu.Item>
        <Menu.Item onClick={() => view.setDraft({ kind: "rod" })}>Rod or tube along an axis</Menu.Item>
        <Menu.Item onClick={() => view.setDraft({ kind: "bent" })}>Rod or tube bent by a table</Menu.Item>
        <Menu.Item
          onClick={() => view.setDraft({ kind: "turned", on: view.selection?.kind === "part" ? view.selection.key : undefined })}
        >
          Turned part: ring, bushing, pin, knob
        </Menu.Item>
        <Menu.Item
          onClick={() => view.setDraft({ kind: "hang", part: view.selection?.kind === "part" ? view.selection.key : undefined })}
        >
          Hinges or a slide, between two parts
        </Menu.Item>
        <Menu.Item onClick={() => void addBlock()}>Bought block, to build around</Menu.Item>
        <Menu.Item onClick={onFile}>Bought body, from a STEP or mesh file</Menu.Item>
        <Menu.Item onClick={() => view.setDraft({ kind: "item" })}>Bought thing, counted only</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
