import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { client, take } from "../../api/client";
import { cardQuery } from "../../api/queries";
import { Card } from "../../field/card/Card";
import { OnYourPhone } from "../../field/card/OnYourPhone";
import { useAct } from "../../lib/drafts/useAct";
import { StepLayout } from "../../shots/StepLayout";
import type { ShotWork } from "../../shots/useShot";
import { Button, ButtonLink } from "../../ui/form/Button";
import { Section } from "../../ui/layout/Section";
import { Empty, Failed, Pending } from "../../ui/layout/States";

/** Step 7: the card to take along. It stays as it was made, whatever happens to the plan. */
export default function FieldPage({ shot }: ShotWork) {
  const card = useQuery({ ...cardQuery(shot.card_id ?? 0), enabled: shot.card_id !== null });
  const verdict = shot.plan.verdicts.find((item) => item.step === "field");
  const make = useAct(() =>
    take(client.POST("/api/shots/{shot_id}/cards", { params: { path: { shot_id: shot.id } } })),
  );
  const stale = verdict?.mark === "tight";
  const navigate = useNavigate();
  return (
    <StepLayout
      drawing={
        shot.card_id === null ? (
          <Empty>
            No card yet.{" "}
            {shot.plan.sequence.frames.length
              ? "Make one at the right: it holds the frames in order, to print or to read on the phone."
              : "It follows once there are frames to take (6)."}
          </Empty>
        ) : card.error ? (
          <Failed error={card.error} retry={() => void card.refetch()} />
        ) : card.data ? (
          <Box
            role="region"
            aria-label="The card"
            tabIndex={0}
            height="100%"
            overflowY="auto"
            display="flex"
            justifyContent="center"
            bg="raised"
            py="14px"
            px="10px"
          >
            {/* Paper is white and ink is black in every theme but the one for the night. */}
            <Box
              bg="#fff"
              color="#000"
              width="min(430px, 100%)"
              p="20px"
              fontSize="body"
              alignSelf="flex-start"
              css={{ "[data-theme=ember] &": { background: "#000", color: "#f00", border: "1px solid #c40000" } }}
            >
              <Card content={card.data.content} stale={stale} />
            </Box>
          </Box>
        ) : (
          <Pending what="the card" />
        )
      }
      dials={
        <Section title="Field card">
          <Box fontSize="heading" fontWeight="600">
            {verdict?.text}
          </Box>
          <Box data-field="card" display="flex" gap="8px" flexWrap="wrap">
            {(shot.card_id === null || stale) && (
              <Button
                look="main"
                disabled={!shot.plan.sequence.frames.length || make.isPending}
                onClick={() => make.mutate()}
              >
                {stale ? "Make the card again" : "Make a field card"}
              </Button>
            )}
            {shot.card_id !== null && (
              <>
                <Button onClick={() => void navigate(`/cards/${shot.card_id}/run`)}>
                  Work through it in the field
                </Button>
                <Link to={`/cards/${shot.card_id}`}>print or open the card</Link>
                <OnYourPhone cardId={shot.card_id} />
                <ButtonLink look="quiet" px="3px" href={`/api/cards/${shot.card_id}/take-along`} download>
                  save for the phone
                </ButtonLink>
              </>
            )}
          </Box>
          <Box fontSize="body" color="muted">
            The card keeps the plan as it is now. When the plan moves on, the card says so and stays as it was: nothing
            changes under your feet in the field.
          </Box>
        </Section>
      }
    />
  );
}
