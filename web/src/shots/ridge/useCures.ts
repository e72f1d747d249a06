import { useQuery } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api/client";
import { useSettled } from "../../lib/drafts/useSettled";

export type Cure = Schemas["CuresOut"]["cures"][number];

// A hand that turns a dial is not followed: cures are asked for when it rests.
const RESTS_MS = 1500;

/** The cures of what fails or is tight, by the reason's sentence; none until the server has found them. */
export function useCures(shotId: number, reasons: Schemas["ReasonOut"][]): Map<string, Cure> {
  const ought = reasons.filter((reason) => reason.severity === "fails" || reason.severity === "tight");
  const asked = useSettled(JSON.stringify([shotId, ...ought.map((reason) => reason.text)]), RESTS_MS);
  const found = useQuery({
    queryKey: ["cures", asked],
    queryFn: ({ signal }) =>
      take(client.GET("/api/shots/{shot_id}/cures", { params: { path: { shot_id: shotId } }, signal })),
    enabled: ought.length > 0 && (JSON.parse(asked) as unknown[])[0] === shotId,
    staleTime: 30_000,
    retry: false,
  });
  return new Map((found.data?.cures ?? []).map((cure) => [cure.text, cure]));
}
