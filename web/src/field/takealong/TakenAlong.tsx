import { Box } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { isOver } from "../offline/events";
import { useRun } from "../offline/useRun";
import { CountdownBar } from "../runner/Countdown";
import { Runner } from "../runner/Runner";
import { ThemeTurn } from "../runner/ThemeTurn";
import { Thumb } from "../runner/Thumb";
import { Tick } from "../runner/Tick";

type Card = Schemas["CardRunOut"];
export type Taken = Schemas["TakenAlongOut"];

/** An outing, or one shot, with no server: its stops, and the runner of each. */
export function TakenAlong({ taken }: { taken: Taken }) {
  const [at, setAt] = useState(taken.cards.length === 1 ? 0 : -1);
  const card = taken.cards[at];
  if (card) return <One key={card.card_id} card={card} back={taken.cards.length > 1 ? () => setAt(-1) : null} />;
  return (
    <Box as="main" maxW="560px" mx="auto" px="12px" py="10px" display="grid" gap="12px">
      <Box display="flex" justifyContent="space-between" gap="10px" alignItems="baseline">
        <Box as="h1" fontSize="title" fontWeight="700">
          {taken.name}
        </Box>
        <ThemeTurn />
      </Box>
      <CountdownBar shown={null} />
      <Box as="ol" fontSize="heading" display="grid" gap="2px">
        {taken.times.map((text, line) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the lines of a plan never change their order.
          <li key={line}>{text}</li>
        ))}
      </Box>
      {taken.packing.length > 0 && taken.cards[0] && <Packing items={taken.packing} card={taken.cards[0]} />}
      {taken.cards.map((item, index) => (
        <Thumb key={item.card_id} onClick={() => setAt(index)} justifyContent="space-between">
          <span>{item.sheet.name}</span>
          <Done card={item} />
        </Thumb>
      ))}
    </Box>
  );
}

/** What to pack; ticks are kept with the first card's events. */
function Packing({ items, card }: { items: Taken["packing"]; card: Card }) {
  const work = useRun(card.card_id, card.sheet, null);
  if (!work) return null;
  const left = items.filter((item) => !item.packed && !work.run.checked.has(item.key)).length;
  return (
    <Box as="details" fontSize="heading" data-packing="">
      <Box as="summary" minH="56px" cursor="pointer">
        {left ? `To pack: ${left} of ${items.length} left` : "All packed"}
      </Box>
      <Box as="ul" display="grid">
        {items.map((item) => (
          <Tick
            key={item.key}
            work={work}
            kind="packed"
            of={item.key}
            words={item.name}
            more={item.why}
            done={item.packed}
          />
        ))}
      </Box>
    </Box>
  );
}

function Done({ card }: { card: Card }) {
  const work = useRun(card.card_id, card.sheet, null);
  if (!work) return null;
  const over = work.sheet.frames.filter((frame) => isOver(work.run.frames[frame.key])).length;
  return (
    <Box as="span" fontFamily="mono">
      {over} of {card.sheet.frames.length}
    </Box>
  );
}

function One({ card, back }: { card: Card; back: (() => void) | null }) {
  const work = useRun(card.card_id, card.sheet, null);
  if (!work) return null;
  return (
    <Runner
      work={work}
      aspects={card.aspects}
      head={
        <Box display="flex" gap="8px">
          <ThemeTurn />
          {back && (
            <Thumb fontSize="body" onClick={back}>
              All stops
            </Thumb>
          )}
        </Box>
      }
    />
  );
}
