import { Box } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, type Schemas, take } from "../api/client";
import { GLOSSARY } from "../api/facts";
import { useSettled } from "../lib/drafts/useSettled";
import { lastShot } from "../shots/lastShot";
import { STEP_WORDS, STEPS } from "../shots/steps";
import { Input } from "../ui/form/Field";
import { Dialog } from "../ui/overlay/Dialog";
import { PAGES } from "./pages";

const RESTS_MS = 150;
const MOST_LOCAL = 5;

interface Hit {
  to: string;
  label: string;
  words: string;
  kind: string;
}

type Found = Schemas["FoundOut"];

const PLACE: Record<Found["kind"], (id: number) => string> = {
  shot: (id) => `/shots/${id}/place`,
  location: (id) => `/locations/${id}`,
  kit: () => "/kit",
  outing: (id) => `/outings/${id}`,
  entry: (id) => `/logbook/${id}`,
};
const KIND: Record<Found["kind"], string> = {
  shot: "shot",
  location: "location",
  kit: "kit",
  outing: "outing",
  entry: "logbook",
};

/** Everything that a few words find: shots, by their settings too, places, kit, outings, the log, pages and terms. */
export function Find({ close }: { close: () => void }) {
  const [words, setWords] = useState("");
  const asked = useSettled(words.trim(), RESTS_MS);
  const list = useRef<HTMLUListElement>(null);
  const navigate = useNavigate();
  const found = useQuery({
    queryKey: ["find", asked],
    queryFn: ({ signal }) => take(client.GET("/api/find", { params: { query: { words: asked } }, signal })),
    enabled: asked !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });
  const rows = asked ? (found.data?.found ?? []) : [];
  const hits: Hit[] = [
    ...rows.map((row) => ({ to: PLACE[row.kind](row.id), label: row.label, words: row.words, kind: KIND[row.kind] })),
    ...local(asked),
  ];
  const open = (to: string) => {
    close();
    void navigate(to);
  };
  const move = (event: KeyboardEvent<HTMLElement>) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const links = [...(list.current?.querySelectorAll("a") ?? [])];
    links[Math.min(links.length - 1, links.indexOf(document.activeElement as HTMLAnchorElement) + by)]?.focus();
  };
  return (
    <Dialog title="Find" close={close}>
      <Box width="min(620px, 84vw)" minH="320px" onKeyDown={move}>
        <Input
          value={words}
          autoFocus
          maxLength={200}
          aria-label="Words, or settings such as f/16"
          placeholder="a name, f/16, ten stops, Dec, fails"
          fontFamily="body"
          autoComplete="off"
          onChange={(event) => setWords(event.target.value)}
          onKeyDown={(event) => {
            const first = hits[0];
            if (event.key === "Enter" && first) open(first.to);
          }}
        />
        <Box as="ul" ref={list} mt="8px" aria-label="Found">
          {hits.map((hit) => (
            <Box as="li" key={`${hit.kind} ${hit.to} ${hit.label}`} borderBottom="1px solid" borderColor="line">
              <Link
                to={hit.to}
                onClick={close}
                style={{ display: "flex", gap: "10px", padding: "6px 2px", textDecoration: "none" }}
              >
                <Box as="span" flex="1" minW="0">
                  {hit.label}{" "}
                  <Box as="span" color="muted" fontSize="small">
                    {hit.words}
                  </Box>
                </Box>
                <Box as="span" color="muted" fontSize="small">
                  {hit.kind}
                </Box>
              </Link>
            </Box>
          ))}
        </Box>
        {asked && !hits.length && !found.isFetching && (
          <Box color="muted" role="status" pt="8px">
            {found.error ? found.error.message : `Nothing has “${asked}” in it.`}
          </Box>
        )}
      </Box>
    </Dialog>
  );
}

/** Pages, steps of the shot that was open last, and terms: they need no server. */
function local(words: string): Hit[] {
  if (!words) return [];
  const has = (text: string) => text.toLowerCase().includes(words.toLowerCase());
  const shot = lastShot();
  const steps = shot
    ? STEPS.filter((step) => has(STEP_WORDS[step])).map((step) => ({
        to: `/shots/${shot.id}/${step}`,
        label: STEP_WORDS[step],
        words: shot.name,
        kind: "step",
      }))
    : [];
  const pages = PAGES.filter((page) => has(page.label)).map((page) => ({
    to: page.to,
    label: page.label,
    words: "",
    kind: "page",
  }));
  const terms = Object.entries(GLOSSARY)
    .filter(([term]) => has(term))
    .slice(0, MOST_LOCAL)
    .map(([term, meaning]) => ({ to: "/terms", label: term, words: meaning, kind: "term" }));
  return [...pages, ...steps, ...terms];
}
