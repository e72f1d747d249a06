import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import { ink } from "../../theme/system";

/** A rating with its spread on a scale from 0 to 100, and its word. */
export function PromiseBar({ promise }: { promise: Schemas["PromiseOut"] }) {
  const x = (points: number) => 2 + (points / 100) * 86;
  return (
    <Box display="flex" alignItems="center" gap="7px" minW="0">
      <svg
        width="90"
        height="14"
        role="img"
        aria-label={`${promise.word}: ${Math.round(promise.low)} to ${Math.round(promise.high)} of 100`}
      >
        <line x1={2} x2={88} y1={7} y2={7} stroke={ink("line")} strokeWidth={2} />
        <line x1={x(promise.low)} x2={x(promise.high)} y1={7} y2={7} stroke={ink("muted")} strokeWidth={5} />
        <line x1={x(promise.rating)} x2={x(promise.rating)} y1={1} y2={13} stroke={ink("accent")} strokeWidth={3} />
      </svg>
      <Box as="span" fontSize="small">
        {promise.word}
      </Box>
    </Box>
  );
}
