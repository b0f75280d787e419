// A text that is kept on leaving or Enter.
import { TextInput } from "@mantine/core";
import { useEffect, useState } from "react";

export function Committed({
  label,
  value,
  placeholder,
  maxLength = 80,
  onSave,
}: {
  label: string;
  value: string;
  placeholder?: string;
  maxLength?: number;
  onSave: (text: string) => unknown;
}) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const save = () => text !== value && onSave(text);
  return (
    <TextInput
      label={label}
      value={text}
      placeholder={placeholder}
      maxLength={maxLength}
      onChange={(e) => setText(e.currentTarget.value)}
      onBlur={save}
      onKeyDown={(e) => {
        if (e.key === "Enter") save();
        if (e.key === "Escape") setText(value);
        e.stopPropagation();
      }}
    />
  );
}
