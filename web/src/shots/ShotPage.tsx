import { Box, VisuallyHidden } from "@chakra-ui/react";
import { lazy, memo, Suspense, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useLocation, useNavigate, useParams } from "react-router";
import type { Schemas } from "../api/client";
import { useSettled } from "../lib/drafts/useSettled";
import { useTitle } from "../lib/focus/useTitle";
import { TopBar } from "../platform/TopBar";
import { Button } from "../ui/form/Button";
import { ErrorBoundary } from "../ui/layout/ErrorBoundary";
import { markWords } from "../ui/layout/Mark";
import { FailedPage, Pending } from "../ui/layout/States";
import { Tip } from "../ui/overlay/Tip";
import { openedShot } from "./lastShot";
import { Notices } from "./Notices";
import { Because } from "./ridge/Because";
import { RidgeLine } from "./ridge/RidgeLine";
import { ShotMenu } from "./ShotMenu";
import { STEP_WORDS, STEPS, type StepName } from "./steps";
import { type ShotWork, useShot } from "./useShot";
import { useShotKeys } from "./useShotKeys";
import { ShotContext } from "./work";

const Solver = lazy(() => import("./solver/Solver"));
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
  const found = useShot(id);
  const { shot, state, queue, change, set, asked, undo, redo } = found;
  const navigate = useNavigate();
  const location = useLocation();
  const [menu, setMenu] = useState(false);
  const [solving, setSolving] = useState(false);
  const solve = useCallback(() => setSolving(true), []);
  const openMenu = useCallback(() => setMenu(true), []);
  useShotKeys({ shot, set, asked, idle: queue.idle, undo, redo, solve });
  useTitle(shot?.facts.name, STEP_WORDS[step]);
  const called = shot?.facts.name;
  useEffect(() => {
    if (called !== undefined) openedShot(id, called);
  }, [id, called]);
  const main = useRef<HTMLElement>(null);
  const asks = (location.state as { focus?: string } | null)?.focus === "step";
  // biome-ignore lint/correctness/useExhaustiveDependencies: a step chosen by key takes the focus along
  useEffect(() => {
    if (asks) main.current?.focus();
  }, [step, asks]);
  const work = useMemo<ShotWork | null>(
    () => (shot ? { shot, change, set, asked, errors: state.errors, forgive: queue.forgive } : null),
    [shot, change, set, asked, state.errors, queue],
  );
  const Page = PAGES[step];
  const go = useCallback(
    (name: StepName, panel?: string) => void navigate(`/shots/${id}/${name}${panel ? `?panel=${panel}` : ""}`),
    [navigate, id],
  );
  // An edit under way changes none of this: only an answer does.
  const ridge = useMemo(
    () => shot && <RidgeLine verdicts={shot.plan.verdicts} current={step} go={go} />,
    [shot, step, go],
  );
  const page = useMemo(() => work && <Page {...work} />, [Page, work]);
  const because = useMemo(() => shot && <Because reasons={shot.plan.because} step={step} go={go} />, [shot, step, go]);
  if (!shot || !work)
    return (
      <>
        <TopBar />
        {found.query.error ? (
          <FailedPage error={found.query.error} retry={() => void found.query.refetch()} />
        ) : (
          <Pending what="the shot" />
        )}
      </>
    );
  return (
    <ShotContext.Provider value={work}>
      <Box
        display="flex"
        flexDirection="column"
        minH="100dvh"
        css={{ "@media (min-width: 960px)": { height: "100dvh" } }}
      >
        <Head name={shot.facts.name} undone={shot.undo} undo={undo} redo={redo} solve={solve} open={openMenu} />
        <Notices shot={shot} state={state} queue={queue} />
        {ridge}
        <Spoken verdict={shot.plan.verdicts.find((verdict) => verdict.step === step)} />
        <Box
          as="main"
          id="main"
          ref={main}
          tabIndex={-1}
          aria-label={STEP_WORDS[step]}
          flex="1"
          minH="0"
          px="16px"
          pt="10px"
          display="flex"
          flexDirection="column"
          outline="none"
        >
          <ErrorBoundary key={step} what={`The step ${STEP_WORDS[step]}`}>
            <Suspense fallback={<Pending what="the step" />}>{page}</Suspense>
          </ErrorBoundary>
        </Box>
        {because}
        {solving && (
          <Suspense fallback={null}>
            <Solver {...work} close={() => setSolving(false)} />
          </Suspense>
        )}
        {menu && <ShotMenu shot={shot} close={() => setMenu(false)} />}
      </Box>
    </ShotContext.Provider>
  );
}

/** The bar above: an edit under way changes nothing of it. */
const Head = memo(function Head({
  name,
  undone,
  undo,
  redo,
  solve,
  open,
}: {
  name: string;
  undone: Schemas["UndoOut"];
  undo: () => Promise<void>;
  redo: () => Promise<void>;
  solve: () => void;
  open: () => void;
}) {
  return (
    <TopBar>
      <Box as="h1" minW="0" fontSize="body" fontWeight="650">
        <Button
          look="quiet"
          onClick={open}
          fontWeight="650"
          maxW="100%"
          overflow="hidden"
          textOverflow="ellipsis"
          display="block"
          title="Name, intent, deleting"
        >
          {name}
        </Button>
      </Box>
      <Turn word="undo" label={undone.undo_label} turn={undo} />
      <Turn word="redo" label={undone.redo_label} turn={redo} />
      <Button look="quiet" onClick={solve} title="What would give all that is wished (s)">
        solve
      </Button>
    </TopBar>
  );
});

/** Undo or redo: one word to see, and the edit that it names beside it and in its name. */
function Turn({ word, label, turn }: { word: "undo" | "redo"; label: string | null; turn: () => Promise<void> }) {
  return (
    <Tip words={label ?? `nothing to ${word}`}>
      <Button look="quiet" disabled={!label} onClick={() => void turn()}>
        {word}
        {label && <VisuallyHidden>: {label}</VisuallyHidden>}
      </Button>
    </Tip>
  );
}

/** A verdict that changes is said once, politely, when the hand rests. */
function Spoken({ verdict }: { verdict: Schemas["VerdictOut"] | undefined }) {
  const words = verdict ? `${STEP_WORDS[verdict.step]}: ${markWords(verdict.mark)}, ${verdict.text}` : "";
  const settled = useSettled(words, 700);
  return (
    <Box
      role="status"
      aria-live="polite"
      position="absolute"
      width="1px"
      height="1px"
      overflow="hidden"
      clipPath="inset(50%)"
    >
      {settled}
    </Box>
  );
}
