import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { sessionQuery } from "../accounts/entry";
import { Button } from "../ui/form/Button";
import { ShareDialog, type Sharing } from "./ShareDialog";

/** Where others reach this server: what is to be shared, by a link. look: quiet among other quiet ones. */
export function ShareButton({ of, look }: { of: Sharing; look?: "quiet" }) {
  const session = useQuery(sessionQuery());
  const [open, setOpen] = useState(false);
  if (session.data?.access !== "accounts") return null;
  return (
    <>
      <Button look={look} onClick={() => setOpen(true)}>
        {look === "quiet" ? "share …" : "Share …"}
      </Button>
      {open && <ShareDialog of={of} close={() => setOpen(false)} />}
    </>
  );
}
