import { Box } from "@chakra-ui/react";
import { lazy, Suspense, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { Button } from "../parts/Button";
import { Failed, Pending } from "../parts/States";
import { Because } from "../ridge/Because";
import { RidgeLine } from "../ridge/RidgeLine";
import { TopBar } from "../TopBar";
import { ShotMenu } from "./ShotMenu";
import { STEPS, type StepName } from "./steps";
import { useShot } from "./useShot";
import { useShotKeys } from "./useShotKeys";

const PAGES = {
  place: lazy(() => import("../steps/place/PlacePage")),
  light: lazy(() => import("../steps/light/LightPage")),
  frame: lazy(() => import("../steps/frame/FramePage")),
  depth: lazy(() => import("../steps/depth/DepthPage")),
  exposure: lazy(() => import("../steps/exposure/ExposurePage")),
  sequence: lazy(() => import("../steps/sequence/SequencePage")),
  field: lazy(() => import("../steps/field/FieldPage")),
};

/** One shot: the ridge line above, a step below it, the reasons at the foot. */
export function ShotPage() {
  const { shotId, step: named } = useParams();
  const step: StepName = STEPS.find((name) => name === named) ?? "place";
  const id = Number(shotId);
  const work = useShot(id);
  const navigate = useNavigate();
  const [menu, setMenu] = useState(false);
  const shot = work.query.data;
  useShotKeys({ shot, set: work.set, asked: work.asked, undo: work.undo, redo: work.redo });
  const Page = PAGES[step];
  if (!shot)
    return (
      <>
        <TopBar />
        {work.query.error ? (
          <Failed error={work.query.error} retry={() => void work.query.refetch()} />
        ) : (
          <Pending what="the shot" />
        )}
      </>
    );
  const { undo_label, redo_label } = shot.undo;
  return (
    <Box display="flex" flexDirection="column" minH="100dvh" css={{ "@media (min-width: 960px)": { height: "100dvh" } }}>
      <TopBar>
        <Button
          look="quiet"
          onClick={() => setMenu(true)}
          fontWeight="650"
          minW="0"
          overflow="hidden"
          textOverflow="ellipsis"
          display="block"
        >
          {shot.facts.name}
        </Button>
        <Button look="quiet" disabled={!undo_label} onClick={() => void work.undo()} title={undo_label ?? "nothing to undo"}>
          undo
        </Button>
        <Button look="quiet" disabled={!redo_label} onClick={() => void work.redo()} title={redo_label ?? "nothing to redo"}>
          redo
        </Button>
      </TopBar>
      {work.away && (
        <Box role="alert" bg="raised" color="rust" px="16px" py="5px" fontSize="14px">
          {work.away}
        </Box>
      )}
      <RidgeLine verdicts={shot.plan.verdicts} current={step} go={(name) => void navigate(`/shots/${id}/${name}`)} />
      <Box as="main" flex="1" minH="0" px="16px" pt="10px" display="flex" flexDirection="column">
        <Suspense fallback={<Pending what="the step" />}>
          <Page shot={shot} change={work.change} set={work.set} asked={work.asked} errors={work.errors} />
        </Suspense>
      </Box>
      <Because reasons={shot.plan.because} step={step} go={(name) => void navigate(`/shots/${id}/${name}`)} />
      {menu && <ShotMenu shot={shot} change={work.change} close={() => setMenu(false)} />}
    </Box>
  );
}
