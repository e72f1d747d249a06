import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, take } from "../api/client";
import { outingsQuery } from "../api/queries";
import { useAct } from "../lib/drafts/useAct";
import { useTitle } from "../lib/focus/useTitle";
import { dayText } from "../lib/format/spelling";
import { Button } from "../ui/form/Button";
import { NewForm } from "../ui/form/NewForm";
import { Empty, FailedPage, Pending } from "../ui/layout/States";
import { UndoBar } from "../ui/overlay/UndoBar";

/** All outings, the latest first. */
export default function Outings() {
  useTitle("Outings");
  const query = useQuery(outingsQuery());
  const [adding, setAdding] = useState(false);
  const navigate = useNavigate();
  const add = useAct(
    (values: Record<string, string>) =>
      take(client.POST("/api/outings", { body: values as { name: string; date_local: string } })),
    { quiet: true, only: ["outings"] },
  );
  if (query.error) return <FailedPage error={query.error} retry={() => void query.refetch()} />;
  if (!query.data) return <Pending what="the outings" />;
  const { outings, undo } = query.data;
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="14px" maxW="900px">
      <Box display="flex" alignItems="baseline" gap="14px" mb="10px">
        <Box as="h1" fontSize="title" fontWeight="700" flex="1">
          Outings
        </Box>
        <UndoBar undo={undo} scopes={["outings"]} />
        <Button look="main" onClick={() => setAdding(true)}>
          New outing
        </Button>
      </Box>
      {adding && (
        <Box bg="panel" p="14px" mb="14px">
          <NewForm
            name="outing"
            label="Make it"
            fields={[
              { name: "name", label: "Name", placeholder: "Dawn at the estuary" },
              { name: "date_local", label: "Date", placeholder: dayText("2026-11-24") },
              { name: "contact", label: "Word left with" },
            ]}
            submit={async (values) => {
              const made = await add.mutateAsync(values);
              void navigate(`/outings/${made.id}`);
            }}
            cancel={() => setAdding(false)}
          />
        </Box>
      )}
      {outings.length === 0 && !adding && (
        <Empty>An outing puts several shots in order on a day: which first, when to leave, what to pack.</Empty>
      )}
      <Box as="ul" display="grid" data-outings="">
        {outings.map((outing) => (
          <Box as="li" key={outing.id} py="10px" borderTop="1px solid" borderColor="line">
            <Box display="flex" gap="14px" alignItems="baseline" flexWrap="wrap">
              <Box fontSize="heading" fontWeight="650">
                <Link to={`/outings/${outing.id}`}>{outing.name}</Link>
              </Box>
              <Box color="muted">
                {dayText(outing.date_local, true)}
                {outing.days > 1 && `, ${outing.days} days`}
              </Box>
            </Box>
            <Box color="muted" fontSize="body">
              {outing.stops.join(", ") || "no stops yet"}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
