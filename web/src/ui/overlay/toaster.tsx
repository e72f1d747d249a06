import { Box, Toaster as ChakraToaster, createToaster, Toast } from "@chakra-ui/react";

/** Short notices at the foot of the screen: what was done, and failures that belong to no field. */
export const toaster = createToaster({
  placement: "bottom-end",
  pauseOnPageIdle: true,
  overlap: false,
  gap: 8,
  max: 4,
});

// A notice of the same topic replaces the one before it: ten undos are one line that changes.
export const tell = (text: string, topic?: string) => say(text, "info", 6000, topic);
export const complain = (text: string, topic?: string) => say(text, "error", 12_000, topic);

function say(description: string, type: "info" | "error", duration: number, topic: string | undefined) {
  if (topic !== undefined && toaster.isVisible(topic)) return toaster.update(topic, { description, type, duration });
  return toaster.create({ ...(topic !== undefined && { id: topic }), description, type, duration });
}

export function Toaster() {
  return (
    <ChakraToaster toaster={toaster}>
      {(toast) => (
        <Toast.Root
          bg="raised"
          color="fg"
          borderLeft="4px solid"
          borderColor={toast.type === "error" ? "rust" : "accent"}
          px="12px"
          py="8px"
          width="min(420px, 92vw)"
          fontSize="body"
          display="flex"
          gap="10px"
          alignItems="baseline"
        >
          <Toast.Description flex="1" overflowWrap="anywhere">
            {toast.type === "error" ? "▲ " : ""}
            {toast.description}
          </Toast.Description>
          <Box as="span">
            <Toast.CloseTrigger
              bg="transparent"
              border="0"
              minH="24px"
              minW="24px"
              cursor="pointer"
              textDecoration="underline"
              fontSize="small"
              position="static"
            >
              close
            </Toast.CloseTrigger>
          </Box>
        </Toast.Root>
      )}
    </ChakraToaster>
  );
}
