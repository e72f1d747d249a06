import { Box } from "@chakra-ui/react";
import { lazy, Suspense } from "react";
import { Link, Navigate, Route, Routes, useLocation } from "react-router";
import { Door } from "./accounts/Door";
import { useShut } from "./accounts/entry";
import { usePulse } from "./api/usePulse";
import { useKeptFocus } from "./lib/focus/useKeptFocus";
import { useTitle } from "./lib/focus/useTitle";
import { useSpelling } from "./lib/format/spelling";
import { Notebook } from "./notebook/Notebook";
import { TopBar } from "./platform/TopBar";
import { OnlyRed } from "./theme/OnlyRed";
import { Button } from "./ui/form/Button";
import { ErrorBoundary } from "./ui/layout/ErrorBoundary";
import { Empty, Pending } from "./ui/layout/States";

const ShotPage = lazy(() => import("./shots/ShotPage").then((found) => ({ default: found.ShotPage })));
const NowPage = lazy(() => import("./now/NowPage"));
const NewShotPage = lazy(() => import("./newshot/NewShotPage"));
const Locations = lazy(() => import("./places/Locations"));
const WhichPlace = lazy(() => import("./notebook/outlook/WhichPlace"));
const Kit = lazy(() => import("./kit/Kit"));
const Outings = lazy(() => import("./outings/Outings"));
const OutingPage = lazy(() => import("./outings/OutingPage"));
const OutingCard = lazy(() => import("./outings/OutingCard"));
const Logbook = lazy(() => import("./log/Logbook"));
const EntryPage = lazy(() => import("./log/EntryPage"));
const CardPage = lazy(() => import("./field/card/CardPage"));
const SharedPage = lazy(() => import("./sharing/SharedPage"));
const Join = lazy(() => import("./accounts/Join"));
const Terms = lazy(() => import("./platform/Terms"));
const RunnerPage = lazy(() => import("./field/runner/RunnerPage"));

/** Addresses and what stands there. */
export function App() {
  const outside = ["/join", "/shared"].includes(useLocation().pathname);
  const { other, away } = usePulse(!outside);
  const [shut, open] = useShut();
  useKeptFocus();
  // What drawings write themselves is written again when it is to be spelled otherwise.
  useSpelling();
  return (
    <>
      <OnlyRed />
      <SkipLink />
      {other !== undefined && (
        <Box
          role="alert"
          bg="raised"
          color="rust"
          px="16px"
          py="6px"
          display="flex"
          gap="12px"
          alignItems="center"
          flexWrap="wrap"
        >
          {other}
          <Button onClick={() => window.location.assign("/")}>Open the notebook that is served now</Button>
        </Box>
      )}
      {shut && !outside && <Door open={open} />}
      {away && !shut && (
        <Box role="status" bg="raised" color="haze" px="16px" py="3px" fontSize="small">
          The server does not answer at the moment; what is shown may have grown old.
        </Box>
      )}
      <ErrorBoundary what="This page">
        <Suspense fallback={<Pending what="the page" />}>
          <Routes>
            <Route path="/cards/:cardId" element={<CardPage />} />
            <Route path="/cards/:cardId/run" element={<RunnerPage />} />
            <Route path="/shots/:shotId" element={<Navigate to="place" replace />} />
            <Route path="/shots/:shotId/:step" element={<ShotPage />} />
            <Route path="/" element={<Framed page={<Notebook />} />} />
            <Route path="/now" element={<Framed page={<NowPage />} />} />
            <Route path="/new" element={<Framed page={<NewShotPage />} />} />
            <Route path="/locations" element={<Framed page={<Locations />} />} />
            <Route path="/locations/:locationId" element={<Framed page={<Locations />} />} />
            <Route path="/which-place" element={<Framed page={<WhichPlace />} />} />
            <Route path="/outings" element={<Framed page={<Outings />} />} />
            <Route path="/outings/:outingId" element={<Framed page={<OutingPage />} />} />
            <Route path="/outings/:outingId/card" element={<OutingCard />} />
            <Route path="/logbook" element={<Framed page={<Logbook />} />} />
            <Route path="/logbook/:entryId" element={<Framed page={<EntryPage />} />} />
            <Route path="/kit" element={<Framed page={<Kit />} />} />
            <Route path="/terms" element={<Framed page={<Terms />} />} />
            <Route path="/join" element={<Join />} />
            <Route path="/shared" element={<SharedPage />} />
            <Route path="*" element={<Framed page={<Nowhere />} />} />
          </Routes>
        </Suspense>
      </ErrorBoundary>
    </>
  );
}

function Framed({ page }: { page: React.ReactNode }) {
  return (
    <>
      <TopBar />
      {page}
    </>
  );
}

function Nowhere() {
  useTitle("No such page");
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="14px">
      <Box as="h1" fontSize="title" fontWeight="700">
        No such page
      </Box>
      <Empty>
        There is no page at this address. <Link to="/">The notebook</Link> is a good place to go on.
      </Empty>
    </Box>
  );
}

/** The first thing the Tab key meets: past the head of the page. */
function SkipLink() {
  return (
    <Box
      as="a"
      {...{ href: "#main" }}
      position="absolute"
      left="8px"
      top="-60px"
      zIndex="20"
      bg="accent"
      color="onAccent"
      px="10px"
      py="6px"
      _focusVisible={{ top: "6px" }}
    >
      to the content
    </Box>
  );
}
