import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";

/** What adds to a promise and what takes from it, in points, and the range it may stand in. */
export function PromiseReasons({ promise }: { promise: Schemas["PromiseOut"] }) {
  return (
    <Box as="ul" display="grid" gap="1px">
      {promise.factors.map((factor) => (
        <Box as="li" key={factor.name} display="grid" gridTemplateColumns="5ch 1fr" gap="8px">
          <Box as="span" fontFamily="mono" textAlign="right">
            {factor.points > 0 ? "+" : "−"}
            {Math.abs(factor.points).toFixed(0)}
          </Box>
          <span>{factor.text}</span>
        </Box>
      ))}
      <Box as="li" color="muted">
        {Math.round(promise.low)} to {Math.round(promise.high)} of 100, {promise.lead_words}
        {promise.hours_missing ? `; ${promise.hours_missing} h missing from the forecast` : ""}
      </Box>
    </Box>
  );
}
