import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { Button } from "./Button";

/** Deleting asks once, and says that it can be taken back. */
export function DeleteButton({ name, remove }: { name: string; remove: () => Promise<unknown> }) {
  const [sure, setSure] = useState(false);
  const [failure, setFailure] = useState<string>();
  if (!sure)
    return (
      <Button look="quiet" px="0" fontSize="13px" onClick={() => setSure(true)}>
        delete {name} …
      </Button>
    );
  return (
    <Box display="flex" flexWrap="wrap" gap="8px" alignItems="center" fontSize="14px">
      <span>Delete {name}? Undo brings it back.</span>
      <Button color="rust" borderColor="rust" onClick={() => void remove().catch((error: Error) => setFailure(error.message))}>
        Delete
      </Button>
      <Button onClick={() => setSure(false)}>Keep</Button>
      {failure && (
        <Box role="alert" color="rust">
          {failure}
        </Box>
      )}
    </Box>
  );
}
