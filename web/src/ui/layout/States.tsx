import { Box, Skeleton } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Button } from "../form/Button";

/** While something is on its way: its place is kept, and said what it is. */
export function Pending({ what }: { what: string }) {
  return (
    <Box p="24px" color="muted" role="status" display="grid" gap="10px" maxW="520px">
      Fetching {what} …
      <Skeleton height="14px" bg="raised" borderRadius="2px" />
      <Skeleton height="14px" width="70%" bg="raised" borderRadius="2px" />
    </Box>
  );
}

/** When something could not be had: what, and what to do. */
export function Failed({ error, retry }: { error: Error; retry?: () => void }) {
  return (
    <Box p="24px" role="alert" display="grid" gap="10px" justifyItems="start">
      <Box color="rust">{error.message}</Box>
      {retry && <Button onClick={retry}>Try again</Button>}
    </Box>
  );
}

/** The same where nothing else stands on the page. */
export function FailedPage({ error, retry }: { error: Error; retry: () => void }) {
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="14px">
      <Box as="h1" fontSize="title" fontWeight="700">
        Not here
      </Box>
      <Failed error={error} retry={retry} />
    </Box>
  );
}

/** A screen with nothing on it yet says what to do first. */
export function Empty({ children }: { children: ReactNode }) {
  return (
    <Box p="24px" color="muted" maxW="46ch">
      {children}
    </Box>
  );
}
