import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { solutionQuery } from "../../api/queries";
import { Pending } from "../../ui/layout/States";
import { Dialog } from "../../ui/overlay/Dialog";
import { tell } from "../../ui/overlay/toaster";
import { useAnswered } from "../useAnswered";
import type { ShotWork } from "../useShot";
import { Concessions, Plans } from "./Plans";
import { Wishes } from "./Wishes";

type Takes = Schemas["TakesOut"];

/** What is wished at the left, and at the right the plans that give it; where none does, what has to give way. */
export default function Solver({ close, ...work }: ShotWork & { close: () => void }) {
  const { shot, set } = work;
  const solution = useQuery(solutionQuery(shot.id, useAnswered(shot.id))).data;
  const take = ({ time_utc, ...takes }: Takes, letsGo: boolean) => {
    set({ ...takes, ...(time_utc ? { time_utc } : {}), ...(letsGo ? { frame_groups: [] } : {}) });
    tell("Taken. Undo brings back what was set before.", "shot");
    close();
  };
  return (
    <Dialog title="Find settings" close={close}>
      <Box
        width={{ base: "calc(92vw - 44px)", lg: "min(1180px, 88vw)" }}
        display="grid"
        gap="18px 26px"
        gridTemplateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 5fr) minmax(0, 9fr)" }}
        alignItems="start"
      >
        <Wishes {...work} solution={solution} />
        <Box minW="0" data-solution="">
          {!solution ? (
            <Pending what="settings" />
          ) : solution.lacking ? (
            <Box color="muted">{solution.lacking}</Box>
          ) : (
            <>
              {solution.plans.length > 0 ? (
                <Plans solution={solution} take={take} />
              ) : (
                <Concessions solution={solution} take={take} />
              )}
              <Box color="muted" fontSize="small" mt="12px">
                {solution.judged.toLocaleString("en").replace(",", " ")} plans were judged.
                {solution.if_darker && ` If the light is a stop less than predicted: ${solution.if_darker}.`}
                {solution.if_brighter && ` If it is a stop more: ${solution.if_brighter}.`}
              </Box>
            </>
          )}
        </Box>
      </Box>
    </Dialog>
  );
}
