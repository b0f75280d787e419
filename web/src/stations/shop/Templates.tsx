// How the workshop's papers look: its logo, and templates that are kept from one design and taken by others.
import { Button, Checkbox, CloseButton, FileButton, TextInput } from "@mantine/core";
import { useRef, useState } from "react";
import { said } from "../../api/client";
import { pointer } from "../../lib/document";
import { useDesign, useShown } from "../../state/design";
import { keepPicture, pictureAt } from "../../state/files";
import { useTemplates } from "../../state/papers";

export function Logo() {
  const { doc } = useShown()!;
  const [why, setWhy] = useState("");
  const [reading, setReading] = useState(false);
  const reset = useRef<() => void>(null);
  const logo = doc.papers?.logo ?? "";
  const set = (value: string, label: string) =>
    useDesign.getState().commit(label, [{ op: "add", path: pointer("papers", "logo"), value }]);

  async function read(file: File | null): Promise<void> {
    if (!file) return;
    setWhy("");
    setReading(true);
    try {
      await set((await keepPicture(file, 1)).picture, "A logo in the title block");
    } catch (error) {
      setWhy(said(error));
    } finally {
      setReading(false);
      reset.current?.();
    }
  }
  return (
    <fieldset className="sections" aria-label="Logo">
      <b>Logo in the title block</b>
      <div className="row">
        {logo && <img src={pictureAt(logo)} alt="The logo" style={{ height: 36, maxWidth: 120, background: "#fff" }} />}
        <FileButton
          resetRef={reset}
          accept="image/png,image/jpeg,application/pdf,.png,.jpg,.jpeg,.pdf"
          onChange={(file) => void read(file)}
        >
          {(props) => (
            <Button size="compact-xs" loading={reading} {...props}>
              {logo ? "Another…" : "Choose a picture…"}
            </Button>
          )}
        </FileButton>
        {logo && (
          <Button size="compact-xs" onClick={() => void set("", "No logo in the title block")}>
            None
          </Button>
        )}
      </div>
      {why && (
        <div className="error" role="alert">
          {why}
        </div>
      )}
    </fieldset>
  );
}

export function Templates() {
  const { templates, take, keep, forget } = useTemplates();
  const [name, setName] = useState("");
  const [always, setAlways] = useState(false);
  const [why, setWhy] = useState("");
  return (
    <fieldset className="sections" aria-label="Templates">
      <b>Templates of the workshop</b>
      <span className="soft">Paper, lines, letters, logo, and what stands in every title block.</span>
      {templates.map((t) => (
        <div className="row" key={t.key}>
          <span className="grow">
            {t.name}
            {t.always ? ", for new designs" : ""}
          </span>
          <Button size="compact-xs" onClick={async () => setWhy(await take(t.key))}>
            Take it
          </Button>
          <CloseButton size="sm" aria-label={`Forget the template ${t.name}`} onClick={async () => setWhy(await forget(t.key))} />
        </div>
      ))}
      <TextInput
        label="Keep these as a template"
        placeholder="its name"
        maxLength={60}
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
        onKeyDown={(e) => e.stopPropagation()}
      />
      <Checkbox label="New designs begin with it" checked={always} onChange={(e) => setAlways(e.currentTarget.checked)} />
      <Button
        size="compact-xs"
        disabled={!name.trim()}
        onClick={async () => {
          const fault = await keep(name, always);
          setWhy(fault);
          if (!fault) setName("");
        }}
      >
        Keep it
      </Button>
      {why && (
        <div className="error" role="alert">
          {why}
        </div>
      )}
    </fieldset>
  );
}
