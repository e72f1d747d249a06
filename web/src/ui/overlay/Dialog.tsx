import { Box, Dialog as ChakraDialog, Portal } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Button } from "../form/Button";

/** A modal window; Escape, a press beside it and the button close it, and the focus goes back to where it was. */
export function Dialog({
  title,
  close,
  children,
  actions,
}: {
  title: string;
  close: () => void;
  children: ReactNode;
  actions?: ReactNode;
}) {
  return (
    <ChakraDialog.Root open onOpenChange={(details) => !details.open && close()} lazyMount unmountOnExit>
      <Portal>
        <ChakraDialog.Backdrop position="fixed" inset="0" bg="rgba(0, 0, 0, 0.6)" zIndex="10" />
        <ChakraDialog.Positioner
          position="fixed"
          inset="0"
          display="flex"
          alignItems="center"
          justifyContent="center"
          zIndex="11"
          overflow="auto"
        >
          <ChakraDialog.Content
            bg="panel"
            color="fg"
            borderWidth="1px"
            borderStyle="solid"
            borderColor="edge"
            borderRadius="4px"
            p="20px"
            minW="min(440px, 92vw)"
            maxW="92vw"
            maxH="94vh"
            overflowY="auto"
          >
            <ChakraDialog.Title fontSize="heading" fontWeight="650" mb="12px">
              {title}
            </ChakraDialog.Title>
            {children}
            <Box display="flex" gap="8px" justifyContent="flex-end" mt="16px">
              {actions}
              <Button onClick={close}>Close</Button>
            </Box>
          </ChakraDialog.Content>
        </ChakraDialog.Positioner>
      </Portal>
    </ChakraDialog.Root>
  );
}
