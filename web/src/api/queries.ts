import { infiniteQueryOptions, keepPreviousData, type QueryClient, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, take } from "./client";
import { keptPlan } from "./keptPlan";

/** Query options, one factory a resource: the key and the fetch stay together. */
export const markingsQuery = () =>
  queryOptions({
    queryKey: ["markings"],
    queryFn: () => take(client.GET("/api/markings")),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const photographerQuery = () =>
  queryOptions({ queryKey: ["photographer"], queryFn: () => take(client.GET("/api/photographer")) });

const PAGE = 60;

/** Which shots the notebook lists, and in which order. */
export interface Listing {
  by: "next" | "place" | "outing" | "state";
  archived: boolean;
  favourites: boolean;
}

/** The notebook's shots with these words, page after page. While some are still being planned it is asked for again. */
export const notebookQuery = (words: string, listing: Listing = { by: "next", archived: false, favourites: false }) =>
  infiniteQueryOptions({
    queryKey: ["notebook", words, listing],
    queryFn: ({ pageParam, signal }) =>
      take(
        client.GET("/api/notebook", {
          params: { query: { ...listing, words, offset: pageParam, limit: PAGE } },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last, _pages, offset) =>
      offset + last.shots.length < last.total ? offset + last.shots.length : undefined,
    refetchInterval: (query) => (query.state.data?.pages.some((page) => page.pending) ? 1500 : false),
    placeholderData: keepPreviousData,
  });

/** The names of the shots, for choosing one. */
export const shotNamesQuery = () =>
  queryOptions({
    queryKey: ["notebook", "names"],
    queryFn: () => take(client.GET("/api/notebook", { params: { query: { words: "", offset: 0, limit: 200 } } })),
    select: (page) => page.shots,
    staleTime: 30_000,
  });

export const kitQuery = () => queryOptions({ queryKey: ["kit"], queryFn: () => take(client.GET("/api/kit")) });

export const presetsQuery = () =>
  queryOptions({
    queryKey: ["presets"],
    queryFn: () => take(client.GET("/api/kit/presets")),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const outingsQuery = () =>
  queryOptions({ queryKey: ["outings"], queryFn: () => take(client.GET("/api/outings")) });

export const outingQuery = (id: number) =>
  queryOptions({
    queryKey: ["outings", id],
    queryFn: () => take(client.GET("/api/outings/{outing_id}", { params: { path: { outing_id: id } } })),
  });

export const locationsQuery = () =>
  queryOptions({ queryKey: ["locations"], queryFn: () => take(client.GET("/api/locations")) });

export const shotQuery = (id: number) =>
  queryOptions({
    queryKey: ["shot", id],
    queryFn: () => keptPlan(id, () => take(client.GET("/api/shots/{shot_id}", { params: { path: { shot_id: id } } }))),
  });

/** All lenses of the bag for a shot as it stands. */
export const lensesQuery = (id: number, answeredAt: number) =>
  queryOptions({
    queryKey: ["lenses", id, answeredAt],
    queryFn: () => take(client.GET("/api/shots/{shot_id}/lenses", { params: { path: { shot_id: id } } })),
    placeholderData: (previous) => previous,
  });

/** The picture in tones of a shot as it stands; what was drawn stays until the next is there. */
export const tonesQuery = (id: number, answeredAt: number) =>
  queryOptions({
    queryKey: ["tones", id, answeredAt],
    gcTime: 30_000,
    queryFn: () => take(client.GET("/api/shots/{shot_id}/tones", { params: { path: { shot_id: id } } })),
    placeholderData: (previous) => previous,
  });

/** The scene that belongs to a picture in tones: large, and the same while one turns the exposure. */
export const sceneQuery = (id: number, key: string) =>
  queryOptions({
    queryKey: ["scene", id, key],
    queryFn: () => take(client.GET("/api/shots/{shot_id}/scene", { params: { path: { shot_id: id } } })),
    placeholderData: (previous) => previous,
    gcTime: 30_000,
  });

/** What each frame of a shot shows; what was drawn stays until the next is there. */
export const framePicturesQuery = (id: number, answeredAt: number) =>
  queryOptions({
    queryKey: ["frame pictures", id, answeredAt],
    gcTime: 30_000,
    queryFn: () => take(client.GET("/api/shots/{shot_id}/frames/pictures", { params: { path: { shot_id: id } } })),
    placeholderData: (previous) => previous,
  });

/** What would give what is wished of a shot; what was found stays until the next is there. */
export const solutionQuery = (id: number, answeredAt: number) =>
  queryOptions({
    queryKey: ["solution", id, answeredAt],
    gcTime: 30_000,
    queryFn: () => take(client.GET("/api/shots/{shot_id}/solution", { params: { path: { shot_id: id } } })),
    placeholderData: (previous) => previous,
  });

export const blendSheetQuery = (id: number, answeredAt: number) =>
  queryOptions({
    queryKey: ["blend sheet", id, answeredAt],
    gcTime: 30_000,
    queryFn: () => take(client.GET("/api/shots/{shot_id}/blend-sheet", { params: { path: { shot_id: id } } })),
    placeholderData: (previous) => previous,
  });

export const lightQuery = (viewpointId: number, date: string) =>
  queryOptions({
    queryKey: ["light", viewpointId, date],
    queryFn: () =>
      take(
        client.GET("/api/viewpoints/{viewpoint_id}/light", {
          params: { path: { viewpoint_id: viewpointId }, query: { date_local: date } },
        }),
      ),
    placeholderData: (previous) => previous,
  });

/** Which place on so many days from a date on; it goes stale with every plan and forecast. */
export const outlookQuery = (from: string, days: number) =>
  queryOptions({
    queryKey: ["light", "outlook", from, days],
    queryFn: () => take(client.GET("/api/outlook", { params: { query: { from_date: from, days } } })),
    // Of a large notebook a job works it out: it is asked for until it is there.
    refetchInterval: (query) => (query.state.data?.pending ? 1000 : false),
    placeholderData: (previous) => previous,
  });

export const forecastHoursQuery = (locationId: number, date: string) =>
  queryOptions({
    queryKey: ["forecast", locationId, "hours", date],
    queryFn: () =>
      take(
        client.GET("/api/locations/{location_id}/forecast/hours", {
          params: { path: { location_id: locationId }, query: { date_local: date } },
        }),
      ),
  });

/** What a shot's date holds for it. said: all that the answer depends on, so that it is asked for again when that changes. */
export const shotDayQuery = (id: number, said: unknown) =>
  queryOptions({
    queryKey: ["light", "shot", id, JSON.stringify(said)],
    queryFn: () => take(client.GET("/api/shots/{shot_id}/day", { params: { path: { shot_id: id } } })),
    placeholderData: (previous) => previous,
  });

export const forecastQuery = (locationId: number) =>
  queryOptions({
    queryKey: ["forecast", locationId],
    queryFn: () =>
      take(client.GET("/api/locations/{location_id}/forecast", { params: { path: { location_id: locationId } } })),
    refetchInterval: 5 * 60_000,
  });

export const carpetQuery = (viewpointId: number, from_date: string) =>
  queryOptions({
    queryKey: ["light", "carpet", viewpointId, from_date],
    queryFn: ({ signal }) =>
      take(
        client.GET("/api/viewpoints/{viewpoint_id}/carpet", {
          params: { path: { viewpoint_id: viewpointId }, query: { from_date } },
          signal,
        }),
      ),
    staleTime: 10 * 60_000,
    placeholderData: (previous) => previous,
  });

export const sketchQuery = (locationId: number) =>
  queryOptions({
    queryKey: ["locations", locationId, "sketch"],
    queryFn: () =>
      take(client.GET("/api/locations/{location_id}/sketch", { params: { path: { location_id: locationId } } })),
    placeholderData: (previous) => previous,
  });

/** Framings of a shot. said: what they depend on, so that they are asked for again when that changes. */
export const framingsQuery = (id: number, said: string) =>
  queryOptions({
    queryKey: ["framings", id, said],
    queryFn: () => take(client.GET("/api/shots/{shot_id}/framings", { params: { path: { shot_id: id } } })),
    placeholderData: (previous) => previous,
  });

export const cardQuery = (id: number) =>
  queryOptions({
    queryKey: ["card", id],
    queryFn: () => take(client.GET("/api/cards/{card_id}", { params: { path: { card_id: id } } })),
  });

/** What is worked through of a card, frame by frame. */
export const cardRunQuery = (id: number) =>
  queryOptions({
    queryKey: ["card", id, "run"],
    queryFn: () => take(client.GET("/api/cards/{card_id}/run", { params: { path: { card_id: id } } })),
  });

/** After an edit of places or kit every plan may have moved. */
export function refreshPlans(
  queries: QueryClient,
  only = ["shot", "notebook", "locations", "kit", "light", "outings", "log"],
): void {
  for (const key of only) void queries.invalidateQueries({ queryKey: [key] });
}

/** What log entries are sought by; empty: anything. */
export interface LogSought {
  words: string;
  location_id: number | null;
  subject: string;
  light: string;
  look: string;
  lens: string;
  outcome: Schemas["Outcome"] | null;
}

const LOG_PAGE = 24;

export const logQuery = (sought: LogSought) =>
  infiniteQueryOptions({
    queryKey: ["log", "page", sought],
    queryFn: ({ pageParam }) => {
      const said = Object.fromEntries(Object.entries(sought).filter(([, value]) => value !== null && value !== ""));
      return take(client.GET("/api/log", { params: { query: { ...said, offset: pageParam, limit: LOG_PAGE } } }));
    },
    initialPageParam: 0,
    getNextPageParam: (last, _pages, offset) =>
      offset + last.entries.length < last.total ? offset + last.entries.length : undefined,
    placeholderData: keepPreviousData,
  });

export const logEntryQuery = (id: number) =>
  queryOptions({
    queryKey: ["log", "entry", id],
    queryFn: () => take(client.GET("/api/log/{entry_id}", { params: { path: { entry_id: id } } })),
  });

/** Files that were read in and wait to be sorted. */
export const waitingFilesQuery = () =>
  queryOptions({ queryKey: ["log", "waiting"], queryFn: () => take(client.GET("/api/log/waiting")) });

export const logFiguresQuery = () =>
  queryOptions({
    queryKey: ["log", "figures"],
    queryFn: () => take(client.GET("/api/log/figures")),
    // After a large import each answer works out a part.
    refetchInterval: (query) => (query.state.data?.behind ? 200 : false),
  });

export const calibrationsQuery = () =>
  queryOptions({ queryKey: ["log", "calibrations"], queryFn: () => take(client.GET("/api/calibrations")) });

export const practiceQuery = () =>
  queryOptions({ queryKey: ["practice list"], queryFn: () => take(client.GET("/api/practice")) });

export const questionQuery = (exercise: Schemas["Exercise"], seed: number) =>
  queryOptions({
    queryKey: ["practice", exercise, seed],
    queryFn: () => take(client.GET("/api/practice/question", { params: { query: { exercise, seed } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What made a frame, when its light comes again at a place, and the shutter that does the same on a shot's water. */
export const recipeQuery = (frameId: number, locationId: number | null, shotId: number | null) =>
  queryOptions({
    queryKey: ["log", "recipe", frameId, locationId, shotId],
    queryFn: () =>
      take(
        client.GET("/api/log/frames/{frame_id}/recipe", {
          params: {
            path: { frame_id: frameId },
            query: {
              ...(locationId === null ? {} : { location_id: locationId }),
              ...(shotId === null ? {} : { shot_id: shotId }),
            },
          },
        }),
      ),
  });
