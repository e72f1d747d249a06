import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useLocation } from "react-router";
import { client, take } from "../api/client";
import { useTitle } from "../lib/focus/useTitle";
import { Empty, Pending } from "../ui/layout/States";
import { changesHands } from "./entry";
import { SecretForm } from "./SecretForm";
import { Threshold, Title } from "./Threshold";

/** Where a link of invitation, or of recovery, leads. */
export default function Join() {
  const { hash } = useLocation();
  const token = hash.slice(1);
  const { data, error } = useQuery({
    queryKey: ["pass", token],
    queryFn: () => take(client.POST("/api/passes/look", { body: { token } })),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  useTitle("Welcome");
  const join = async (values: Record<string, string>) => {
    const { name = "", password = "" } = values;
    const answer = await take(client.POST("/api/passes", { body: { token, name, password } }));
    await changesHands(answer.name ?? "");
    window.location.assign("/");
  };
  const again = data?.name ?? null;
  return (
    <Threshold>
      {error ? (
        <>
          <Title>No way in here</Title>
          <Empty>{error.message}</Empty>
        </>
      ) : !data ? (
        <Pending what="what this link is for" />
      ) : (
        <>
          <Title>{again === null ? "Welcome to Lucid Ridge" : `A new password for ${again}`}</Title>
          <Box maxW="52ch">
            {again === null
              ? "Choose the name that you sign in with, and a password. Your notebook is yours alone: nobody else here sees it."
              : "With it you are signed in here, and signed out everywhere else."}
          </Box>
          <SecretForm
            first
            act={again === null ? "Make my account" : "Set the password"}
            send={join}
            fields={[
              ...(again === null ? [{ name: "name", label: "Name", as: "username" as const }] : []),
              {
                name: "password",
                label: "Password",
                as: "new-password",
                hint: data.password_words,
              },
            ]}
          />
        </>
      )}
    </Threshold>
  );
}
