import { Box, chakra } from "@chakra-ui/react";
import { type FormEvent, useEffect, useId, useRef, useState } from "react";
import { ApiError } from "../../api/client";
import { parseRecord, readDraft, writeDraft } from "../../lib/drafts/drafts";
import { metresField } from "../../lib/format/spelling";
import { Button } from "./Button";
import { Input, Labelled, SelectBox, TextBox } from "./Field";

export interface NewField {
  name: string;
  label: string;
  unit?: string;
  initial?: string;
  placeholder?: string;
  hint?: string;
  options?: readonly { value: string; label: string }[];
  /** So many lines of text instead of one. */
  lines?: number;
}

type Values = Record<string, string>;

/** A form for something new: texts go to the server as typed, refusals come back to their fields, and a reload loses nothing. */
export function NewForm({
  name,
  fields,
  submit,
  label,
  cancel,
  hint,
}: {
  name: string;
  fields: NewField[];
  /** Empty fields are left out. */
  submit: (values: Values) => Promise<unknown>;
  label: string;
  cancel?: () => void;
  /** Asked when a field is left: something to say of what stands there. It never changes what was typed. */
  hint?: (values: Values) => Promise<Record<string, string>>;
}) {
  const id = useId();
  const form = useRef<HTMLFormElement>(null);
  const key = `new:${name}`;
  const [typed, setTyped] = useState<Values>(() => parseRecord(readDraft(key)?.text) ?? {});
  const [restored, setRestored] = useState(() => Object.keys(typed).length > 0);
  const [hints, setHints] = useState<Record<string, string>>({});
  useEffect(() => form.current?.querySelector<HTMLElement>("input, select, textarea")?.focus(), []);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [failure, setFailure] = useState<string>();
  const initial = Object.fromEntries(
    fields.map((field) => [field.name, field.initial ?? field.options?.[0]?.value ?? ""]),
  );
  const values: Values = { ...initial, ...typed };
  const put = (field: string, text: string) =>
    setTyped((old) => {
      const next = { ...old, [field]: text };
      writeDraft(key, JSON.stringify(next));
      return next;
    });
  const clear = () => {
    setTyped({});
    setRestored(false);
    writeDraft(key, undefined);
  };
  const onSubmit = async (event: FormEvent) => {
    event.preventDefault();
    setErrors({});
    setFailure(undefined);
    try {
      const said = Object.entries(values).filter(([, text]) => text.trim() !== "");
      await submit(
        Object.fromEntries(said.map(([field, text]) => [field, metresField(field, undefined)?.sent(text) ?? text])),
      );
      clear();
    } catch (error) {
      if (error instanceof ApiError && error.fields.length) {
        setErrors(Object.fromEntries(error.fields.map((item) => [item.field, item.message])));
        const elsewhere = error.fields.filter((item) => !fields.some((field) => field.name === item.field));
        if (elsewhere.length) setFailure(error.message);
      } else setFailure((error as Error).message);
    }
  };
  return (
    <chakra.form ref={form} onSubmit={onSubmit} noValidate display="grid" gap="10px" aria-label={label}>
      {restored && (
        <Box role="status" data-draft="" fontSize="small" color="haze">
          Kept from before, not sent yet.{" "}
          <Button look="quiet" py="0" onClick={clear}>
            start empty
          </Button>
        </Box>
      )}
      <Box display="grid" gridTemplateColumns="repeat(auto-fill, minmax(140px, 1fr))" gap="8px 12px" alignItems="start">
        {fields.map((field) => (
          <Labelled
            key={field.name}
            wide={Boolean(field.lines)}
            label={field.label}
            htmlFor={`${id}-${field.name}`}
            error={errors[field.name]}
            hint={hints[field.name] ?? field.hint}
          >
            <Box display="flex" alignItems="baseline" gap="5px">
              {field.options ? (
                <SelectBox
                  fontFamily="body"
                  value={values[field.name] ?? ""}
                  onChange={(event) => put(field.name, event.target.value)}
                >
                  {field.options.map((option) => (
                    <option key={option.value} value={option.value}>
                      {option.label}
                    </option>
                  ))}
                </SelectBox>
              ) : field.lines ? (
                <TextBox
                  name={field.name}
                  rows={field.lines}
                  value={values[field.name] ?? ""}
                  placeholder={field.placeholder}
                  autoComplete="off"
                  spellCheck={false}
                  onChange={(event) => put(field.name, event.target.value)}
                />
              ) : (
                <Input
                  name={field.name}
                  value={values[field.name] ?? ""}
                  placeholder={field.placeholder}
                  autoComplete="off"
                  onChange={(event) => put(field.name, event.target.value)}
                  onBlur={() => hint && void hint(values).then(setHints, () => undefined)}
                />
              )}
              {field.unit && (
                <Box as="span" color="muted" fontSize="small" flex="none">
                  {metresField(field.name, field.unit)?.unit ?? field.unit}
                </Box>
              )}
            </Box>
          </Labelled>
        ))}
      </Box>
      {failure && (
        <Box role="alert" color="rust">
          {failure}
        </Box>
      )}
      <Box display="flex" gap="8px">
        <Button type="submit" look="main">
          {label}
        </Button>
        {cancel && (
          <Button
            onClick={() => {
              clear();
              cancel();
            }}
          >
            Cancel
          </Button>
        )}
      </Box>
    </chakra.form>
  );
}
