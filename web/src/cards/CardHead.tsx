// The head of a card: what it is about, and the way to remove it.
import { ActionIcon, Tooltip } from "@mantine/core";
import { IconTrash } from "@tabler/icons-react";

export function CardHead({
  title,
  remove,
  tip = "Remove",
  onRemove,
}: {
  title: string;
  /** What the button is called, such as "Remove joint". */
  remove: string;
  tip?: string;
  onRemove: () => void;
}) {
  return (
    <div className="row">
      <h2 className="grow">{title}</h2>
      <Tooltip label={tip}>
        <ActionIcon aria-label={remove} onClick={onRemove}>
          <IconTrash size={17} />
        </ActionIcon>
      </Tooltip>
    </div>
  );
}
