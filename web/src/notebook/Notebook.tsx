import { Box } from "@chakra-ui/react";
import { useInfiniteQuery } from "@tanstack/react-query";
import { Fragment, useEffect, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { OPTIONS } from "../api/facts";
import { type Listing, notebookQuery } from "../api/queries";
import { readsFrom } from "../api/session";
import { useSettled } from "../lib/drafts/useSettled";
import { useStoredValues } from "../lib/drafts/useStored";
import { useTitle } from "../lib/focus/useTitle";
import { Button } from "../ui/form/Button";
import { Choice, Input, Tick } from "../ui/form/Field";
import { Empty, FailedPage, Pending } from "../ui/layout/States";
import { UndoBar } from "../ui/overlay/UndoBar";
import { ShotEntry } from "./ShotEntry";

// So long after the last letter the notebook is searched.
const FIND_MS = 200;

/** Home: all shots by what comes next. */
export function Notebook() {
  const [wanted, setWanted] = useState("");
  const words = useSettled(wanted.trim(), FIND_MS);
  const [listing, list] = useStoredValues<Listing>("notebook:listing", {
    by: "next",
    archived: false,
    favourites: false,
  });
  const query = useInfiniteQuery(notebookQuery(words, listing));
  useTitle("Notebook");
  useEffect(() => readsFrom("/api/notebook"), []);
  const [search, setSearch] = useSearchParams();
  const find = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  useEffect(() => {
    if (search.has("find")) find.current?.focus();
    if (search.size) setSearch({}, { replace: true });
  }, [search, setSearch]);
  if (query.error) return <FailedPage error={query.error} retry={() => void query.refetch()} />;
  if (!query.data) return <Pending what="the notebook" />;
  const { pages } = query.data;
  const shots = pages.flatMap((page) => page.shots);
  const [first] = pages;
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="14px" maxW="1500px" mx="auto">
      <Box display="flex" gap="10px 14px" alignItems="center" flexWrap="wrap" mb="12px">
        <Box as="h1" fontSize="title" fontWeight="700" mr="6px">
          Notebook
        </Box>
        <Button look="main" onClick={() => void navigate("/new")}>
          New shot
        </Button>
        {first && <UndoBar undo={first.undo} scopes={["shots"]} />}
        <Box flex="1" />
        <Choice
          quiet
          label="In order of"
          value={listing.by}
          options={OPTIONS.NotebookOrder}
          choose={(by) => list({ by })}
        />
        <Tick label="favourites" checked={listing.favourites} change={(favourites) => list({ favourites })} />
        <Tick label="archived" checked={listing.archived} change={(archived) => list({ archived })} />
        <Input
          ref={find}
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
          maxLength={200}
          placeholder="find a shot or a place"
          aria-label="Find"
          width="230px"
          fontFamily="body"
        />
      </Box>
      {shots.length === 0 && !words && (listing.archived || listing.favourites) && (
        <Empty>
          {listing.archived
            ? "Nothing has been archived."
            : "No shot is a favourite yet: the star beside its name makes it one."}
        </Empty>
      )}
      {shots.length === 0 && !words && !listing.archived && !listing.favourites && (
        <Empty>
          The notebook is empty. Begin with a <Link to="/new">new shot</Link>: a kind of picture and a place make a
          whole plan.
        </Empty>
      )}
      {shots.length === 0 && words && <Empty>Nothing that is written about a shot has “{words}” in it.</Empty>}
      <Box as="ul" display="grid" gridTemplateColumns="repeat(auto-fill, minmax(min(100%, 400px), 1fr))" gap="0 28px">
        {shots.map((shot, at) => (
          <Fragment key={shot.id}>
            {listing.by !== "next" && shot.group !== shots[at - 1]?.group && (
              <Box
                as="li"
                gridColumn="1 / -1"
                pt="14px"
                fontSize="body"
                fontWeight="650"
                color="muted"
                data-group={shot.group}
              >
                {shot.group || (listing.by === "outing" ? "in no outing" : "no place")}
              </Box>
            )}
            <ShotEntry shot={shot} />
          </Fragment>
        ))}
      </Box>
      {query.hasNextPage && (
        <Box display="flex" gap="12px" alignItems="center" pt="14px">
          <Button onClick={() => void query.fetchNextPage()} disabled={query.isFetchingNextPage}>
            Show more
          </Button>
          <Box as="span" color="muted" fontSize="body">
            {shots.length} of {first?.total}
          </Box>
        </Box>
      )}
    </Box>
  );
}
