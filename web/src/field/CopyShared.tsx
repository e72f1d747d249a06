import { Box } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { sessionQuery } from "../account/entry";
import { client, take } from "../api/client";
import { Button } from "../parts/Button";
import { complain, tell } from "../parts/toaster";

/** What a link tells, into one's own notebook; who is not signed in is told how. */
export function CopyShared({ token }: { token: string }) {
  const session = useQuery(sessionQuery());
  const queries = useQueryClient();
  const navigate = useNavigate();
  const copy = useMutation({
    mutationFn: () => take(client.POST("/api/shared/copy", { body: { token } })),
    onSuccess: async ({ path, words }) => {
      await queries.invalidateQueries();
      tell(words, "copied");
      void navigate(path);
    },
    onError: (error) => complain(error.message, "copied"),
  });
  if (!session.data) return null;
  if (session.data.access === "accounts" && !session.data.name)
    return (
      <Box color="muted" fontSize="14px" alignSelf="center">
        Whoever has an account here may copy it: <a href="/">sign in</a>, and open the link again.
      </Box>
    );
  return (
    <Button disabled={copy.isPending} onClick={() => copy.mutate()}>
      Copy into my notebook
    </Button>
  );
}
