import { Box } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import { useAct } from "../../lib/drafts/useAct";
import { Button } from "./Button";

/** Deleting asks once, and says that it can be undone. */
export function DeleteButton({
  name,
  remove,
  uses = [],
}: {
  name: string;
  remove: () => Promise<unknown>;
  /** Shots that use it: said before it goes. */
  uses?: { id: number; name: string }[];
}) {
  const keep = useRef<HTMLButtonElement>(null);
  const [sure, setSure] = useState(false);
  const act = useAct(remove);
  useEffect(() => {
    if (sure) keep.current?.focus();
  }, [sure]);
  if (!sure)
    return (
      <Button look="quiet" px="0" fontSize="small" onClick={() => setSure(true)}>
        delete {name} …
      </Button>
    );
  return (
    <Box display="flex" flexWrap="wrap" gap="8px" alignItems="center" fontSize="body">
      <span>
        Delete {name}?{" "}
        {uses.length > 0 &&
          `It is used by ${uses.length === 1 ? "one shot" : `${uses.length} shots`}: ${uses.map((use) => use.name).join(", ")}. `}
        Undo brings it back.
      </span>
      <Button color="rust" borderColor="rust" disabled={act.isPending} onClick={() => act.mutate()}>
        Delete
      </Button>
      <Button ref={keep} onClick={() => setSure(false)}>
        Keep
      </Button>
    </Box>
  );
}
