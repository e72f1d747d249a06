import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { client, OTHER_NOTEBOOK, take } from "./client";
import { refreshPlans } from "./queries";
import { writtenElsewhere } from "./session";

const EVERY_MS = 4000;

/**
 * Looks whether somebody else, in another tab or on another device, has written into the notebook, and has everything that is shown
 * asked for again when so. looks: whether there is a notebook to look at. other: why this page must be opened again. away: the server does not answer.
 */
export function usePulse(looks: boolean): { other: string | undefined; away: boolean } {
  const queries = useQueryClient();
  const [other, setOther] = useState<string>();
  const pulse = useQuery({
    queryKey: ["revision"],
    queryFn: () => take(client.GET("/api/revision")),
    refetchInterval: EVERY_MS,
    refetchOnWindowFocus: "always",
    retry: false,
    staleTime: 0,
    enabled: looks && other === undefined,
  });
  const { data, isError } = pulse;
  useEffect(() => {
    if (data && writtenElsewhere(data.revision)) refreshPlans(queries);
  }, [data, queries]);
  useEffect(() => {
    const onOther = (event: Event) => setOther(String((event as CustomEvent<string>).detail));
    window.addEventListener(OTHER_NOTEBOOK, onOther);
    return () => window.removeEventListener(OTHER_NOTEBOOK, onOther);
  }, []);
  const wasAway = useRef(false);
  useEffect(() => {
    // Back again: whatever could not be had is asked for once more.
    if (wasAway.current && !isError) {
      window.dispatchEvent(new Event("online"));
      refreshPlans(queries);
    }
    wasAway.current = isError;
  }, [isError, queries]);
  return { other, away: isError && other === undefined };
}
