import { Box } from "@chakra-ui/react";
import { useSearchParams } from "react-router";
import { useTitle } from "../lib/focus/useTitle";
import { Tabs } from "../ui/layout/Tabs";
import { Charts } from "./Charts";
import { Entries } from "./Entries";
import { Lessons } from "./Lessons";
import { Practice } from "./Practice";

const VIEWS = [
  { value: "entries", label: "What was taken" },
  { value: "figures", label: "Results" },
  { value: "lessons", label: "Lessons" },
  { value: "practice", label: "Practice" },
] as const;

/** The log: what was taken, the result, and what it teaches the next plan. */
export default function Logbook() {
  useTitle("Logbook");
  const [search, setSearch] = useSearchParams();
  const view = VIEWS.find((item) => item.value === search.get("view"))?.value ?? "entries";
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="12px" display="flex" flexDirection="column">
      <Box as="h1" fontSize="title" fontWeight="700" mb="4px">
        Logbook
      </Box>
      <Tabs
        label="Views of the log"
        value={view}
        options={[...VIEWS]}
        choose={(value) => setSearch(value === "entries" ? {} : { view: value })}
      >
        {view === "entries" ? (
          <Entries />
        ) : view === "figures" ? (
          <Charts />
        ) : view === "lessons" ? (
          <Lessons />
        ) : (
          <Practice />
        )}
      </Tabs>
    </Box>
  );
}
