import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { cardQuery } from "../../api/queries";
import { useTitle } from "../../lib/focus/useTitle";
import { ShareButton } from "../../sharing/ShareButton";
import { PaperPage } from "../../ui/layout/PaperPage";
import { FailedPage, Pending } from "../../ui/layout/States";
import { Card } from "./Card";

/** A field card alone: on a phone as it is, on paper as an A6 or A5 page in black on white. */
export default function CardPage() {
  const id = Number(useParams().cardId);
  const query = useQuery(cardQuery(id));
  const card = query.data;
  useTitle(card?.content.name, "card");
  if (query.error) return <FailedPage error={query.error} retry={() => void query.refetch()} />;
  if (!card) return <Pending what="the field card" />;
  return (
    <PaperPage
      back={{ to: `/shots/${card.shot_id}/field`, words: "back to the shot" }}
      textPt={{ A6: 9, A5: 12.5 }}
      actions={<ShareButton of={{ card: card.id }} />}
    >
      <Box fontSize="heading">
        <Card content={card.content} stale={card.stale} title="h1" />
      </Box>
    </PaperPage>
  );
}
