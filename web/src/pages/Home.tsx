// A maker's own designs, latest first: open, copy, rename, delete, download, upload, begin a new one.
import { ActionIcon, Button, FileButton, Menu, Modal, TextInput } from "@mantine/core";
import { IconDots, IconPlus, IconUpload } from "@tabler/icons-react";
import { type FormEvent, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { said } from "../api/client";
import type { DesignRow, Session } from "../api/types";
import { plural } from "../lib/figures";
import { beginDesign, useDesignChanges, useDesigns } from "../state/designs";
import { useSignOut } from "../state/session";
import { OwnPassword } from "./OwnPassword";
import { StarterPicture } from "./StarterPicture";

const STARTERS = [
  { key: "nothing", words: "Nothing" },
  { key: "open-box", words: "Open box" },
  { key: "closed-box", words: "Closed box" },
  { key: "tray", words: "Tray" },
  { key: "shelf-case", words: "Shelf case" },
  { key: "folded-box", words: "Folded box" },
];

export function Home({ session }: { session: Session }) {
  const navigate = useNavigate();
  const designs = useDesigns();
  const { copy, rename, remove, upload, fault } = useDesignChanges();
  const [starting, setStarting] = useState(false);
  const [naming, setNaming] = useState<DesignRow | null>(null);
  const [removing, setRemoving] = useState<DesignRow | null>(null);

  return (
    <main className="home">
      <HomeHead session={session} onUpload={(f) => f && void upload(f)} onBegin={() => setStarting(true)} />
      {fault && (
        <div className="problem" role="alert" style={{ marginTop: 12 }}>
          {fault}
        </div>
      )}
      {designs.isError && (
        <div className="problem" role="alert" style={{ marginTop: 12 }}>
          {said(designs.error)}
        </div>
      )}
      {designs.isPending && (
        <p className="soft" role="status">
          Fetching your designs…
        </p>
      )}
      {designs.data?.length === 0 && (
        <div className="paper" style={{ marginTop: 20, textAlign: "center", padding: 50 }}>
          <h2>Nothing on the shelf yet</h2>
          <p className="soft">Begin with a box, a tray or a shelf case, or with nothing at all.</p>
          <Button variant="filled" onClick={() => setStarting(true)}>
            New design
          </Button>
        </div>
      )}
      <div className="designs">
        {designs.data?.map((d) => (
          <Tile
            key={d.id}
            design={d}
            onCopy={() => void copy(d.id)}
            onName={() => setNaming(d)}
            onRemove={() => setRemoving(d)}
          />
        ))}
      </div>
      <NewDesign opened={starting} onClose={() => setStarting(false)} onMade={(id) => navigate(`/designs/${id}`)} />
      {naming && (
        <NameDialog
          design={naming}
          onClose={() => setNaming(null)}
          onName={async (name) => void (await rename(naming.id, name))}
        />
      )}
      <RemoveDialog design={removing} onClose={() => setRemoving(null)} onRemove={(id) => void remove(id)} />
    </main>
  );
}

type HeadProps = { session: Session; onUpload: (file: File | null) => void; onBegin: () => void };

/** Whose designs they are, and where else to go from here. */
function HomeHead({ session, onUpload, onBegin }: HeadProps) {
  const signOut = useSignOut();
  const [asking, setAsking] = useState(false);
  const resetUpload = useRef<() => void>(null);
  const choose = (file: File | null) => {
    // the same file may be chosen again, mended
    resetUpload.current?.();
    onUpload(file);
  };
  return (
    <header className="row">
      <h1 style={{ fontSize: 26 }} className="grow">
        Designs
      </h1>
      {session.password ? (
        <Button variant="subtle" onClick={() => setAsking(true)} title="Change your password">
          {session.user}
        </Button>
      ) : (
        <span className="soft">{session.user}</span>
      )}
      {asking && <OwnPassword user={session.user} onClose={() => setAsking(false)} />}
      <Button variant="subtle" onClick={signOut}>
        Sign out
      </Button>
      <Button component={Link} to="/together">
        Cut together
      </Button>
      <Button component={Link} to="/bars">
        Cut bars
      </Button>
      <Button component={Link} to="/offcuts">
        Offcut shelf
      </Button>
      <FileButton resetRef={resetUpload} onChange={choose} accept="application/json,.json">
        {(props) => (
          <Button {...props} leftSection={<IconUpload size={15} />}>
            Upload a design file
          </Button>
        )}
      </FileButton>
      <Button variant="filled" leftSection={<IconPlus size={15} />} onClick={onBegin}>
        New design
      </Button>
    </header>
  );
}

type TileProps = { design: DesignRow; onCopy: () => void; onName: () => void; onRemove: () => void };

/** A design of the list: its picture, what there is to say of it, and what can be done with it. */
function Tile({ design: d, onCopy, onName, onRemove }: TileProps) {
  const navigate = useNavigate();
  return (
    <article className="design" aria-label={d.name}>
      <Link to={`/designs/${d.id}`} aria-label={`Open ${d.name}`}>
        <img src={`/api/designs/${d.id}/picture?revision=${d.revision}`} alt={`${d.name}, seen from front, right and above`} />
      </Link>
      <div className="foot">
        <div className="grow">
          <div className="clip" style={{ fontWeight: 650 }}>
            {d.name}
          </div>
          <div className="soft" style={{ fontSize: 12 }}>
            {plural(d.parts, "part")}
            {d.problems > 0 && <span className="error">, {plural(d.problems, "problem")}</span>} · changed{" "}
            {new Date(d.updated).toLocaleDateString("en-GB", { day: "numeric", month: "short" })},{" "}
            {new Date(d.updated).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}
          </div>
        </div>
        <Menu>
          <Menu.Target>
            <ActionIcon aria-label={`More for ${d.name}`}>
              <IconDots size={17} />
            </ActionIcon>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => navigate(`/designs/${d.id}`)}>Open</Menu.Item>
            <Menu.Item onClick={onCopy}>Copy</Menu.Item>
            <Menu.Item onClick={onName}>Rename</Menu.Item>
            <Menu.Item component="a" href={`/api/designs/${d.id}/file`}>
              Download the design file
            </Menu.Item>
            <Menu.Item color="vermilion" onClick={onRemove}>
              Delete
            </Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </div>
    </article>
  );
}

type RemoveProps = { design: DesignRow | null; onClose: () => void; onRemove: (id: string) => void };

function RemoveDialog({ design, onClose, onRemove }: RemoveProps) {
  return (
    <Modal opened={design !== null} onClose={onClose} title={`Delete ${design?.name}?`}>
      <p>The design goes with its whole history. A downloaded design file can be uploaded again.</p>
      <div className="row" style={{ justifyContent: "flex-end" }}>
        <Button onClick={onClose}>Keep it</Button>
        <Button
          color="vermilion"
          variant="filled"
          onClick={() => {
            onClose();
            if (design) onRemove(design.id);
          }}
        >
          Delete
        </Button>
      </div>
    </Modal>
  );
}

function NewDesign({ opened, onClose, onMade }: { opened: boolean; onClose: () => void; onMade: (id: string) => void }) {
  const [name, setName] = useState("");
  const [kind, setKind] = useState("open-box");
  const [fault, setFault] = useState("");

  async function submit(event: FormEvent) {
    event.preventDefault();
    try {
      onMade(await beginDesign(name.trim() || STARTERS.find((s) => s.key === kind)!.words, kind));
    } catch (error) {
      setFault(said(error));
    }
  }

  return (
    <Modal opened={opened} onClose={onClose} title="New design" size="lg">
      <form onSubmit={submit} style={{ display: "grid", gap: 14 }}>
        <TextInput
          label="Name"
          placeholder="Seed box"
          value={name}
          onChange={(e) => setName(e.target.value)}
          maxLength={80}
          data-autofocus
        />
        <div>
          <div style={{ fontSize: 12.5, marginBottom: 4 }}>Begin with</div>
          <div className="starters">
            {STARTERS.map((s) => (
              <button key={s.key} type="button" className="starter" aria-pressed={kind === s.key} onClick={() => setKind(s.key)}>
                <StarterPicture kind={s.key} />
                {s.words}
              </button>
            ))}
          </div>
        </div>
        {fault && <div className="error">{fault}</div>}
        <Button type="submit" variant="filled">
          Begin
        </Button>
      </form>
    </Modal>
  );
}

function NameDialog({
  design,
  onClose,
  onName,
}: {
  design: DesignRow;
  onClose: () => void;
  onName: (name: string) => Promise<void>;
}) {
  const [name, setName] = useState(design.name);
  return (
    <Modal opened onClose={onClose} title={`Rename ${design.name}`}>
      <form
        className="row"
        onSubmit={(event) => {
          event.preventDefault();
          void onName(name.trim()).then(onClose);
        }}
      >
        <TextInput
          className="grow"
          aria-label="Name"
          value={name}
          onChange={(e) => setName(e.target.value)}
          maxLength={80}
          data-autofocus
          required
        />
        <Button type="submit" variant="filled">
          Rename
        </Button>
      </form>
    </Modal>
  );
}
