import { Button, PasswordInput, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";
import type { Session } from "../api/types";
import { useSignIn } from "../state/session";

export function SignIn({ session }: { session: Session }) {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const { enter, busy, fault } = useSignIn();

  function submit(event: FormEvent) {
    event.preventDefault();
    enter({ username, password });
  }

  return (
    <main className="signin">
      <div style={{ textAlign: "center" }}>
        <FingerMark />
        <h1 style={{ fontSize: 34 }}>Zygon</h1>
        <div className="soft">Parts cut from sheet: how they fit, lie flat, nest and are cut</div>
      </div>
      <form className="sheet" onSubmit={submit}>
        {session.demo && (
          <>
            <Button variant="filled" size="md" loading={busy} onClick={() => enter(null)}>
              Open the demo workshop
            </Button>
            <div className="soft" style={{ textAlign: "center", fontSize: 12.5 }}>
              Thistledown Hives, an invented workshop. No account is needed.
            </div>
            <hr style={{ width: "100%", border: 0, borderTop: "1px solid var(--rule)" }} />
          </>
        )}
        <TextInput label="Name" value={username} onChange={(e) => setUsername(e.target.value)} autoComplete="username" required />
        <PasswordInput
          size="xs"
          label="Password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          autoComplete="current-password"
          required
        />
        {fault && (
          <div className="error" role="alert">
            {fault}
          </div>
        )}
        <Button type="submit" loading={busy}>
          Sign in
        </Button>
      </form>
    </main>
  );
}

function FingerMark() {
  return (
    <svg viewBox="0 0 120 44" width={150} height={55} aria-hidden="true">
      <g fill="none" stroke="var(--ink)" strokeWidth={2.2} strokeLinejoin="round">
        <path d="M4 6H50V14H62V22H50V30H62V38H4Z" fill="var(--marker-soft)" />
        <path d="M116 6H56V14H68V22H56V30H68V38H116Z" />
      </g>
    </svg>
  );
}
