import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, test } from "vitest";
import { afresh } from "./afresh";

test.each([
  ["the first answer", false],
  ["a later answer", true],
])("%s that was under way before a change is not taken for the one after it", async (_, had) => {
  const client = new QueryClient();
  const answers: ((rows: string[]) => void)[] = [];
  const observer = new QueryObserver(client, {
    queryKey: ["batches"],
    queryFn: () => new Promise<string[]>((resolve) => answers.push(resolve)),
  });
  const leave = observer.subscribe(() => undefined);
  if (had) {
    answers.shift()?.([]);
    await expect.poll(() => client.getQueryData(["batches"])).toEqual([]);
    void observer.refetch();
  }
  const done = afresh(client, "batches");
  await expect.poll(() => answers.length).toBe(2);
  answers[0]?.([]);
  answers[1]?.(["Batch 1"]);
  await done;
  expect(client.getQueryData(["batches"])).toEqual(["Batch 1"]);
  leave();
});
