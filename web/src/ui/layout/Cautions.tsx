import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import { Mark } from "./Mark";

/** What to mind, each with the mark of its weight. */
export function Cautions({ cautions }: { cautions: Pick<Schemas["CautionOut"], "severity" | "text">[] }) {
  return cautions.map((caution) => (
    <Box key={caution.text} display="grid" gridTemplateColumns="14px 1fr" gap="6px">
      <Mark mark={caution.severity} size={4.5} />
      <span>{caution.text}</span>
    </Box>
  ));
}
