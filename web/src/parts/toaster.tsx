import { Box, Toaster as ChakraToaster, createToaster, Toast } from "@chakra-ui/react";

/** Short notices at the foot of the screen: what was done, and failures that belong to no field. */
export const toaster = createToaster({ placement: "bottom-end", pauseOnPageIdle: true, overlap: false, gap: 8, max: 4 });

export const tell = (text: string) => toaster.create({ description: text, type: "info", duration: 6000 });
export const complain = (text: string) => toaster.create({ description: text, type: "error", duration: 12_000 });

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
          fontSize="14px"
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
              fontSize="13px"
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
