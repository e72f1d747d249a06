import { Box } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, take } from "../api/client";
import { Button } from "../parts/Button";
import { Dialog } from "../parts/Dialog";
import { Field } from "../parts/Field";
import type { Shot, ShotWork } from "./useShot";

/** Naming a shot, saying what it is after, deleting it. */
export function ShotMenu({ shot, change, close }: { shot: Shot; change: ShotWork["change"]; close: () => void }) {
  const [sure, setSure] = useState(false);
  const [failure, setFailure] = useState<string>();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const remove = async () => {
    try {
      await take(client.DELETE("/api/shots/{shot_id}", { params: { path: { shot_id: shot.id } } }));
      await queries.invalidateQueries({ queryKey: ["notebook"] });
      void navigate("/");
    } catch (error) {
      setFailure((error as Error).message);
    }
  };
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
            <Button borderColor="rust" color="rust" onClick={() => void remove()}>
              Delete
            </Button>
          </>
        ) : (
          <Button onClick={() => setSure(true)}>Delete this shot …</Button>
        )
      }
    >
      <Box display="grid" gap="12px">
        <Field words label="Name" name={`shot:${shot.id}:name`} value={shot.facts.name} save={(name) => change({ name })} />
        <Field
          words
          label="What the picture is after"
          name={`shot:${shot.id}:intent`}
          value={shot.facts.intent}
          save={(intent) => change({ intent })}
        />
        {failure && <Box color="rust">{failure}</Box>}
      </Box>
    </Dialog>
  );
}
