import { Box, chakra } from "@chakra-ui/react";
import { type KeyboardEvent, type ReactNode, useId, useState } from "react";
import { ApiError } from "../api/client";
import { inputRecipe } from "../theme/system";
import { useDraft } from "./useDraft";

export const Input = chakra("input", inputRecipe);
export const SelectBox = chakra("select", inputRecipe);

/** A label above a control, with an error or a hint below it. */
export function Labelled({
  label,
  htmlFor,
  error,
  hint,
  aside,
  field,
  children,
}: {
  label: ReactNode;
  htmlFor?: string;
  /** The field of the plan that this sets: reasons lead here by it. */
  field?: string | undefined;
  error?: string | undefined;
  hint?: ReactNode;
  aside?: ReactNode;
  children: ReactNode;
}) {
  return (
    <Box minW="0" data-field={field}>
      <Box display="flex" justifyContent="space-between" gap="8px" alignItems="baseline">
        <chakra.label htmlFor={htmlFor} fontSize="13px" color="muted">
          {label}
        </chakra.label>
        {aside}
      </Box>
      {children}
      {error && (
        <Box role="alert" id={htmlFor ? `${htmlFor}-error` : undefined} color="rust" fontSize="13px" mt="2px">
          {error}
        </Box>
      )}
      {!error && hint && (
        <Box color="muted" fontSize="12.5px" mt="2px">
          {hint}
        </Box>
      )}
    </Box>
  );
}

/** A text field that saves itself on Enter or when left; what was typed stays until the server takes it. */
export function Field({
  label,
  name,
  value,
  unit,
  save,
  hint,
  type = "text",
  step,
  serverError,
  placeholder,
  aside,
  words,
}: {
  label: string;
  /** For words rather than figures. */
  words?: boolean;
  /** Unique over the application: unsaved text is kept under it. */
  name: string;
  value: string;
  unit?: string;
  save: (text: string) => Promise<unknown>;
  hint?: ReactNode;
  type?: "text" | "date";
  /** Arrow up and down add and take this much from a number. */
  step?: number;
  serverError?: string | undefined;
  placeholder?: string;
  aside?: ReactNode;
}) {
  const id = useId();
  const [draft, setDraft] = useDraft(name);
  const [refusal, setRefusal] = useState<string>();
  const error = refusal ?? (draft !== undefined && draft !== value ? serverError : undefined);
  const submit = async (text: string) => {
    if (text === value) {
      setDraft(undefined);
      setRefusal(undefined);
      return;
    }
    try {
      await save(text);
      setDraft(undefined);
      setRefusal(undefined);
    } catch (failure) {
      const field = name.slice(name.lastIndexOf(":") + 1);
      setRefusal(failure instanceof ApiError ? (failure.at(field) ?? failure.message) : String(failure));
    }
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter") void submit(event.currentTarget.value);
    if (event.key === "Escape") {
      setDraft(undefined);
      setRefusal(undefined);
    }
    const number = Number(event.currentTarget.value);
    if (step && (event.key === "ArrowUp" || event.key === "ArrowDown") && Number.isFinite(number)) {
      event.preventDefault();
      const next = number + (event.key === "ArrowUp" ? step : -step);
      void submit(String(Math.round(next * 1e6) / 1e6));
    }
  };
  return (
    <Labelled label={label} htmlFor={id} error={error} hint={hint} aside={aside} field={name.slice(name.lastIndexOf(":") + 1)}>
      <Box display="flex" alignItems="baseline" gap="5px">
        <Input
          id={id}
          type={type}
          value={draft ?? value}
          placeholder={placeholder}
          fontFamily={words ? "body" : "mono"}
          autoComplete="off"
          aria-invalid={error ? true : undefined}
          aria-describedby={error ? `${id}-error` : undefined}
          onChange={(event) => {
            setDraft(event.target.value);
            // While a year is being typed it passes through the first centuries.
            if (type === "date" && event.target.value >= "1900") void submit(event.target.value);
          }}
          onBlur={(event) => void submit(event.target.value)}
          onKeyDown={onKeyDown}
        />
        {unit && (
          <Box as="span" color="muted" fontSize="13px" flex="none">
            {unit}
          </Box>
        )}
      </Box>
    </Labelled>
  );
}

/** A choice among few. */
export function Select<T extends string | number>({
  label,
  value,
  options,
  choose,
  empty,
  error,
  field,
}: {
  label: string;
  field?: string;
  value: T | null;
  options: { value: T; label: string }[];
  choose: (value: T | null) => void;
  /** Words for "none"; without them there is no such choice. */
  empty?: string;
  error?: string | undefined;
}) {
  const id = useId();
  return (
    <Labelled label={label} htmlFor={id} error={error} field={field}>
      <SelectBox
        id={id}
        fontFamily="body"
        value={value === null ? "" : String(value)}
        onChange={(event) => choose(options.find((option) => String(option.value) === event.target.value)?.value ?? null)}
      >
        {(empty !== undefined || value === null) && <option value="">{empty ?? "choose …"}</option>}
        {options.map((option) => (
          <option key={option.value} value={String(option.value)}>
            {option.label}
          </option>
        ))}
      </SelectBox>
    </Labelled>
  );
}

/** A box to tick. */
export function Tick({
  label,
  checked,
  change,
  hint,
  field,
}: {
  label: ReactNode;
  field?: string;
  checked: boolean;
  change: (checked: boolean) => void;
  hint?: string;
}) {
  return (
    <chakra.label display="flex" alignItems="center" gap="7px" cursor="pointer" fontSize="14px" title={hint} data-field={field}>
      <chakra.input type="checkbox" checked={checked} onChange={(event) => change(event.target.checked)} flex="none" />
      <span>{label}</span>
    </chakra.label>
  );
}

/** A row of buttons of which one is chosen. */
export function Choice<T extends string>({
  label,
  value,
  options,
  choose,
  field,
}: {
  label: string;
  field?: string;
  value: T;
  options: { value: T; label: string }[];
  choose: (value: T) => void;
}) {
  return (
    <Box role="radiogroup" aria-label={label} data-field={field}>
      <Box fontSize="13px" color="muted">
        {label}
      </Box>
      <Box display="flex" flexWrap="wrap" mt="2px" gap="0">
        {options.map((option) => (
          <chakra.button
            key={option.value}
            type="button"
            role="radio"
            aria-checked={option.value === value}
            onClick={() => choose(option.value)}
            px="9px"
            py="4px"
            mr="-1px"
            fontSize="14px"
            borderWidth="1px"
            borderStyle="solid"
            borderColor={option.value === value ? "accent" : "edge"}
            color={option.value === value ? "accent" : "fg"}
            fontWeight={option.value === value ? 650 : 400}
            textDecoration={option.value === value ? "underline" : "none"}
            textUnderlineOffset="4px"
            bg="transparent"
            zIndex={option.value === value ? 1 : 0}
            position="relative"
            cursor="pointer"
          >
            {option.label}
          </chakra.button>
        ))}
      </Box>
    </Box>
  );
}
