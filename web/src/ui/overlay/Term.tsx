import { chakra, Tooltip } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import { GLOSSARY } from "../../api/facts";
import { REACH } from "../../theme/system";
import { TipWords } from "./Tip";

export type TermName = keyof typeof GLOSSARY;

/** A term of the trade, explained where it is pointed at, focused or tapped. */
export function Term({ of, children }: { of: TermName; children?: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <Tooltip.Root
      open={open}
      onOpenChange={(details) => setOpen(details.open)}
      openDelay={250}
      closeOnPointerDown={false}
      closeOnClick={false}
      positioning={{ placement: "top" }}
      lazyMount
      unmountOnExit
    >
      <Tooltip.Trigger asChild>
        <chakra.button
          type="button"
          onClick={() => setOpen(true)}
          onBlur={() => setOpen(false)}
          data-term={of}
          {...REACH}
          bg="transparent"
          borderWidth="0"
          p="0"
          display="inline-flex"
          alignItems="center"
          minH="24px"
          my="-3px"
          minW="24px"
          color="inherit"
          textAlign="left"
          cursor="help"
          textDecoration="underline dotted"
          textUnderlineOffset="3px"
        >
          {children ?? of}
        </chakra.button>
      </Tooltip.Trigger>
      <TipWords>{GLOSSARY[of]}</TipWords>
    </Tooltip.Root>
  );
}
