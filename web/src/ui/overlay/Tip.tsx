import { Portal, Tooltip } from "@chakra-ui/react";
import type { ReactElement, ReactNode } from "react";

/** A few words beside a control while it is pointed at or has the focus. What must be known stands in the control's name as well. */
export function Tip({ words, children }: { words: string; children: ReactElement }) {
  return (
    <Tooltip.Root openDelay={350} closeDelay={80} positioning={{ placement: "bottom" }} lazyMount unmountOnExit>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <TipWords>{words}</TipWords>
    </Tooltip.Root>
  );
}

/** The words beside what they are about. */
export function TipWords({ children }: { children: ReactNode }) {
  return (
    <Portal>
      <Tooltip.Positioner zIndex="13">
        <Tooltip.Content
          bg="raised"
          color="fg"
          borderWidth="1px"
          borderStyle="solid"
          borderColor="edge"
          borderRadius="3px"
          px="8px"
          py="3px"
          fontSize="small"
          maxW="320px"
        >
          {children}
        </Tooltip.Content>
      </Tooltip.Positioner>
    </Portal>
  );
}
