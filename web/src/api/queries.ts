import { type QueryClient, queryOptions } from "@tanstack/react-query";
import { client, take } from "./client";

/** Query options, one factory a resource: the key and the fetch stay together. */
export const markingsQuery = () =>
  queryOptions({ queryKey: ["markings"], queryFn: () => take(client.GET("/api/markings")), staleTime: Number.POSITIVE_INFINITY });

export const photographerQuery = () =>
  queryOptions({ queryKey: ["photographer"], queryFn: () => take(client.GET("/api/photographer")) });

export const notebookQuery = () => queryOptions({ queryKey: ["notebook"], queryFn: () => take(client.GET("/api/notebook")) });

export const kitQuery = () => queryOptions({ queryKey: ["kit"], queryFn: () => take(client.GET("/api/kit")) });

export const locationsQuery = () => queryOptions({ queryKey: ["locations"], queryFn: () => take(client.GET("/api/locations")) });

export const shotQuery = (id: number) =>
  queryOptions({
    queryKey: ["shot", id],
    queryFn: () => take(client.GET("/api/shots/{shot_id}", { params: { path: { shot_id: id } } })),
  });

export const lightQuery = (locationId: number, date: string) =>
  queryOptions({
    queryKey: ["light", locationId, date],
    queryFn: () =>
      take(
        client.GET("/api/locations/{location_id}/light", {
          params: { path: { location_id: locationId }, query: { date_local: date } },
        }),
      ),
    placeholderData: (previous) => previous,
  });

export const cardQuery = (id: number) =>
  queryOptions({
    queryKey: ["card", id],
    queryFn: () => take(client.GET("/api/cards/{card_id}", { params: { path: { card_id: id } } })),
  });

/** After an edit of places or kit every plan may have moved. */
export function refreshPlans(queries: QueryClient): void {
  for (const key of ["shot", "notebook", "locations", "kit", "light"]) void queries.invalidateQueries({ queryKey: [key] });
}
