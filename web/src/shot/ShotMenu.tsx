import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, take } from "../api/client";
import { Button } from "../parts/Button";
import { Dialog } from "../parts/Dialog";
import { useAct } from "../parts/useAct";
import { ShotField } from "./ShotField";
import type { Shot } from "./useShot";

/** Naming a shot, saying what it is after, deleting it. */
export function ShotMenu({ shot, close }: { shot: Shot; close: () => void }) {
  const [sure, setSure] = useState(false);
  const navigate = useNavigate();
  const remove = useAct(() => take(client.DELETE("/api/shots/{shot_id}", { params: { path: { shot_id: shot.id } } })), {
    // This page's own shot is not there any more.
    only: ["notebook", "locations", "kit"],
  });
  return (
    <Dialog
      title="This shot"
      close={close}
      actions={
        sure ? (
          <>
            <Box flex="1" alignSelf="center">
              Delete “{shot.facts.name}”? Undo in the notebook brings it back.
            </Box>
            <Button
              borderColor="rust"
              color="rust"
              disabled={remove.isPending}
              onClick={() => remove.mutate(undefined, { onSuccess: () => void navigate("/") })}
            >
              Delete
            </Button>
          </>
        ) : (
          <Button onClick={() => setSure(true)}>Delete this shot …</Button>
        )
      }
    >
      <Box display="grid" gap="12px">
        <ShotField words label="Name" name="name" />
        <ShotField words label="What the picture is after" name="intent" />
      </Box>
    </Dialog>
  );
}
