import { useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../api/client";
import { refreshPlans } from "../api/queries";

/** Changing a location and what belongs to it; every plan is asked for again afterwards. */
export function useLocation(locationId: number) {
  const queries = useQueryClient();
  const done = <T>(answer: T): T => {
    refreshPlans(queries);
    return answer;
  };
  const path = { location_id: locationId };
  return {
    done,
    save: (field: keyof Schemas["LocationPatch"]) => (text: string) =>
      take(
        client.PATCH("/api/locations/{location_id}", { params: { path }, body: { [field]: emptied(field, text) } }),
      ).then(done),
    edit: (body: Schemas["LocationPatch"]) =>
      take(client.PATCH("/api/locations/{location_id}", { params: { path }, body })).then(done),
    addHazard: (body: Schemas["HazardIn"]) =>
      take(client.POST("/api/locations/{location_id}/hazards", { params: { path }, body })).then(done),
    editHazard: (hazard_id: number, body: Schemas["HazardPatch"]) =>
      take(client.PATCH("/api/hazards/{hazard_id}", { params: { path: { hazard_id } }, body })).then(done),
    dropHazard: (hazard_id: number) =>
      take(client.DELETE("/api/hazards/{hazard_id}", { params: { path: { hazard_id } } })).then(done),
    addOpening: (body: Schemas["OpeningIn"]) =>
      take(client.POST("/api/locations/{location_id}/openings", { params: { path }, body })).then(done),
    editOpening: (opening_id: number, body: Schemas["OpeningPatch"]) =>
      take(client.PATCH("/api/openings/{opening_id}", { params: { path: { opening_id } }, body })).then(done),
    dropOpening: (opening_id: number) =>
      take(client.DELETE("/api/openings/{opening_id}", { params: { path: { opening_id } } })).then(done),
    setTide: (body: Schemas["OwnTideIn"]) =>
      take(client.PUT("/api/locations/{location_id}/tide", { params: { path }, body })).then(done),
    dropTide: () => take(client.DELETE("/api/locations/{location_id}/tide", { params: { path } })).then(done),
    addSeason: (body: Schemas["SeasonNoteIn"]) =>
      take(client.POST("/api/locations/{location_id}/seasons", { params: { path }, body })).then(done),
    dropSeason: (note_id: number) =>
      take(client.DELETE("/api/seasons/{note_id}", { params: { path: { note_id } } })).then(done),
    dropTrack: (track_id: number) =>
      take(client.DELETE("/api/tracks/{track_id}", { params: { path: { track_id } } })).then(done),
  };
}

/** Fields that may be unsaid are let go by leaving them empty. */
const MAY_BE_UNSAID = new Set(["drive_min", "walk_m", "walk_ascent_m", "access_checked_on"]);

function emptied(field: string, text: string): string | null {
  return MAY_BE_UNSAID.has(field) && !text.trim() ? null : text;
}
