// What was measured of a test piece, as its form asks for it.
import { Button, TextInput } from "@mantine/core";
import { type ReactNode, useId, useState } from "react";
import { formOf, useForms } from "../../state/forms";

type Props = {
  /** the kind of test piece */
  of: string;
  /** what stands in the fields at first, by their names */
  begin?: Record<string, string>;
  /** gives what is wrong with it as a sentence, or nothing */
  onRead: (values: Record<string, number>) => Promise<string>;
  /** how it is measured */
  children: ReactNode;
};

export function Reading({ of, begin = {}, onRead, children }: Props) {
  const form = formOf(useForms().readings ?? [], of);
  const id = useId();
  const [texts, setTexts] = useState(begin);
  const [fault, setFault] = useState("");
  if (!form) return null;
  const typed = form.fields.map((f) => [f.name, (texts[f.name] ?? "").trim()] as const);
  const values = Object.fromEntries(typed.map(([name, text]) => [name, Number(text.replace(",", "."))]));
  const wrong = typed.find(([name, text]) => text && !Number.isFinite(values[name]));
  const fine = typed.every(([, text]) => text) && !wrong;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (fine) void onRead(values).then(setFault);
      }}
    >
      <p className="soft" style={{ margin: "2px 0 6px" }}>
        {children}
      </p>
      <div className="row" style={{ flexWrap: "wrap" }}>
        {form.fields.map((f) => (
          <span key={f.name} className="row" style={{ gap: 4 }}>
            <label htmlFor={`${id}${f.name}`}>{f.label}</label>
            <TextInput
              id={`${id}${f.name}`}
              size="xs"
              w={98}
              value={texts[f.name] ?? ""}
              rightSection={<span className="soft">{f.suffix}</span>}
              onChange={(e) => {
                setTexts({ ...texts, [f.name]: e.target.value });
                setFault("");
              }}
              onKeyDown={(e) => e.stopPropagation()}
            />
          </span>
        ))}
        <Button type="submit" variant="filled" disabled={!fine}>
          {form.title}
        </Button>
      </div>
      {wrong && <p className="error">{wrong[1]} is no measure; type millimetres, as in 51.2</p>}
      {fault && (
        <p className="error" role="alert">
          {fault}
        </p>
      )}
    </form>
  );
}
