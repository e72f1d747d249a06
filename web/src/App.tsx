import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";
import { Notebook } from "./notebook/Notebook";
import { Empty, Pending } from "./parts/States";
import { ShotPage } from "./shot/ShotPage";
import { TopBar } from "./TopBar";

const Locations = lazy(() => import("./locations/Locations"));
const Kit = lazy(() => import("./kit/Kit"));
const CardPage = lazy(() => import("./field/CardPage"));

/** Addresses and what stands there. */
export function App() {
  return (
    <Suspense fallback={<Pending what="the page" />}>
      <Routes>
        <Route path="/cards/:cardId" element={<CardPage />} />
        <Route path="/shots/:shotId" element={<Navigate to="place" replace />} />
        <Route path="/shots/:shotId/:step" element={<ShotPage />} />
        <Route path="/" element={<Framed page={<Notebook />} />} />
        <Route path="/locations" element={<Framed page={<Locations />} />} />
        <Route path="/locations/:locationId" element={<Framed page={<Locations />} />} />
        <Route path="/kit" element={<Framed page={<Kit />} />} />
        <Route
          path="*"
          element={<Framed page={<Empty>There is no page at this address. The notebook is a good place to go on.</Empty>} />}
        />
      </Routes>
    </Suspense>
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
