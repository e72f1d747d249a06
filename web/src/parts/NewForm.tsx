import { Box, chakra } from "@chakra-ui/react";
import { type FormEvent, useId, useState } from "react";
import { ApiError } from "../api/client";
import { Button } from "./Button";
import { Input, Labelled, SelectBox } from "./Field";
import { useDraft } from "./useDraft";

export interface NewField {
  name: string;
  label: string;
  unit?: string;
  initial?: string;
  placeholder?: string;
  hint?: string;
  options?: { value: string; label: string }[];
}

type Values = Record<string, string>;

/** A form for something new: texts go to the server as typed, refusals come back to their fields, and a reload loses nothing. */
export function NewForm({
  name,
  fields,
  submit,
  label,
  cancel,
  changed,
}: {
  name: string;
  fields: NewField[];
  /** Empty fields are left out. */
  submit: (values: Values) => Promise<unknown>;
  label: string;
  cancel?: () => void;
  changed?: (values: Values) => Values | Promise<Values>;
}) {
  const id = useId();
  const [draft, setDraft] = useDraft(`new:${name}`);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [failure, setFailure] = useState<string>();
  const initial = Object.fromEntries(fields.map((field) => [field.name, field.initial ?? field.options?.[0]?.value ?? ""]));
  const values: Values = { ...initial, ...(draft ? (JSON.parse(draft) as Values) : {}) };
  const put = (next: Values) => setDraft(JSON.stringify(next));
  const onSubmit = async (event: FormEvent) => {
    event.preventDefault();
    setErrors({});
    setFailure(undefined);
    try {
      await submit(Object.fromEntries(Object.entries(values).filter(([, text]) => text.trim() !== "")));
      setDraft(undefined);
    } catch (error) {
      if (error instanceof ApiError && error.fields.length) {
        setErrors(Object.fromEntries(error.fields.map((item) => [item.field, item.message])));
        const elsewhere = error.fields.filter((item) => !fields.some((field) => field.name === item.field));
        if (elsewhere.length) setFailure(error.message);
      } else setFailure((error as Error).message);
    }
  };
  return (
    <chakra.form onSubmit={onSubmit} noValidate display="grid" gap="10px" aria-label={label}>
      <Box display="grid" gridTemplateColumns="repeat(auto-fill, minmax(140px, 1fr))" gap="8px 12px" alignItems="start">
        {fields.map((field) => (
          <Labelled
            key={field.name}
            label={field.label}
            htmlFor={`${id}-${field.name}`}
            error={errors[field.name]}
            hint={field.hint}
          >
            <Box display="flex" alignItems="baseline" gap="5px">
              {field.options ? (
                <SelectBox
                  id={`${id}-${field.name}`}
                  fontFamily="body"
                  value={values[field.name] ?? ""}
                  onChange={(event) => put({ ...values, [field.name]: event.target.value })}
                >
                  {field.options.map((option) => (
                    <option key={option.value} value={option.value}>
                      {option.label}
                    </option>
                  ))}
                </SelectBox>
              ) : (
                <Input
                  id={`${id}-${field.name}`}
                  name={field.name}
                  value={values[field.name] ?? ""}
                  placeholder={field.placeholder}
                  autoComplete="off"
                  aria-invalid={errors[field.name] ? true : undefined}
                  aria-describedby={errors[field.name] ? `${id}-${field.name}-error` : undefined}
                  onChange={(event) => put({ ...values, [field.name]: event.target.value })}
                  onBlur={() => changed && void Promise.resolve(changed(values)).then((next) => next !== values && put(next))}
                />
              )}
              {field.unit && (
                <Box as="span" color="muted" fontSize="13px" flex="none">
                  {field.unit}
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
              setDraft(undefined);
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
