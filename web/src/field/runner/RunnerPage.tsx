import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useParams } from "react-router";
import { ApiError, client, take } from "../../api/client";
import { cardRunQuery } from "../../api/queries";
import { useTitle } from "../../lib/focus/useTitle";
import { FailedPage, Pending } from "../../ui/layout/States";
import { keepSheet, keptSheet } from "../offline/eventStore";
import type { FieldEvent } from "../offline/events";
import { type Server, useRun } from "../offline/useRun";
import { Runner } from "./Runner";
import { ThemeTurn } from "./ThemeTurn";

/** The runner as it is served: what it needs is kept on this device, so that it goes on without the server. */
export default function RunnerPage() {
  const id = Number(useParams().cardId);
  const query = useQuery({
    ...cardRunQuery(id),
    queryFn: async () => {
      try {
        const card = await take(client.GET("/api/cards/{card_id}/run", { params: { path: { card_id: id } } }));
        await keepSheet(card).catch(() => undefined);
        return card;
      } catch (failure) {
        const kept =
          failure instanceof ApiError && failure.away ? await keptSheet(id).catch(() => undefined) : undefined;
        if (kept) return kept;
        throw failure;
      }
    },
    retry: false,
  });
  useTitle(query.data?.sheet.name, "in the field");
  if (query.error && !query.data) return <FailedPage error={query.error} retry={() => void query.refetch()} />;
  if (!query.data) return <Pending what="the frames" />;
  return <Out card={query.data} />;
}

function Out({ card }: { card: NonNullable<Awaited<ReturnType<typeof keptSheet>>> }) {
  const server = useMemo<Server>(
    () => ({
      send: async (events) => (await take(client.POST("/api/field/events", { body: { events } }))).kept,
      known: async (runId) =>
        (await take(client.GET("/api/field/runs/{run_id}", { params: { path: { run_id: runId } } })))
          .events as FieldEvent[],
      found: (shotId, events) =>
        take(
          client.POST("/api/shots/{shot_id}/found", {
            params: { path: { shot_id: shotId } },
            body: { events, card_id: card.card_id },
          }),
        ),
    }),
    [card.card_id],
  );
  const work = useRun(card.card_id, card.sheet, server, card.run_ids);
  if (!work) return <Pending what="what happened" />;
  return (
    <Runner
      work={work}
      aspects={card.aspects}
      head={
        <Box display="flex" gap="10px" alignItems="center" fontSize="body">
          {card.stale && <span>▲ plan has changed</span>}
          <ThemeTurn />
          <Link
            to={`/shots/${card.shot_id}/field`}
            style={{ display: "inline-flex", alignItems: "center", minHeight: 56, padding: "0 8px" }}
          >
            plan
          </Link>
        </Box>
      }
    />
  );
}
