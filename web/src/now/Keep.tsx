import { Box } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, take } from "../api/client";
import { shotQuery } from "../api/queries";
import { asBody } from "../lib/drafts/asBody";
import { lastShot } from "../shots/lastShot";
import { Button } from "../ui/form/Button";
import type { Answer, Question } from "./questions";

/** What was answered can be kept: as a new shot, or in the one that was open last. */
export function Keep({
  question,
  answer,
  askFor,
  again,
}: {
  question: Question;
  answer: Answer | undefined;
  /** The same answer for a shot that is there. */
  askFor: (shotId: number) => Promise<Answer>;
  again: (() => void) | undefined;
}) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const [failure, setFailure] = useState<string>();
  const open = lastShot();
  const keepIn = async (shot: (name: string) => Promise<number>) => {
    if (!answer || busy) return;
    setBusy(true);
    setFailure(undefined);
    try {
      const id = await shot(`${question.title}, ${answer.figure}`);
      // A shot that is there keeps its camera and lens, and how it is set.
      const fitting = id === open?.id ? (await askFor(id)).choices : { ...answer.choices, ...answer.kit };
      const body = asBody<Schemas["ShotPatch"]>(fitting);
      const found = await take(client.PATCH("/api/shots/{shot_id}", { params: { path: { shot_id: id } }, body }));
      queries.setQueryData(shotQuery(id).queryKey, found);
      void queries.invalidateQueries({ queryKey: ["notebook"] });
      void navigate(`/shots/${id}/${question.step}`);
    } catch (error) {
      setFailure((error as Error).message);
      setBusy(false);
    }
  };
  const possible = answer !== undefined && Object.keys(answer.choices).length > 0 && !busy;
  return (
    <Box display="flex" flexWrap="wrap" gap="0 6px" ml="-6px">
      <Button
        look="quiet"
        disabled={!possible}
        onClick={() => void keepIn(async (name) => (await take(client.POST("/api/shots", { body: { name } }))).id)}
      >
        make a shot of it
      </Button>
      {open && (
        <Button
          look="quiet"
          disabled={!possible}
          maxW="220px"
          overflow="hidden"
          onClick={() => void keepIn(async () => open.id)}
        >
          use in {open.name}
        </Button>
      )}
      {again && (
        <Button look="quiet" onClick={again} color="muted">
          as at first
        </Button>
      )}
      {failure && (
        <Box role="alert" color="rust" fontSize="small" px="6px">
          {failure}
        </Box>
      )}
    </Box>
  );
}
