import { Box } from "@chakra-ui/react";
import { type PointerEvent, useRef, useState } from "react";
import { client, type Schemas, take } from "../api/client";
import { useAct } from "../lib/drafts/useAct";
import { plain } from "../lib/format/numbers";
import { Button } from "../ui/form/Button";
import { Input } from "../ui/form/Field";
import { Dialog } from "../ui/overlay/Dialog";

type Frame = Schemas["LogFrameOut"];
// From x and y to x and y, as shares of the picture's sides.
type Line = number[];

/** A streak of moving water, measured on the picture: a line is drawn along it, from one end to the other. */
export function Streak({ frame, close }: { frame: Frame; close: () => void }) {
  // What is refused is said here, with the line and the figure still there.
  const act = useAct(
    (body: Schemas["LogFramePatch"]) =>
      take(client.PATCH("/api/log/frames/{frame_id}", { params: { path: { frame_id: frame.id } }, body })),
    { quiet: true, only: ["log"] },
  );
  const [line, setLine] = useState<Line | null>(frame.streak_line);
  const drawing = useRef(false);
  const at = (event: PointerEvent<SVGSVGElement>): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect();
    const share = (value: number, size: number) => Math.min(1, Math.max(0, value / size));
    return [share(event.clientX - box.left, box.width), share(event.clientY - box.top, box.height)];
  };
  const start = (event: PointerEvent<SVGSVGElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    drawing.current = true;
    setSaid("");
    setLine([...at(event), ...at(event)]);
  };
  const move = (event: PointerEvent<SVGSVGElement>) => {
    if (!drawing.current) return;
    const here = at(event);
    setLine((before) => before && [...before.slice(0, 2), ...here]);
  };
  const [said, setSaid] = useState(
    frame.streak_line || frame.seen_share === null ? "" : plain(frame.seen_share * 100, 1),
  );
  const share = Number(said) / 100;
  const typed = said.trim() !== "";
  const readable = !typed || Number.isFinite(share);
  const keep = (body: Schemas["LogFramePatch"]) => act.mutate(body, { onSuccess: close });
  return (
    <Dialog
      title={`A streak on ${frame.file_name}`}
      close={close}
      actions={
        <>
          {frame.seen_share !== null && <Button onClick={() => keep({ streak_line: null })}>Take it back</Button>}
          <Button
            look="main"
            disabled={!readable || act.isPending || (!line && !typed)}
            onClick={() => keep(typed ? { seen_share: share } : { streak_line: line })}
          >
            Keep it
          </Button>
        </>
      }
    >
      <Box fontSize="body" lineHeight="1.4" maxW="560px" mb="10px">
        Draw along one streak of the water, from end to end. Its length and the shutter time tell how fast the water
        really was; four frames or more, and the log knows it.
      </Box>
      <Box position="relative" width="min(80vw, 720px)" lineHeight="0" data-backdrop="">
        <img
          src={`/api/log/frames/${frame.id}/preview`}
          alt={frame.file_name}
          draggable={false}
          style={{ width: "100%" }}
        />
        <svg
          role="img"
          aria-label="The line along a streak"
          data-streak=""
          viewBox="0 0 1 1"
          preserveAspectRatio="none"
          style={{
            position: "absolute",
            inset: 0,
            width: "100%",
            height: "100%",
            touchAction: "none",
            cursor: "crosshair",
          }}
          onPointerDown={start}
          onPointerMove={move}
          onPointerUp={() => {
            drawing.current = false;
          }}
        >
          {line &&
            (["var(--lr-colors-bg)", "var(--lr-colors-accent)"] as const).map((colour, index) => (
              <line
                key={colour}
                x1={line[0]}
                y1={line[1]}
                x2={line[2]}
                y2={line[3]}
                stroke={colour}
                strokeWidth={index ? 2.5 : 5}
                strokeLinecap="round"
                vectorEffect="non-scaling-stroke"
              />
            ))}
        </svg>
      </Box>
      <Box as="label" display="flex" gap="8px" alignItems="center" mt="10px" fontSize="body">
        or say how long it is
        <Input
          inputMode="decimal"
          width="90px"
          aria-label="Length of the streak in per cent of the short side"
          value={said}
          onChange={(event) => setSaid(event.target.value)}
        />
        % of the picture's short side
      </Box>
      {(!readable || act.error) && (
        <Box role="alert" color="rust" fontSize="body">
          {readable ? act.error?.message : "A number is needed, such as 12."}
        </Box>
      )}
    </Dialog>
  );
}
