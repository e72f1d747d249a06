import { Box, chakra } from "@chakra-ui/react";
import { type FormEvent, type ReactNode, useState } from "react";
import { ApiError } from "../api/client";
import { Button } from "../ui/form/Button";
import { Input, Labelled } from "../ui/form/Field";

export interface SecretField {
  name: string;
  label: string;
  /** What a password store knows it by. */
  as: "username" | "current-password" | "new-password";
  hint?: string;
}

/** A form of a name and passwords: nothing of it is kept anywhere, and what is refused says so where it was typed. */
export function SecretForm({
  fields,
  send,
  act,
  first = false,
}: {
  fields: SecretField[];
  send: (values: Record<string, string>) => Promise<unknown>;
  act: ReactNode;
  /** Take the focus. */
  first?: boolean;
}) {
  const [values, setValues] = useState<Record<string, string>>({});
  const [failure, setFailure] = useState<ApiError>();
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setFailure(undefined);
    try {
      await send(Object.fromEntries(fields.map(({ name }) => [name, values[name] ?? ""])));
      setValues({});
    } catch (error) {
      setFailure(error instanceof ApiError ? error : new ApiError(0, String(error)));
    } finally {
      setBusy(false);
    }
  };
  const placed = fields.some(({ name }) => failure?.at(name));
  return (
    <chakra.form onSubmit={(event) => void submit(event)} display="grid" gap="12px" maxW="360px">
      {fields.map(({ name, label, as, hint }, at) => (
        <Labelled key={name} label={label} error={failure?.at(name)} hint={hint}>
          <Input
            name={name}
            width="100%"
            type={as === "username" ? "text" : "password"}
            autoComplete={as}
            autoCapitalize="none"
            spellCheck={false}
            autoFocus={first && at === 0}
            value={values[name] ?? ""}
            onChange={(event) => setValues((old) => ({ ...old, [name]: event.target.value }))}
          />
        </Labelled>
      ))}
      {failure && !placed && (
        <Box role="alert" color="rust" fontSize="body">
          {failure.message}
        </Box>
      )}
      <Box>
        <Button type="submit" look="main" disabled={busy}>
          {act}
        </Button>
      </Box>
    </chakra.form>
  );
}
