// The key of a command, as it is now.
import { type Command, keyOf, useKeys } from "../state/keys";

export function KeyOf({ command }: { command: Command }) {
  const own = useKeys((s) => s.own);
  return <span className="kbd">{keyOf(command, own)}</span>;
}
