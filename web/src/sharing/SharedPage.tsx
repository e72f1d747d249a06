import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useLocation } from "react-router";
import { client, take } from "../api/client";
import { Card } from "../field/card/Card";
import { useTitle } from "../lib/focus/useTitle";
import { PaperPage } from "../ui/layout/PaperPage";
import { Empty, Pending } from "../ui/layout/States";
import { CopyShared } from "./CopyShared";
import { SharedPlace } from "./SharedPlace";

/** A field card, those of an outing, or a location that somebody has shared: to be read, and copied where that is wished. */
export default function SharedPage() {
  const token = useLocation().hash.slice(1);
  const { data, error } = useQuery({
    queryKey: ["shared", token],
    queryFn: () => take(client.POST("/api/shared", { body: { token } })),
    retry: false,
  });
  useTitle(data?.title, "shared");
  if (error)
    return (
      <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="14px">
        <Box as="h1" fontSize="title" fontWeight="700">
          Nothing to read here
        </Box>
        <Empty>{error.message}</Empty>
      </Box>
    );
  if (!data) return <Pending what="what is shared" />;
  return (
    <PaperPage textPt={{ A6: 9, A5: 12.5 }} actions={data.copied && <CopyShared token={token} />}>
      <Box fontSize="heading" display="grid" gap={data.cards.length > 1 ? "display" : "10px"}>
        {data.cards.length > 1 && (
          <Box as="h1" fontSize="title" fontWeight="700" mb="-14px">
            {data.title}
          </Box>
        )}
        {data.location && <SharedPlace title={data.title} place={data.location} />}
        {data.cards.map(({ number, content, position_words }) => (
          <Box key={number} css={{ "@media print": { breakAfter: number < data.cards.length ? "page" : "auto" } }}>
            <Card content={content} stale={false} title={data.cards.length > 1 ? "h2" : "h1"} />
            {position_words && (
              <Box color="muted" fontSize="body" mt="6px">
                {position_words}
              </Box>
            )}
          </Box>
        ))}
        <Box color="muted" fontSize="body">
          Shared until {data.until_words}.
        </Box>
      </Box>
    </PaperPage>
  );
}
