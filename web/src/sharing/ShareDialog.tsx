import { Box } from "@chakra-ui/react";
import { queryOptions, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../api/client";
import { useAct } from "../lib/drafts/useAct";
import { Button } from "../ui/form/Button";
import { Choice, Labelled, SelectBox } from "../ui/form/Field";
import { Section } from "../ui/layout/Section";
import { Failed } from "../ui/layout/States";
import { Dialog } from "../ui/overlay/Dialog";
import { complain, tell } from "../ui/overlay/toaster";

type Where = Schemas["Where"];
const DAYS = [1, 7, 14, 30, 90];

/** What is shared: a single card, those of an outing's shots, or a location. */
export type Sharing = { card: number } | { outing: number } | { location: number };

const sharesQuery = (of: Sharing) =>
  queryOptions({
    queryKey: ["shares", of],
    queryFn: () =>
      "card" in of
        ? take(client.GET("/api/cards/{card_id}/shares", { params: { path: { card_id: of.card } } }))
        : "outing" in of
          ? take(client.GET("/api/outings/{outing_id}/shares", { params: { path: { outing_id: of.outing } } }))
          : take(client.GET("/api/locations/{location_id}/shares", { params: { path: { location_id: of.location } } })),
  });

const TITLES = { card: "Share this card", outing: "Share this outing", location: "Share this location" };

/** Links by which others read cards or a place: how much of it they tell, until when, and an end to each. */
export function ShareDialog({ of, close }: { of: Sharing; close: () => void }) {
  const { data, error, refetch } = useQuery(sharesQuery(of));
  const [chosen, setWhere] = useState<Where>();
  const [days, setDays] = useState(14);
  const ways = data?.ways ?? [];
  // Unless told otherwise as little as can be.
  const where = chosen ?? ways[0]?.where ?? "hidden";
  const only = { only: ["shares"] };
  const body = { where, days };
  const make = useAct(
    () =>
      "card" in of
        ? take(client.POST("/api/cards/{card_id}/shares", { params: { path: { card_id: of.card } }, body }))
        : "outing" in of
          ? take(client.POST("/api/outings/{outing_id}/shares", { params: { path: { outing_id: of.outing } }, body }))
          : take(
              client.POST("/api/locations/{location_id}/shares", {
                params: { path: { location_id: of.location } },
                body,
              }),
            ),
    // Cards that were missing are made with it.
    "outing" in of ? { only: ["shares", "shot", "notebook", "outings"] } : only,
  );
  const end = useAct(
    (id: number) => take(client.DELETE("/api/shares/{share_id}", { params: { path: { share_id: id } } })),
    only,
  );
  return (
    <Dialog title={"card" in of ? TITLES.card : "outing" in of ? TITLES.outing : TITLES.location} close={close}>
      <Box display="grid" gap="14px" maxW="52ch">
        {"location" in of && (
          <Box fontSize="body">It is shared as it is now, to be read and, if the place is exact, copied.</Box>
        )}
        {"outing" in of && (
          <Box fontSize="body">
            The field cards of its shots are shared, in the order in which they are taken, as they are now; those that
            are missing or old are made first.
          </Box>
        )}
        <Choice
          label="Of the place it tells"
          value={where}
          options={ways.map((way) => ({ value: way.where, label: way.label }))}
          choose={setWhere}
        />
        <Box color="muted" fontSize="body" mt="-6px">
          {ways.find((way) => way.where === where)?.tells}
        </Box>
        <Labelled label="The link holds for">
          <SelectBox value={days} onChange={(event) => setDays(Number(event.target.value))}>
            {[...DAYS, ...(data ? [data.longest_days] : [])].map((value) => (
              <option key={value} value={value}>
                {value === 1 ? "a day" : `${value} days`}
              </option>
            ))}
          </SelectBox>
        </Labelled>
        <Box>
          <Button look="main" onClick={() => make.mutate(undefined)} disabled={make.isPending}>
            Make a link
          </Button>
        </Box>
        {error && <Failed error={error} retry={() => void refetch()} />}
        {data && data.shares.length > 0 && (
          <Section title="Links that hold">
            <Box as="ul" display="grid" gap="8px">
              {data.shares.map((share) => (
                <Box
                  as="li"
                  key={share.id}
                  display="flex"
                  gap="12px"
                  alignItems="baseline"
                  flexWrap="wrap"
                  fontSize="body"
                >
                  <Box flex="1" minW="16ch">
                    {ways.find((way) => way.where === share.where)?.label}
                    <Box as="span" color="muted" ml="8px">
                      until {share.until_words}
                    </Box>
                  </Box>
                  <a href={share.path} target="_blank" rel="noreferrer">
                    see it
                  </a>
                  <Button look="quiet" onClick={() => void copy(share.path)}>
                    copy the link
                  </Button>
                  <Button look="quiet" onClick={() => end.mutate(share.id)} disabled={end.isPending}>
                    end it
                  </Button>
                </Box>
              ))}
            </Box>
          </Section>
        )}
      </Box>
    </Dialog>
  );
}

async function copy(path: string): Promise<void> {
  const link = window.location.origin + path;
  try {
    await navigator.clipboard.writeText(link);
    tell("The link is copied.", "share");
  } catch {
    complain(`It could not be copied. The link: ${link}`, "share");
  }
}
