// A maker's own designs, latest first: open, copy, rename, delete, download, upload, begin a new one.
import { ActionIcon, Button, FileButton, Menu, Modal, SegmentedControl, TextInput } from "@mantine/core";
import { IconDots, IconPlus, IconSearch, IconUpload } from "@tabler/icons-react";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { said } from "../api/client";
import type { DesignRow, Session } from "../api/types";
import { plural } from "../lib/figures";
import { listed, type Order, useDeleted, useDesignChanges, useDesigns } from "../state/designs";
import { useSignOut } from "../state/session";
import { NewDesign } from "./NewDesign";
import { OwnPassword } from "./OwnPassword";

export function Home({ session }: { session: Session }) {
  const navigate = useNavigate();
  const designs = useDesigns();
  const { copy, rename, remove, restore, removeForGood, upload, fault } = useDesignChanges();
  const [words, setWords] = useState("");
  const [order, setOrder] = useState<Order>("latest");
  const shown = listed(designs.data ?? [], words, order);
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
      {Boolean(designs.data?.length) && (
        <div className="row" style={{ marginTop: 14 }} role="search">
          <TextInput
            className="grow"
            aria-label="Find a design"
            placeholder="find a design"
            leftSection={<IconSearch size={15} />}
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
          <SegmentedControl
            aria-label="Order of the designs"
            value={order}
            data={[
              { value: "latest", label: "Latest" },
              { value: "name", label: "A to Z" },
              { value: "parts", label: "Most parts" },
            ]}
            onChange={(o) => setOrder(o as Order)}
          />
        </div>
      )}
      {words && !shown.length && designs.data && <p className="soft">No design is called that.</p>}
      <div className="designs">
        {shown.map((d) => (
          <Tile
            key={d.id}
            design={d}
            onCopy={() => void copy(d.id)}
            onName={() => setNaming(d)}
            onRemove={() => setRemoving(d)}
          />
        ))}
      </div>
      <Deleted onRestore={(id) => void restore(id)} onRemove={(id) => void removeForGood(id)} />
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
      <Button component={Link} to="/machines">
        At the machine
      </Button>
      <Button component={Link} to="/shelf">
        Shelf
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

type DeletedProps = { onRestore: (id: string) => void; onRemove: (id: string) => void };

/** What was deleted within the last 30 days. */
function Deleted({ onRestore, onRemove }: DeletedProps) {
  const deleted = useDeleted().data ?? [];
  const [open, setOpen] = useState(false);
  if (!deleted.length) return null;
  return (
    <section style={{ marginTop: 22 }} aria-label="Deleted designs">
      <Button variant="subtle" aria-expanded={open} onClick={() => setOpen(!open)}>
        Deleted: {plural(deleted.length, "design")}
      </Button>
      {open &&
        deleted.map((d) => (
          <div key={d.id} className="row" style={{ padding: "5px 10px", borderBottom: "1px solid var(--rule)" }}>
            <span className="grow clip">{d.name}</span>
            <span className="soft" style={{ fontSize: 12 }}>
              can be brought back until {new Date(d.until).toLocaleDateString("en-GB", { day: "numeric", month: "long" })}
            </span>
            <Button aria-label={`Bring ${d.name} back`} onClick={() => onRestore(d.id)}>
              Bring back
            </Button>
            <Button aria-label={`Delete ${d.name} for good`} color="vermilion" variant="subtle" onClick={() => onRemove(d.id)}>
              Delete for good
            </Button>
          </div>
        ))}
    </section>
  );
}

type RemoveProps = { design: DesignRow | null; onClose: () => void; onRemove: (id: string) => void };

function RemoveDialog({ design, onClose, onRemove }: RemoveProps) {
  return (
    <Modal opened={design !== null} onClose={onClose} title={`Delete ${design?.name}?`}>
      <p>For 30 days it can be brought back with its whole history: it stands below, under Deleted.</p>
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
