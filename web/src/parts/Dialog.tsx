import { Box, chakra } from "@chakra-ui/react";
import { type ReactNode, useEffect, useRef } from "react";
import { Button } from "./Button";

/** A modal window; Escape and the button close it. */
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
  const element = useRef<HTMLDialogElement>(null);
  useEffect(() => element.current?.showModal(), []);
  return (
    <chakra.dialog
      ref={element}
      onClose={close}
      aria-label={title}
      bg="panel"
      color="fg"
      borderWidth="1px"
      borderStyle="solid"
      borderColor="edge"
      borderRadius="4px"
      p="20px"
      minW="min(440px, 92vw)"
      maxW="92vw"
      css={{ "&::backdrop": { background: "rgba(0, 0, 0, 0.6)" } }}
    >
      <Box as="h2" fontSize="19px" fontWeight="650" mb="12px">
        {title}
      </Box>
      {children}
      <Box display="flex" gap="8px" justifyContent="flex-end" mt="16px">
        {actions}
        <Button onClick={() => element.current?.close()}>Close</Button>
      </Box>
    </chakra.dialog>
  );
}
