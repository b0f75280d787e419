// Marks that help in the shop: which of them are engraved, and how large.
import { useDesign } from "../state/design";
import { useForms } from "../state/forms";
import { RecordForm } from "./RecordForm";

const PATH = ["marks"];
const HEIGHT = ["height"];

export function MarksSection() {
  const doc = useDesign((s) => s.doc)!;
  const form = useForms().marks;
  if (!form) return null;
  const any = form.fields.some((f) => f.type === "flag" && doc.marks[f.name as keyof typeof doc.marks] === true);
  return (
    <section>
      <h3>{form.title}</h3>
      <div className="soft" style={{ fontSize: 12, marginBottom: 4 }}>
        Engraved where the assembly hides them.
      </div>
      <RecordForm form={form} path={PATH} record={{ ...doc.marks }} title="Marks" skip={any ? undefined : HEIGHT} />
    </section>
  );
}
