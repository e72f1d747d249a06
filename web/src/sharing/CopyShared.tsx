import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { sessionQuery } from "../accounts/entry";
import { client, type Schemas, take } from "../api/client";
import { useAct } from "../lib/drafts/useAct";
import { Button } from "../ui/form/Button";
import { tell } from "../ui/overlay/toaster";

/** Copies shared content into one's own notebook; without a session it explains how to sign in. */
export function CopyShared({ token }: { token: string }) {
  const session = useQuery(sessionQuery());
  const navigate = useNavigate();
  const copy = useAct(() => take(client.POST("/api/shared/copy", { body: { token } })));
  const onSuccess = ({ path, words }: Schemas["CopiedOut"]) => {
    tell(words, "copied");
    void navigate(path);
  };
  if (!session.data) return null;
  if (session.data.access === "accounts" && !session.data.name)
    return (
      <Box color="muted" fontSize="body" alignSelf="center">
        Whoever has an account here may copy it: <a href="/">sign in</a>, and open the link again.
      </Box>
    );
  return (
    <Button disabled={copy.isPending} onClick={() => copy.mutate(undefined, { onSuccess })}>
      Copy into my notebook
    </Button>
  );
}
