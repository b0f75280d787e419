// The range test: how far each size goes before something breaks, and which break together.
import { Button, Progress } from "@mantine/core";
import type { components } from "../../api/schema";
import { setSize, takeRange, useRangeTest } from "../../state/ranges";

type Size = components["schemas"]["ShownRange"];
type Break = components["schemas"]["ShownBreak"];

export function RangeTest() {
  const test = useRangeTest();
  const found = test.found;
  const left = found ? found.total - found.done : 0;
  return (
    <section aria-label="Range test" style={{ marginTop: 18 }}>
      <div className="row" style={{ marginBottom: 4 }}>
        <h3 className="grow">Range test</h3>
        {test.on ? (
          <Button onClick={test.stop}>Stop</Button>
        ) : (
          (left > 0 || !found) && <Button onClick={test.start}>{found?.tried ? "Go on" : "Try the ranges"}</Button>
        )}
      </div>
      {!found?.tried && !test.on && (
        <p className="soft" style={{ margin: 0, fontSize: 12 }}>
          Each size is walked from its least to its greatest value, then with those that it acts with, and what breaks is told.
        </p>
      )}
      {test.on && found && (
        <Progress value={(100 * found.done) / Math.max(found.total, 1)} size="sm" animated color="leaf" aria-label="Range test" />
      )}
      {test.fault && (
        <p role="alert" className="warn">
          {test.fault}
        </p>
      )}
      {found && found.tried > 0 && (
        <div style={{ opacity: test.late ? 0.6 : 1 }}>
          <ul className="ranges" aria-label="Ranges that work">
            {found.sizes.map((size) => (
              <OfSize key={size.key} size={size} goOn={test.start} />
            ))}
            {found.pairs.map((pair) => (
              <li key={pair.keys.join(" ")}>
                <div className="warn">{pair.words}</div>
              </li>
            ))}
          </ul>
          <p className="soft" role="status" style={{ margin: 0, fontSize: 12 }}>
            {found.words}
          </p>
        </div>
      )}
    </section>
  );
}

function OfSize({ size, goOn }: { size: Size; goOn: () => void }) {
  const name = size.name.replaceAll("_", " ");
  return (
    <li>
      <div>
        <b>{name}</b> {size.words}
      </div>
      {[size.below, size.above].map((end) => end && <Broken key={end.at} size={size} end={end} />)}
      {size.offer.length > 0 && (
        <Button
          size="compact-xs"
          aria-label={`Take ${size.low} to ${size.high} as the range of ${name}`}
          onClick={() => void takeRange(size.key, name, size.offer).then(goOn)}
        >
          {`Take ${size.low} to ${size.high}`}
        </Button>
      )}
    </li>
  );
}

function Broken({ size, end }: { size: Size; end: Break }) {
  return (
    <div className="row" style={{ alignItems: "baseline", gap: 6 }}>
      <span className="warn grow">{end.words}</span>
      <Button
        size="compact-xs"
        variant="subtle"
        aria-label={`Show ${end.at} of ${size.name}`}
        title={`Sets ${size.name} to ${end.at}; undo puts it back`}
        onClick={() => setSize(size.key, size.name, end.entry)}
      >
        {`Show ${end.at}`}
      </Button>
    </div>
  );
}
