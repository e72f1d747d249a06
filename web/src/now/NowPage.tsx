import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { ApiError, client, take } from "../api/client";
import { readsFrom } from "../api/session";
import { useStoredValues } from "../lib/drafts/useStored";
import { useTitle } from "../lib/focus/useTitle";
import { FailedPage, Pending } from "../ui/layout/States";
import { asQuery, Here, type Standing } from "./Here";
import { NowCard } from "./NowCard";
import { type Begin, QUESTIONS } from "./questions";
import { loadTables } from "./tables";

const KEPT_AS = "now:begin";
// With no bag and no server: what anybody may begin with.
const NOTHING: Begin = {
  formats: [],
  bodies: [],
  filters: [],
  wide: null,
  close_up: null,
  holds_stops: 11,
  step_ev: 2,
  film_exponent: null,
  places: [],
};

/** Answers at the tripod: the light here, and six questions that are answered as one types. */
export default function NowPage() {
  useTitle("Now");
  useEffect(() => {
    readsFrom("/api/now");
    loadTables().catch(() => undefined);
  }, []);
  const [kept, keep] = useStoredValues<Begin>(KEPT_AS, NOTHING);
  const [at, stand] = useStoredValues<Standing>("now:here", { viewpoint_id: null, coordinates: "", within_m: null });
  const found = useQuery({
    queryKey: ["now", "begin"],
    queryFn: async () => {
      const begin = await take(client.GET("/api/now"));
      keep(begin);
      return begin;
    },
    retry: false,
    networkMode: "always",
  });
  const away = found.error instanceof ApiError && found.error.away;
  if (found.error && !away) return <FailedPage error={found.error} retry={() => void found.refetch()} />;
  if (!found.data && !away) return <Pending what="the answers" />;
  const begin = found.data ?? kept;
  const about = {
    body_id: begin.bodies[0]?.id,
    close_up_id: begin.close_up?.id,
    film_exponent: begin.film_exponent ?? undefined,
    here: asQuery(at),
  };
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="10px" maxW="1500px" mx="auto">
      <Here begin={begin} at={at} stand={stand} />
      <Box display="grid" gridTemplateColumns={{ base: "1fr", lg: "repeat(3, 1fr)" }} gap="14px 28px" mt="12px">
        {QUESTIONS.map((question) => (
          <NowCard key={question.key} question={question} begin={begin} about={about} />
        ))}
      </Box>
    </Box>
  );
}
