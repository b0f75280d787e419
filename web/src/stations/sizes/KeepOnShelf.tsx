// Keeps a stock or a brake of the design on the workshop's shelf, and says whether it is there.
import { Button } from "@mantine/core";
import { useKeepOnShelf } from "../../state/shelf";

export function KeepOnShelf({ group, of, record }: { group: "stocks" | "brakes"; of: string; record: object }) {
  const keep = useKeepOnShelf(group, of);
  return (
    <>
      <Button size="compact-xs" loading={keep.isPending} onClick={() => keep.mutate(record)}>
        Keep on the shelf
      </Button>
      {keep.isSuccess && <span className="soft">Kept on the shelf.</span>}
      {keep.isError && (
        <span className="error" role="alert">
          {keep.error.message}
        </span>
      )}
    </>
  );
}
