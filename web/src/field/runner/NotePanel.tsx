import { Box } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useStored } from "../../lib/drafts/useStored";
import { TextBox } from "../../ui/form/Field";
import type { RunWork } from "../offline/useRun";
import { Thumb } from "./Thumb";

// The longer side of a picture of the scene, as it is kept.
const PICTURE_PX = 900;

/** Words by keys or by the phone's dictation, a picture of the scene, and ratings, which can wait. */
export function NotePanel({
  work,
  aspects,
  frame,
}: {
  work: RunWork;
  aspects: string[];
  frame: Schemas["RunFrameOut"] | null;
}) {
  const [stored, setDraft] = useStored(`note ${work.runId}`);
  const draft = stored ?? "";
  const [told, setTold] = useState("");
  const add = async (ofFrame: boolean) => {
    await work.tell("note", { text: draft.trim(), ...(ofFrame && frame ? { frame: frame.key } : {}) });
    setDraft(undefined);
    setTold("Noted.");
  };
  const picture = async (file: File | undefined) => {
    if (!file) return;
    try {
      await work.tell("photo", { image: await smaller(file), ...(frame ? { frame: frame.key } : {}) });
      setTold("The picture is kept.");
    } catch {
      setTold("That is no picture that this browser can read.");
    }
  };
  return (
    <Box display="grid" gap="14px" fontSize="heading">
      <TextBox
        aria-label="Note"
        rows={4}
        fontSize="heading"
        value={draft}
        placeholder="What is it like?"
        onChange={(event) => setDraft(event.target.value)}
      />
      <Box display="grid" gridTemplateColumns="1fr 1fr" gap="8px">
        <Thumb disabled={!draft.trim() || !frame} onClick={() => void add(true)}>
          To frame {frame?.number ?? ""}
        </Thumb>
        <Thumb disabled={!draft.trim()} onClick={() => void add(false)}>
          To the outing
        </Thumb>
      </Box>
      <Box as="label" display="grid" gap="4px">
        A picture of the scene
        <input
          type="file"
          accept="image/*"
          capture="environment"
          onChange={(event) => void picture(event.target.files?.[0])}
        />
      </Box>
      <Box role="status" color="muted">
        {told}
      </Box>
      {work.run.notes.length > 0 && (
        <Box as="ul" color="muted">
          {[...new Set(work.run.notes)].map((text) => (
            <li key={text}>{text}</li>
          ))}
        </Box>
      )}
      <Box display="grid" gap="6px">
        {aspects.map((aspect) => (
          <Box
            key={aspect}
            display="grid"
            gridTemplateColumns="1fr repeat(5, 48px)"
            gap="4px"
            alignItems="center"
            role="group"
            aria-label={aspect}
          >
            {aspect}
            {[1, 2, 3, 4, 5].map((stars) => (
              <Thumb
                key={stars}
                minW="44px"
                minH="56px"
                px="0"
                look={(work.run.ratings[aspect] ?? 0) >= stars ? "chosen" : "plain"}
                aria-pressed={work.run.ratings[aspect] === stars}
                onClick={() => void work.tell("rating", { text: aspect, value: stars })}
              >
                {stars}
              </Thumb>
            ))}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

async function smaller(file: File): Promise<string> {
  const image = await createImageBitmap(file);
  const share = Math.min(1, PICTURE_PX / Math.max(image.width, image.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(image.width * share));
  canvas.height = Math.max(1, Math.round(image.height * share));
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return canvas.toDataURL("image/jpeg", 0.75);
}
