import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, take } from "../api/client";
import { useAct } from "../lib/drafts/useAct";
import { Button } from "../ui/form/Button";
import { Tick } from "../ui/form/Field";
import { Dialog } from "../ui/overlay/Dialog";
import { tell } from "../ui/overlay/toaster";
import { ShotField } from "./ShotField";
import type { Shot } from "./useShot";
import { useShotWork } from "./work";

/** Naming a shot, saying what it is after, deleting it. */
export function ShotMenu({ shot, close }: { shot: Shot; close: () => void }) {
  const [sure, setSure] = useState(false);
  const navigate = useNavigate();
  const { set } = useShotWork();
  const copy = useAct(() => take(client.POST("/api/shots/{shot_id}/copy", { params: { path: { shot_id: shot.id } } })));
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
          <>
            <Button
              disabled={copy.isPending}
              onClick={() =>
                copy.mutate(undefined, {
                  onSuccess: (made) => {
                    close();
                    tell(`This is a copy: ${made.facts.name}.`);
                    void navigate(`/shots/${made.id}/place`);
                  },
                })
              }
            >
              Copy it
            </Button>
            <Button onClick={() => set({ archived: !shot.facts.archived })}>
              {shot.facts.archived ? "Take it out again" : "Put it away"}
            </Button>
            <Button onClick={() => setSure(true)}>Delete this shot …</Button>
          </>
        )
      }
    >
      <Box display="grid" gap="12px">
        <ShotField words label="Name" name="name" />
        <ShotField words label="What the picture is after" name="intent" />
        <Tick label="a favourite" checked={shot.facts.favourite} change={(favourite) => set({ favourite })} />
      </Box>
    </Dialog>
  );
}
