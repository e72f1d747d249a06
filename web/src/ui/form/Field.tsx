import {
  Box,
  Field as ChakraField,
  Input as ChakraInput,
  chakra,
  NativeSelect,
  SegmentGroup,
  Textarea,
} from "@chakra-ui/react";
import { type ComponentProps, type KeyboardEvent, type ReactNode, useId, useState } from "react";
import { ApiError } from "../../api/client";
import { shown } from "../../lib/drafts/editing";
import { useEditing } from "../../lib/drafts/useEditing";
import { useKeptSelection } from "../../lib/focus/useKeptSelection";
import { metresField } from "../../lib/format/spelling";
import { inputRecipe } from "../../theme/system";
import { DraftNote } from "./DraftNote";

export const Input = chakra(ChakraInput, inputRecipe);
export const TextBox = chakra(Textarea, inputRecipe);
const SelectField = chakra(NativeSelect.Field, inputRecipe);

/** A native select box; within Labelled it belongs to the label there. */
export function SelectBox({ disabled = false, ...rest }: ComponentProps<typeof SelectField> & { disabled?: boolean }) {
  return (
    <NativeSelect.Root disabled={disabled} display="contents">
      <SelectField {...rest} />
    </NativeSelect.Root>
  );
}

/** A label above a control, with an error or a hint below it; both are linked to the control. */
export function Labelled({
  label,
  htmlFor,
  error,
  hint,
  aside,
  field,
  wide = false,
  children,
}: {
  label: ReactNode;
  /** As wide as the form. */
  wide?: boolean;
  /** The control's id, where it must be known. */
  htmlFor?: string;
  /** The field of the plan that this sets: reasons lead here by it. */
  field?: string | undefined;
  error?: string | undefined;
  hint?: ReactNode;
  aside?: ReactNode;
  children: ReactNode;
}) {
  return (
    <ChakraField.Root
      {...(htmlFor ? { ids: { control: htmlFor } } : {})}
      invalid={Boolean(error)}
      minW="0"
      data-field={field}
      gridColumn={wide ? "1 / -1" : undefined}
    >
      <Box display="flex" justifyContent="space-between" gap="8px" alignItems="baseline">
        <ChakraField.Label fontSize="small" color="muted">
          {label}
        </ChakraField.Label>
        {aside}
      </Box>
      {children}
      {error && (
        <ChakraField.ErrorText role="alert" color="rust" fontSize="small" mt="2px">
          {error}
        </ChakraField.ErrorText>
      )}
      {!error && hint && (
        <ChakraField.HelperText color="muted" fontSize="small" mt="2px">
          {hint}
        </ChakraField.HelperText>
      )}
    </ChakraField.Root>
  );
}

/**
 * A text field that saves itself on Enter or when left; what was typed stays, marked, until the server takes it or it is thrown away.
 * One of metres is in feet where these are preferred.
 */
export function Field({
  label,
  name,
  value: valueInForce,
  unit: unitInForce,
  save: saveText,
  hint,
  step,
  stepped,
  after,
  serverError,
  placeholder,
  aside,
  words,
  remark,
}: {
  label: string;
  /** For words rather than figures. */
  words?: boolean;
  /** Unique over the application: unsaved text is kept under it. */
  name: string;
  value: string;
  unit?: string | undefined;
  save: (text: string) => Promise<unknown>;
  hint?: ReactNode;
  /** Arrow up and down add and take this much from a number. */
  step?: number | undefined;
  /** Or the text that comes after this one, or before it. */
  stepped?: (text: string, by: 1 | -1) => string | undefined;
  /** Stands behind the field. */
  after?: ReactNode;
  serverError?: string | undefined;
  placeholder?: string | undefined;
  aside?: ReactNode;
  /** Something worth saying of the value, which is allowed all the same. */
  remark?: string | undefined;
}) {
  const id = useId();
  const feet = metresField(name, unitInForce);
  const value = feet?.shown(valueInForce) ?? valueInForce;
  const unit = feet?.unit ?? unitInForce;
  const save = (text: string) => saveText(feet?.sent(text) ?? text);
  const edit = useEditing(name, value);
  const selection = useKeptSelection(shown(edit.state, value), edit.state.typed !== undefined);
  const [refusal, setRefusal] = useState<string>();
  const unsent = edit.state.typed !== undefined;
  const error = unsent ? (refusal ?? serverError) : undefined;
  const submit = async (text: string | undefined) => {
    setRefusal(undefined);
    if (text === undefined) return;
    try {
      await save(text);
      edit.taken(text);
    } catch (failure) {
      edit.refused(text);
      const field = name.slice(name.lastIndexOf(":") + 1);
      setRefusal(
        failure instanceof ApiError
          ? (failure.at(field) ?? failure.message)
          : failure instanceof Error
            ? failure.message
            : String(failure),
      );
    }
  };
  const drop = () => {
    edit.drop();
    setRefusal(undefined);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter") void submit(edit.pending());
    if (event.key === "Escape") drop();
    if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
    const next = (stepped ?? byStep(step))(event.currentTarget.value, event.key === "ArrowUp" ? 1 : -1);
    if (next === undefined) return;
    event.preventDefault();
    edit.type(next);
    void submit(next);
  };
  return (
    <Labelled
      label={label}
      htmlFor={id}
      error={error}
      hint={remark ? <Box color="haze">{remark}</Box> : hint}
      aside={aside}
      field={name.slice(name.lastIndexOf(":") + 1)}
    >
      <Box display="flex" alignItems="baseline" gap="5px">
        <Input
          {...selection}
          type="text"
          value={shown(edit.state, value)}
          placeholder={placeholder}
          fontFamily={words ? "body" : "mono"}
          autoComplete="off"
          data-editing={unsent || undefined}
          onChange={(event) => edit.type(event.target.value)}
          onFocus={edit.enter}
          onBlur={() => {
            const send = edit.leave();
            if (send !== undefined) void submit(send);
          }}
          onKeyDown={onKeyDown}
        />
        {unit && (
          <Box as="span" color="muted" fontSize="small" flex="none">
            {unit}
          </Box>
        )}
        {after}
      </Box>
      <DraftNote
        state={edit.state}
        value={value}
        refused={error !== undefined}
        use={(text) => {
          edit.type(text);
          void submit(text);
        }}
        drop={drop}
      />
    </Labelled>
  );
}

const byStep = (step: number | undefined) => (text: string, by: 1 | -1) => {
  const number = Number(text);
  return step && text.trim() && Number.isFinite(number)
    ? String(Math.round((number + by * step) * 1e6) / 1e6)
    : undefined;
};

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
  options: readonly { value: T; label: string }[];
  choose: (value: T | null) => void;
  /** Words for "none"; without them there is no such choice. */
  empty?: string;
  error?: string | undefined;
}) {
  const id = useId();
  return (
    <Labelled label={label} htmlFor={id} error={error} field={field}>
      <SelectBox
        fontFamily="body"
        value={value === null ? "" : String(value)}
        onChange={(event) =>
          choose(options.find((option) => String(option.value) === event.target.value)?.value ?? null)
        }
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
    <chakra.label
      display="flex"
      alignItems="center"
      gap="7px"
      cursor="pointer"
      fontSize="body"
      minH={{ base: "44px", lg: "24px" }}
      title={hint}
      data-field={field}
    >
      <chakra.input type="checkbox" checked={checked} onChange={(event) => change(event.target.checked)} flex="none" />
      <span>{label}</span>
    </chakra.label>
  );
}

/** A few alternatives side by side of which one is chosen; arrow keys go from one to the next. */
export function Choice<T extends string>({
  label,
  value,
  options,
  choose,
  field,
  quiet = false,
}: {
  label: string;
  field?: string | undefined;
  value: T;
  options: readonly { value: T; label: string }[];
  choose: (value: T) => void;
  /** Without a visible label and without boxes. */
  quiet?: boolean;
}) {
  return (
    <Box data-field={field} minW="0">
      {!quiet && (
        <Box fontSize="small" color="muted" aria-hidden="true">
          {label}
        </Box>
      )}
      <SegmentGroup.Root
        value={value}
        onValueChange={(details) => details.value && choose(details.value as T)}
        aria-label={label}
        display="flex"
        flexWrap="wrap"
        mt={quiet ? "0" : "2px"}
        gap="0"
      >
        {options.map((option) => (
          <SegmentGroup.Item
            key={option.value}
            value={option.value}
            display="inline-flex"
            alignItems="center"
            position="relative"
            px={quiet ? "7px" : "9px"}
            minH={{ base: "44px", lg: quiet ? "26px" : "30px" }}
            minW={{ base: "44px", lg: "0" }}
            justifyContent="center"
            mr="-1px"
            fontSize={quiet ? "small" : "body"}
            cursor="pointer"
            color={quiet ? "muted" : "fg"}
            borderWidth={quiet ? "0" : "1px"}
            borderStyle="solid"
            borderColor="edge"
            textUnderlineOffset="4px"
            css={{
              "&[data-state=checked]": {
                color: quiet ? "var(--lr-colors-fg)" : "var(--lr-colors-accent)",
                borderColor: "var(--lr-colors-accent)",
                fontWeight: quiet ? 400 : 650,
                textDecoration: "underline",
                zIndex: 1,
              },
              "&[data-focus-visible], &:has(:focus-visible)": {
                outline: "2px solid var(--lr-colors-accent)",
                outlineOffset: "1px",
                zIndex: 2,
              },
            }}
          >
            <SegmentGroup.ItemText>{option.label}</SegmentGroup.ItemText>
            <SegmentGroup.ItemHiddenInput />
          </SegmentGroup.Item>
        ))}
      </SegmentGroup.Root>
    </Box>
  );
}
