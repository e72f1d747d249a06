import { Box } from "@chakra-ui/react";
import { queryOptions, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../api/client";
import { useAct } from "../lib/drafts/useAct";
import { labelOf } from "../lib/format/labels";
import { Button } from "../ui/form/Button";
import { Section } from "../ui/layout/Section";
import { Failed } from "../ui/layout/States";
import { tell } from "../ui/overlay/toaster";
import { forget, sessionQuery, unsentHere } from "./entry";
import { SecretForm } from "./SecretForm";

const accountQuery = () => queryOptions({ queryKey: ["account"], queryFn: () => take(client.GET("/api/account")) });

/** One's account, where there are accounts: where it is signed in, what was done with it, another password, signing out. */
export function AccountSection() {
  const { data } = useQuery(sessionQuery());
  return data?.access === "accounts" ? <Account /> : null;
}

function Account() {
  const queries = useQueryClient();
  const { data, error, refetch } = useQuery(accountQuery());
  const [changing, setChanging] = useState(false);
  const end = useAct(
    (id: number) => take(client.DELETE("/api/account/sign-ins/{sign_in_id}", { params: { path: { sign_in_id: id } } })),
    {
      only: ["account"],
    },
  );
  const [left, setLeft] = useState(0);
  const leave = useAct(async (sure: boolean) => {
    const here = sure ? 0 : await unsentHere();
    setLeft(here);
    if (here) return;
    await take(client.DELETE("/api/session"));
    await forget();
    window.location.assign("/");
  });
  const change = async (values: Record<string, string>) => {
    await take(client.POST("/api/account/password", { body: { old: values.old ?? "", new: values.new ?? "" } }));
    setChanging(false);
    tell("The password is changed. Every other browser is signed out.", "account");
    await queries.invalidateQueries({ queryKey: ["account"] });
  };
  if (error) return <Failed error={error} retry={() => void refetch()} />;
  if (!data) return null;
  return (
    <Section title={`Your account: ${data.name}`}>
      <Box as="ul" display="grid" gap="6px" aria-label="Where you are signed in">
        {data.sign_ins.map((item) => (
          <Box as="li" key={item.id} display="flex" gap="12px" alignItems="baseline" fontSize="body">
            <Box flex="1">
              {item.device}
              <Box as="span" color="muted" ml="8px">
                {item.here ? "this browser" : `last seen ${item.seen_words}`}
              </Box>
            </Box>
            {!item.here && (
              <Button look="quiet" onClick={() => end.mutate(item.id)} disabled={end.isPending}>
                sign out there
              </Button>
            )}
          </Box>
        ))}
      </Box>
      <Box as="details" fontSize="body">
        <Box as="summary" cursor="pointer">
          What was done with it lately
        </Box>
        <Box as="ul" mt="6px" display="grid" gap="3px" color="muted" fontSize="small">
          {data.events.map((item) => (
            <li key={item.at_utc + item.outcome}>
              {item.words}: {labelOf("SignInOutcome", item.outcome)}
              {item.address && `, from ${item.address}`}
            </li>
          ))}
        </Box>
      </Box>
      {changing && (
        <SecretForm
          first
          act="Change it"
          send={change}
          fields={[
            { name: "old", label: "Password as it is now", as: "current-password" },
            {
              name: "new",
              label: "New password",
              as: "new-password",
              hint: data.password_words,
            },
          ]}
        />
      )}
      <Box display="flex" gap="10px" flexWrap="wrap">
        {!changing && <Button onClick={() => setChanging(true)}>Change the password …</Button>}
        <Button onClick={() => leave.mutate(left > 0)} disabled={leave.isPending}>
          {left ? "Throw it away and sign out" : "Sign out"}
        </Button>
      </Box>
      {left > 0 && (
        <Box role="alert" color="rust" fontSize="body">
          {left === 1 ? "Something" : `${left} things`} that you typed or ticked in this browser have not reached the
          server. Signing out throws them away, since the next who signs in here must not find them.
        </Box>
      )}
    </Section>
  );
}
