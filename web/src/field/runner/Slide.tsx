import { Box } from "@chakra-ui/react";
import { useRef, useState } from "react";

const KNOB_PX = 72;
// From where a slide must begin, and how far it must go, as shares of the way.
const FROM_SHARE = 0.3;
const FAR_SHARE = 0.92;

/** Unlocks when its knob is drawn from the left end to the right; a touch elsewhere does nothing. */
export function Slide({ label, done }: { label: string; done: () => void }) {
  const track = useRef<HTMLDivElement>(null);
  const [share, setShare] = useState<number | null>(null);
  const at = (clientX: number) => {
    const box = track.current?.getBoundingClientRect();
    if (!box) return 0;
    return Math.min(1, Math.max(0, (clientX - box.left - KNOB_PX / 2) / Math.max(1, box.width - KNOB_PX)));
  };
  return (
    <Box
      ref={track}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round((share ?? 0) * 100)}
      position="relative"
      height="72px"
      border="1px solid"
      borderColor="edge"
      borderRadius="3px"
      touchAction="none"
      userSelect="none"
      display="grid"
      placeItems="center"
      fontSize="heading"
      color="muted"
      onPointerDown={(event) => {
        if (at(event.clientX) > FROM_SHARE) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        setShare(at(event.clientX));
      }}
      onPointerMove={(event) => share !== null && setShare(at(event.clientX))}
      onPointerUp={() => {
        if (share !== null && share >= FAR_SHARE) done();
        setShare(null);
      }}
      onPointerCancel={() => setShare(null)}
      onKeyDown={(event) => {
        // From the keyboard the arrow draws it.
        if (event.key !== "ArrowRight" && event.key !== "End") return;
        event.stopPropagation();
        const next = event.key === "End" ? 1 : (share ?? 0) + 0.25;
        setShare(next >= 1 ? null : next);
        if (next >= 1) done();
      }}
    >
      {label}
      <Box
        position="absolute"
        left={`calc(${share ?? 0} * (100% - ${KNOB_PX}px))`}
        top="0"
        bottom="0"
        width={`${KNOB_PX}px`}
        bg="raised"
        borderRight="1px solid"
        borderColor="edge"
        display="grid"
        placeItems="center"
        color="fg"
        fontSize="title"
        aria-hidden="true"
      >
        →
      </Box>
    </Box>
  );
}
