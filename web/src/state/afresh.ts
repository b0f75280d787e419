// What was kept is asked for again after a change.
import type { QueryClient } from "@tanstack/react-query";

/**
 * Asks again for all that is kept under these keys. An answer still under way may be from before the change, and the client would join it
 * where it is the first one: it is dropped.
 */
export async function afresh(client: QueryClient, ...keys: string[]): Promise<void> {
  await Promise.all(
    keys.map(async (key) => {
      await client.cancelQueries({ queryKey: [key] });
      await client.invalidateQueries({ queryKey: [key] });
    }),
  );
}
