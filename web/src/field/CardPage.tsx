import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { cardQuery } from "../api/queries";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Field";
import { FailedPage, Pending } from "../parts/States";
import { useTitle } from "../parts/useTitle";
import { Card } from "./Card";

type Paper = "A6" | "A5";
const TEXT_PT: Record<Paper, number> = { A6: 9, A5: 12.5 };
// Written out: style sheets know A5 by name, but not A6.
const SHEET: Record<Paper, string> = { A6: "105mm 148mm", A5: "148mm 210mm" };

/** A field card alone: on a phone as it is, on paper as an A6 or A5 page in black on white. */
export default function CardPage() {
  const id = Number(useParams().cardId);
  const query = useQuery(cardQuery(id));
  const [paper, setPaper] = useState<Paper>("A6");
  const card = query.data;
  useTitle(card?.content.name, "card");
  if (query.error) return <FailedPage error={query.error} retry={() => void query.refetch()} />;
  if (!card) return <Pending what="the field card" />;
  return (
    <Box
      as="main"
      id="main"
      tabIndex={-1}
      outline="none"
      p="16px"
      maxW="560px"
      mx="auto"
      css={{ "@media print": { padding: 0, maxWidth: "none" } }}
    >
      <style>{`@page { size: ${SHEET[paper]}; margin: 7mm; }
        @media print { .field-card { font-size: ${TEXT_PT[paper]}pt; color: #000; background: #fff; } .no-print { display: none !important; } }`}</style>
      <Box
        className="no-print"
        display="flex"
        gap="12px"
        alignItems="flex-end"
        justifyContent="space-between"
        flexWrap="wrap"
        mb="14px"
      >
        <Link to={`/shots/${card.shot_id}/field`}>back to the shot</Link>
        <Choice
          label="Paper"
          value={paper}
          options={[
            { value: "A6", label: "A6" },
            { value: "A5", label: "A5" },
          ]}
          choose={setPaper}
        />
        <Button look="main" onClick={() => window.print()}>
          Print
        </Button>
      </Box>
      <Box fontSize="17px">
        <Card content={card.content} stale={card.stale} title="h1" />
      </Box>
    </Box>
  );
}
