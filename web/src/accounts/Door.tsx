import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { client, entered, take } from "../api/client";
import { useTitle } from "../lib/focus/useTitle";
import { Failed, Pending } from "../ui/layout/States";
import { changesHands, sessionQuery } from "./entry";
import { SecretForm } from "./SecretForm";
import { Threshold, Title } from "./Threshold";

/** Stands before the page while nobody is signed in; what was typed behind it stays. */
export function Door({ open }: { open: () => void }) {
  const queries = useQueryClient();
  const { data, error, refetch } = useQuery(sessionQuery());
  useTitle("Sign in");
  const enter = async (values: Record<string, string>) => {
    const { name, password } = values as { name: string; password: string };
    const answer = await take(client.POST("/api/session", { body: { name, password } }));
    entered();
    // Another's notebook is another page.
    if (await changesHands(answer.name ?? "")) return void window.location.assign("/");
    queries.setQueryData(sessionQuery().queryKey, answer);
    open();
    // What was typed meanwhile goes out now.
    window.dispatchEvent(new Event("online"));
    await queries.resetQueries();
  };
  return (
    <Threshold>
      {error ? (
        <Failed error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Pending what="what is asked for here" />
      ) : data.access === "key" ? (
        <>
          <Title>This notebook is locked</Title>
          <Box maxW="52ch">
            It belongs to anyone who has started Lucid Ridge on this machine. The command has printed an address that
            holds the key: open that one once, and this browser is known from then on.
          </Box>
        </>
      ) : (
        <>
          <Title>Sign in</Title>
          <SecretForm
            first
            act="Sign in"
            send={enter}
            fields={[
              { name: "name", label: "Name", as: "username" },
              { name: "password", label: "Password", as: "current-password" },
            ]}
          />
          <Box color="muted" fontSize="body" maxW="52ch">
            Accounts are made by invitation. If you have lost your password, ask the administrator of this server for a
            link that sets a new one.
          </Box>
        </>
      )}
    </Threshold>
  );
}
