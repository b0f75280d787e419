import { Button, Modal, PasswordInput, type PasswordInputProps, Stack } from "@mantine/core";
import { type FormEvent, useState } from "react";
import { useNewPassword } from "../state/session";

const RULE = "At least 10 characters; not a common one, not like your name";

type SecretProps = Pick<PasswordInputProps, "label" | "description" | "error"> & {
  value: string;
  onType: (text: string) => void;
  known?: boolean;
};

/** A password that is typed; `known` for the one that a keeper of passwords has already. */
function Secret({ onType, known, ...more }: SecretProps) {
  return (
    <PasswordInput
      size="xs"
      {...more}
      onChange={(e) => onType(e.target.value)}
      autoComplete={known ? "current-password" : "new-password"}
      required
    />
  );
}

/** Another password for whoever is signed in, asked for with the one of now. */
export function OwnPassword({ user, onClose }: { user: string; onClose: () => void }) {
  const [old, setOld] = useState("");
  const [next, setNext] = useState("");
  const [again, setAgain] = useState("");
  const { change, busy, done, fault } = useNewPassword();
  const at = (entry: string) => ({ error: fault?.entry === entry ? fault.message : undefined });
  const unlike = again !== "" && again !== next;

  function submit(event: FormEvent) {
    event.preventDefault();
    if (!unlike) change({ old, new: next });
  }

  return (
    <Modal opened onClose={onClose} title={`Password of ${user}`} size="sm">
      {done ? (
        <Stack gap="sm">
          <div role="status">The new password counts from now on, here and wherever you sign in next.</div>
          <Button onClick={onClose}>Close</Button>
        </Stack>
      ) : (
        <form onSubmit={submit}>
          <Stack gap="sm">
            {/* so that a keeper of passwords knows whose it is */}
            <input type="text" value={user} autoComplete="username" readOnly hidden />
            <Secret label="Password of now" {...at("old")} value={old} onType={setOld} known />
            <Secret label="New password" {...at("new")} description={RULE} value={next} onType={setNext} />
            <Secret
              label="Once more"
              error={unlike ? "This is not the same as above" : undefined}
              value={again}
              onType={setAgain}
            />
            {fault && fault.entry !== "old" && fault.entry !== "new" && (
              <div className="error" role="alert">
                {fault.message}
              </div>
            )}
            <Button type="submit" variant="filled" loading={busy} disabled={unlike}>
              Change password
            </Button>
          </Stack>
        </form>
      )}
    </Modal>
  );
}
