import { Box, RadioGroup } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ApiError, client, take } from "../api/client";
import { useSettled } from "../lib/drafts/useSettled";
import { Input, Labelled } from "../ui/form/Field";

const RESTS_MS = 250;

/** The next times of the light that the kind of picture wants, of which the first is taken unless another is chosen. */
export function WhenChoice({
  kind,
  where,
  day,
  putDay,
  start,
  choose,
  error,
}: {
  kind: string;
  where: { viewpoint_id?: number; coordinates?: string };
  day: string;
  putDay: (day: string) => void;
  start: string;
  choose: (start_utc: string) => void;
  error: string | undefined;
}) {
  const asked = useSettled(JSON.stringify({ kind, ...where, ...(day.trim() ? { day: day.trim() } : {}) }), RESTS_MS);
  const found = useQuery({
    queryKey: ["starting", "light", asked],
    queryFn: ({ signal }) =>
      take(client.GET("/api/starting/light", { params: { query: JSON.parse(asked) as { kind: string } }, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const refused = found.error instanceof ApiError ? found.error.at("day") : undefined;
  const times = found.error ? [] : (found.data?.times ?? []);
  const chosen = times.some((item) => item.start_utc === start) ? start : times[0]?.start_utc;
  return (
    <Box display="grid" gap="4px">
      <Labelled label="When, from" error={error ?? refused} hint="tomorrow, sat, next new moon, or a date">
        <Input
          value={day}
          maxLength={60}
          autoComplete="off"
          fontFamily="body"
          placeholder="now"
          onChange={(event) => putDay(event.target.value)}
        />
      </Labelled>
      {times.length > 0 ? (
        <RadioGroup.Root
          value={chosen ?? ""}
          onValueChange={(details) => choose(details.value ?? "")}
          aria-label="Time"
          display="grid"
          gap="0"
        >
          {times.map((item) => (
            <RadioGroup.Item
              key={item.start_utc}
              value={item.start_utc}
              display="flex"
              gap="8px"
              alignItems="center"
              minH={{ base: "44px", lg: "26px" }}
              cursor="pointer"
              css={{ "&:has(:focus-visible)": { outline: "2px solid var(--lr-colors-accent)", outlineOffset: "1px" } }}
            >
              <RadioGroup.ItemHiddenInput />
              <Box as="span" aria-hidden="true" color={item.start_utc === chosen ? "accent" : "muted"}>
                {item.start_utc === chosen ? "●" : "○"}
              </Box>
              <RadioGroup.ItemText fontFamily="mono">{item.words}</RadioGroup.ItemText>
            </RadioGroup.Item>
          ))}
        </RadioGroup.Root>
      ) : (
        !refused && found.data && !found.error && <Box color="muted">{found.data.words}</Box>
      )}
    </Box>
  );
}
