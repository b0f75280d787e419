// What is said where tubes are wanted and the design has no bar stock.
import { Button } from "@mantine/core";
import { formOf, useForms } from "../state/forms";
import { addStock } from "./edits";

export function NoBars({ onMade }: { onMade: (stock: string) => void }) {
  const bar = formOf(useForms().stocks, "bar");
  return (
    <section>
      <p role="alert">There is no tube or bar in this design. Take one from the workshop&rsquo;s shelf, or add one here.</p>
      <Button variant="filled" disabled={!bar} onClick={() => bar && void addStock(bar).then((made) => made && onMade(made))}>
        Add a round bar
      </Button>
    </section>
  );
}
