// Looking inside: a section plane that moves, and pulling the parts apart.
import { CloseButton, SegmentedControl, Slider, Switch } from "@mantine/core";
import { type Axis, FACES } from "../../lib/document";
import { length } from "../../lib/figures";
import { useShown } from "../../state/design";
import { useView } from "../../state/view";
import { placeOf } from "./section";

export function SectionPanel() {
  const view = useView();
  const shown = useShown()!;
  const section = view.section;
  if (!section) return null;
  const parts = shown.built.parts.filter((p) => p.solid);
  const [low, high] = FACES[section.axis];
  return (
    <section className="floating" aria-label="Section" data-testid="section">
      <div className="row">
        <b className="grow">Section</b>
        <span className="figure" data-testid="section-at">
          {length(placeOf(section, parts), shown.doc.display)}
        </span>
        <CloseButton size="sm" aria-label="Leave the section" onClick={() => view.setSection(null)} />
      </div>
      <SegmentedControl
        fullWidth
        aria-label="The section runs"
        value={section.axis}
        onChange={(axis) => view.setSection({ axis: axis as Axis, share: 0.5, flipped: axis !== "y" })}
        data={[
          { value: "x", label: "from the side" },
          { value: "y", label: "from the front" },
          { value: "z", label: "from above" },
        ]}
      />
      <div className="row" style={{ marginTop: 8 }}>
        <span className="soft">{low}</span>
        <Slider
          className="grow"
          min={0}
          max={1}
          step={0.002}
          value={section.share}
          onChange={(share) => view.setSection({ ...section, share })}
          label={null}
          color="ink"
          thumbLabel="Where the section stands"
        />
        <span className="soft">{high}</span>
        <Switch
          size="xs"
          label="other side"
          checked={section.flipped}
          onChange={(e) => view.setSection({ ...section, flipped: e.currentTarget.checked })}
        />
      </div>
    </section>
  );
}

export function ApartPanel() {
  const view = useView();
  return (
    <section className="floating" aria-label="Pulled apart" data-testid="apart">
      <div className="row">
        <b>Pulled apart</b>
        <Slider
          className="grow"
          min={0.02}
          max={1}
          step={0.01}
          value={view.apart}
          onChange={view.setApart}
          label={null}
          color="ink"
          thumbLabel="How far the parts are pulled apart"
        />
        <CloseButton size="sm" aria-label="Put it back together" onClick={() => view.setApart(0)} />
      </div>
    </section>
  );
}

/** Folded parts on their way between flat and bent. */
export function UnfoldPanel() {
  const view = useView();
  const fold = view.unfolding;
  if (!fold) return null;
  return (
    <section className="floating" aria-label="Fold and unfold" data-testid="unfold">
      <div className="row">
        <b className="grow">Fold and unfold</b>
        <span className="figure">
          {fold.share <= 0 ? "flat" : fold.share >= 1 ? "bent" : `${Math.round(fold.share * 100)} %`}
        </span>
        <CloseButton size="sm" aria-label="Leave it bent" onClick={() => view.setUnfolding(null)} />
      </div>
      <SegmentedControl
        fullWidth
        aria-label="Bends are done"
        value={fold.mode}
        onChange={(mode) => view.setUnfolding({ ...fold, mode: mode as "all" | "each" })}
        data={[
          { value: "all", label: "all together" },
          { value: "each", label: "bend by bend" },
        ]}
      />
      <div className="row" style={{ marginTop: 8 }}>
        <span className="soft">flat</span>
        <Slider
          className="grow"
          min={0}
          max={1}
          step={0.005}
          value={fold.share}
          onChange={(share) => view.setUnfolding({ ...fold, share })}
          label={null}
          color="ink"
          thumbLabel="How far it is folded"
        />
        <span className="soft">bent</span>
      </div>
    </section>
  );
}
