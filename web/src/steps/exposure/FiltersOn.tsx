import { Box } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { atOneField, type Schemas } from "../../api/client";
import { shotQuery } from "../../api/queries";
import { plain } from "../../lib/format/numbers";
import type { ShotWork } from "../../shots/useShot";
import { Field, Tick } from "../../ui/form/Field";

type Use = Schemas["FilterUseOut"];
type Filter = Schemas["FilterOut"];

/** The bag: which filters are on the lens now, and which were on when the reading was taken. */
export function FiltersOn({
  shot,
  set,
  change: send,
  asked,
  filters,
  metered,
}: ShotWork & { filters: Filter[]; metered: boolean }) {
  const uses = shot.facts.filters;
  // A figure on its way is still the text that was typed: its field stands on what was answered.
  const answered = useQueryClient().getQueryData(shotQuery(shot.id).queryKey)?.facts.exposure.filters;
  const turnedTo = (filter: Filter) => answered?.find((use) => use.filter_id === filter.id)?.set_stops ?? filter.stops;
  const used = (filterId: number, next: Partial<Use>): Use[] => {
    const now = (asked().filters as Use[] | undefined) ?? uses;
    const old = now.find((use) => use.filter_id === filterId) ?? {
      filter_id: filterId,
      on_lens: false,
      on_when_metered: false,
      set_stops: null,
    };
    return [...now.filter((use) => use.filter_id !== filterId), { ...old, ...next }];
  };
  const change = (filterId: number, next: Partial<Use>) => set({ filters: used(filterId, next) });
  const turn = async (filterId: number, text: string) => {
    // What was typed goes as it is: the server reads it, and says at this field what it cannot.
    const set_stops = (text.trim() || null) as number | null;
    try {
      await send({ filters: used(filterId, { set_stops }) });
    } catch (failure) {
      throw atOneField(failure);
    }
  };
  if (!filters.length) return <Box color="muted">The bag holds no filters yet: add them under Kit.</Box>;
  return (
    <Box display="grid" gridTemplateColumns="repeat(auto-fill, minmax(205px, 1fr))" gap="3px 18px" data-field="filters">
      {filters.map((filter) => {
        const use = uses.find((item) => item.filter_id === filter.id);
        const inUse = use?.on_lens || use?.on_when_metered;
        return (
          <Box key={filter.id}>
            <Box display="flex" justifyContent="space-between" gap="8px">
              <Tick
                label={filter.name}
                checked={use?.on_lens ?? false}
                change={(on_lens) => change(filter.id, { on_lens })}
              />
              <Box as="span" fontFamily="mono" fontSize="small" color="muted" whiteSpace="nowrap">
                {filter.stops ? filter.stops : ""}
                {filter.stops_max ? `–${filter.stops_max}` : ""}
              </Box>
            </Box>
            {inUse && filter.stops_max !== null && (
              <Box pl="23px" pb="3px">
                <Field
                  label="Turned to"
                  name={`filter:${filter.id}:set_stops`}
                  value={plain(turnedTo(filter), 2)}
                  unit="stops"
                  step={1 / 3}
                  save={(text) => turn(filter.id, text)}
                />
              </Box>
            )}
            {metered && inUse && (
              <Box pl="23px" pb="3px">
                <Tick
                  label={
                    <Box as="span" fontSize="small" color="muted">
                      on when metered
                    </Box>
                  }
                  checked={use?.on_when_metered ?? false}
                  change={(on_when_metered) => change(filter.id, { on_when_metered })}
                />
              </Box>
            )}
          </Box>
        );
      })}
    </Box>
  );
}
