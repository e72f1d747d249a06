import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import { Field, Tick } from "../../parts/Field";
import { plain } from "../../parts/numbers";
import type { ShotWork } from "../../shot/useShot";

type Use = Schemas["FilterUseOut"];

/** The bag: which filters are on the lens now, and which were on when the reading was taken. */
export function FiltersOn({
  filters,
  uses,
  set,
  asked,
  metered,
}: {
  filters: Schemas["FilterOut"][];
  uses: Use[];
  set: ShotWork["set"];
  asked: ShotWork["asked"];
  metered: boolean;
}) {
  const change = (filterId: number, next: Partial<Use>) => {
    const now = (asked().filters as Use[] | undefined) ?? uses;
    const old = now.find((use) => use.filter_id === filterId) ?? {
      filter_id: filterId,
      on_lens: false,
      on_when_metered: false,
      set_stops: null,
    };
    set({ filters: [...now.filter((use) => use.filter_id !== filterId), { ...old, ...next }] });
  };
  if (!filters.length) return <Box color="muted">The bag holds no filters yet: add them under Kit.</Box>;
  return (
    <Box display="grid" gridTemplateColumns="repeat(auto-fill, minmax(205px, 1fr))" gap="3px 18px" data-field="filters">
      {filters.map((filter) => {
        const use = uses.find((item) => item.filter_id === filter.id);
        const used = use?.on_lens || use?.on_when_metered;
        return (
          <Box key={filter.id}>
            <Box display="flex" justifyContent="space-between" gap="8px">
              <Tick label={filter.name} checked={use?.on_lens ?? false} change={(on_lens) => change(filter.id, { on_lens })} />
              <Box as="span" fontFamily="mono" fontSize="13px" color="muted" whiteSpace="nowrap">
                {filter.stops ? filter.stops : ""}
                {filter.stops_max ? `–${filter.stops_max}` : ""}
              </Box>
            </Box>
            {used && filter.stops_max !== null && (
              <Box pl="23px" pb="3px">
                <Field
                  label="Turned to"
                  name={`filter:${filter.id}:set_stops`}
                  value={plain(use?.set_stops ?? filter.stops, 2)}
                  unit="stops"
                  step={1 / 3}
                  save={async (text) => change(filter.id, { set_stops: Number(text) })}
                />
              </Box>
            )}
            {metered && used && (
              <Box pl="23px" pb="3px">
                <Tick
                  label={
                    <Box as="span" fontSize="13px" color="muted">
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
