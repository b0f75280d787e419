import { Button, Modal, PasswordInput, Stack } from "@mantine/core";
import { type FormEvent, useState } from "react";
import { useNewPassword } from "../state/session";

/** Another password for whoever is signed in, asked for with the one of now. */
export function OwnPassword({ user, onClose }: { user: string; onClose: () => void }) {
  const [old, setOld] = useState("");
  const [next, setNext] = useState("");
  const [again, setAgain] = useState("");
  const { change, busy, done, fault } = useNewPassword();
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
            <PasswordInput
              size="xs"
              label="Password of now"
              value={old}
              onChange={(e) => setOld(e.target.value)}
              autoComplete="current-password"
              error={fault?.entry === "old" ? fault.message : undefined}
              required
            />
            <PasswordInput
              size="xs"
              label="New password"
              description="At least 10 characters; not a common one, not like your name"
              value={next}
              onChange={(e) => setNext(e.target.value)}
              autoComplete="new-password"
              error={fault?.entry === "new" ? fault.message : undefined}
              required
            />
            <PasswordInput
              size="xs"
              label="Once more"
              value={again}
              onChange={(e) => setAgain(e.target.value)}
              autoComplete="new-password"
              error={unlike ? "This is not the same as above" : undefined}
              required
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
