// Fields for what is no expression: names, numbers, choices. Leaving the field makes one edit.
import { NumberInput, Select, Textarea, TextInput } from "@mantine/core";
import { createContext, useContext, useEffect, useId, useState } from "react";
import { useDesign } from "../state/design";

export function TextField({
  label,
  value,
  onSave,
  maxLength = 80,
  live,
  lines,
}: {
  label: string;
  value: string;
  onSave: (text: string) => unknown;
  maxLength?: number;
  /** With every key, where nothing is kept yet and a picture follows. */
  live?: boolean;
  /** Takes lines: Enter begins another, leaving it keeps them. */
  lines?: boolean;
}) {
  const id = useId();
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  function save() {
    if (text.trim() !== value) void onSave(text.trim());
  }
  if (lines)
    return (
      <div className="entry">
        <label htmlFor={id}>{label}</label>
        <Textarea
          id={id}
          aria-label={label}
          value={text}
          maxLength={maxLength}
          autosize
          minRows={2}
          maxRows={8}
          onChange={(e) => setText(e.currentTarget.value)}
          onBlur={save}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === "Escape") setText(value);
          }}
        />
      </div>
    );
  return (
    <div className="entry">
      <label htmlFor={id}>{label}</label>
      <TextInput
        id={id}
        aria-label={label}
        value={text}
        maxLength={maxLength}
        onChange={(e) => {
          setText(e.target.value);
          if (live) void onSave(e.target.value.trim());
        }}
        onBlur={save}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === "Enter") save();
          if (e.key === "Escape") setText(value);
        }}
      />
    </div>
  );
}

export function NumberField({
  label,
  value,
  path,
  edit,
  suffix,
  min = 0,
  max,
  step = 1,
  placeholder,
  bare,
}: {
  label: string;
  /** Undefined where nothing is said, which only a field with a placeholder may leave so. */
  value?: number;
  path: string;
  edit: string;
  suffix?: string;
  min?: number;
  max?: number;
  step?: number;
  placeholder?: string;
  /** In a column of numbers. */
  bare?: boolean;
}) {
  const id = useId();
  const [number, setNumber] = useState<number | string>(value ?? "");
  useEffect(() => setNumber(value ?? ""), [value]);
  function save() {
    if (number === "" && value !== undefined && placeholder !== undefined)
      void useDesign.getState().commit(`${edit}: ${placeholder}`, [{ op: "remove", path }]);
    else if (typeof number === "number" && number !== value)
      void useDesign.getState().commit(`${edit}: ${number}${suffix ?? ""}`, [{ op: "add", path, value: number }]);
    else setNumber(value ?? "");
  }
  return (
    <div className="entry">
      <label htmlFor={id}>{label}</label>
      <NumberInput
        id={id}
        aria-label={label}
        value={number}
        onChange={setNumber}
        onBlur={save}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === "Enter") save();
        }}
        min={min}
        max={max}
        step={step}
        suffix={suffix}
        placeholder={placeholder}
        hideControls={bare}
        styles={bare ? { input: { textAlign: "right" } } : undefined}
        clampBehavior="blur"
        classNames={{ input: "mono" }}
      />
    </div>
  );
}

/** Whether fields stand in something that closes on a press beside it. */
export const InPopover = createContext(false);

export function ChoiceField({
  label,
  value,
  data,
  onSave,
}: {
  label: string;
  value: string;
  data: { value: string; label: string }[];
  onSave: (value: string) => void;
}) {
  const id = useId();
  // a press on a list that hangs elsewhere in the page would close what is open about the field
  const held = useContext(InPopover) ? { withinPortal: false } : undefined;
  return (
    <div className="entry">
      <label htmlFor={id}>{label}</label>
      <Select
        id={id}
        aria-label={label}
        value={value}
        data={data}
        comboboxProps={held}
        onChange={(v) => v !== null && v !== value && onSave(v)}
      />
    </div>
  );
}
