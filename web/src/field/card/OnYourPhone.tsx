import { Box } from "@chakra-ui/react";
import { lazy, Suspense, useState } from "react";
import { Button, ButtonLink } from "../../ui/form/Button";
import { Dialog } from "../../ui/overlay/Dialog";

const Code = lazy(() => import("../../ui/layout/Code").then((found) => ({ default: found.Code })));
const LOOPBACK = ["localhost", "127.0.0.1", "[::1]"];

/** The way of a card from the computer to the phone: a code where the phone can reach this server, else the file. */
export function OnYourPhone({ cardId }: { cardId: number }) {
  const [open, setOpen] = useState(false);
  const reached = !LOOPBACK.includes(window.location.hostname);
  const address = `${window.location.origin}/cards/${cardId}/run`;
  return (
    <>
      <Button onClick={() => setOpen(true)}>Open on your phone</Button>
      {open && (
        <Dialog title="On your phone" close={() => setOpen(false)}>
          <Box display="grid" gap="12px" maxW="440px">
            {reached ? (
              <>
                <Suspense fallback={null}>
                  <Code text={address} />
                </Suspense>
                <Box>
                  Photograph the code with the phone and sign in there. Opened once, the card works with no network.
                </Box>
                <Box fontFamily="mono" fontSize="small" overflowWrap="anywhere">
                  {address}
                </Box>
              </>
            ) : (
              <>
                <Box>
                  This notebook is served to this computer only. Send the card as one file, by mail, message or cable,
                  and open it in the phone’s browser: it works with no network.
                </Box>
                <Box>
                  <ButtonLink look="main" href={`/api/cards/${cardId}/take-along`} download>
                    Save the card as one file
                  </ButtonLink>
                </Box>
                <Box color="muted" fontSize="small">
                  To reach the notebook from the phone, start it with <code>./start --listen ADDRESS</code>: a code then
                  stands here instead.
                </Box>
              </>
            )}
          </Box>
        </Dialog>
      )}
    </>
  );
}
