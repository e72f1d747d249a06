import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, type ReactNode, Suspense, useCallback, useEffect, useState } from "react";
import { NavLink, useNavigate } from "react-router";
import { client, take } from "../api/client";
import { photographerQuery } from "../api/queries";
import { isTyping } from "../lib/focus/isTyping";
import { spell } from "../lib/format/spelling";
import { applyTheme, storedTheme, THEMES, type Theme, unsavedTheme } from "../theme/themes";
import { Button } from "../ui/form/Button";
import { PickMenu } from "../ui/form/PickMenu";
import { PAGES } from "./pages";

const Preferences = lazy(() => import("./Preferences").then((found) => ({ default: found.Preferences })));
const KeysDialog = lazy(() => import("../shots/KeysDialog").then((found) => ({ default: found.KeysDialog })));
const Find = lazy(() => import("./Find").then((found) => ({ default: found.Find })));
const THEME_WORDS: Record<Theme, string> = { graphite: "Graphite", paper: "Paper", ember: "Ember" };

/** The name, the pages, and what belongs to the page at hand. */
export function TopBar({ children }: { children?: ReactNode }) {
  const [keys, setKeys] = useState(false);
  const [finding, setFinding] = useState(false);
  const [preferences, setPreferences] = useState(false);
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event) || document.querySelector("[role=dialog]") || event.ctrlKey || event.metaKey || event.altKey)
        return;
      if (event.key === "?") setKeys(true);
      const to = { n: "/new", h: "/now" }[event.key];
      if (to === undefined && event.key !== "/") return;
      event.preventDefault();
      if (to === undefined) setFinding(true);
      else void navigate(to);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [navigate]);
  return (
    <Box
      as="header"
      display="flex"
      alignItems="center"
      flexWrap="wrap"
      gap="4px 16px"
      px="16px"
      py={{ base: "5px", lg: "0" }}
      minH="44px"
      borderBottom="1px solid"
      borderColor="line"
      css={{ "@media print": { display: "none" } }}
    >
      <Box display="flex" alignItems="center" gap="8px" fontWeight="700" fontSize="lead">
        <svg width="22" height="16" viewBox="0 0 22 16" aria-hidden="true">
          <path
            d="M1 15 L6 7 L9 11 L14 2 L21 15"
            fill="none"
            stroke="var(--lr-colors-accent)"
            strokeWidth="2"
            strokeLinejoin="round"
          />
        </svg>
        <Box as="span" display={{ base: "none", lg: "inline" }}>
          Lucid Ridge
        </Box>
      </Box>
      <Box
        as="nav"
        aria-label="Pages"
        display="flex"
        // On a phone one row that is pushed along.
        flexWrap={{ base: "nowrap", lg: "wrap" }}
        overflowX={{ base: "auto", lg: "visible" }}
        flex={{ base: "1 1 0", lg: "0 1 auto" }}
        minW="0"
        gap="0 14px"
        whiteSpace="nowrap"
        css={{ scrollbarWidth: "none" }}
      >
        {PAGES.map((page) => (
          <NavLink
            key={page.to}
            to={page.to}
            end={page.to === "/"}
            style={({ isActive }) => ({
              display: "inline-flex",
              alignItems: "center",
              flexShrink: 0,
              textDecoration: isActive ? "underline" : "none",
              textUnderlineOffset: "6px",
              textDecorationThickness: "2px",
              textDecorationColor: "var(--lr-colors-accent)",
            })}
          >
            {page.label}
          </NavLink>
        ))}
      </Box>
      <Box
        flex={{ base: "1 0 100%", lg: "1" }}
        display={{ base: children ? "flex" : "none", lg: "flex" }}
        order={{ base: 1, lg: 0 }}
        minW="0"
        alignItems="center"
        gap="10px"
      >
        {children}
      </Box>
      <Button look="quiet" onClick={() => setFinding(true)} aria-label="Find anything">
        Find
      </Button>
      <BarMenu preferences={() => setPreferences(true)} keys={() => setKeys(true)} />
      <Suspense fallback={null}>{preferences && <Preferences close={() => setPreferences(false)} />}</Suspense>
      <Suspense fallback={null}>{finding && <Find close={() => setFinding(false)} />}</Suspense>
      <Suspense fallback={null}>{keys && <KeysDialog close={() => setKeys(false)} />}</Suspense>
    </Box>
  );
}

/** Themes and what belongs to no page, behind one button. */
function BarMenu({ preferences, keys }: { preferences: () => void; keys: () => void }) {
  const { theme, choose } = useChosenTheme();
  const navigate = useNavigate();
  const options = [
    ...THEMES.map((name) => ({ value: name, label: `${name === theme ? "●" : "○"} ${THEME_WORDS[name]}` })),
    { value: "preferences", label: "Preferences" },
    { value: "keys", label: "Keys" },
    { value: "terms", label: "Terms explained" },
  ];
  return (
    <PickMenu
      label="Menu"
      options={options}
      pick={(picked) => {
        const named = THEMES.find((name) => name === picked);
        if (named) void choose(named);
        else if (picked === "preferences") preferences();
        else if (picked === "keys") keys();
        else void navigate("/terms");
      }}
    />
  );
}

/** The theme in force, the one kept with the photographer; the latest choice counts, wherever it was made. */
function useChosenTheme(): { theme: Theme; choose: (wanted: Theme) => Promise<void> } {
  const queries = useQueryClient();
  const photographer = useQuery(photographerQuery());
  const [theme, setTheme] = useState<Theme>(storedTheme);
  const saved = photographer.data?.theme;
  useEffect(() => {
    if (photographer.data) spell(photographer.data);
  }, [photographer.data]);
  const choose = useCallback(
    async (wanted: Theme) => {
      setTheme(wanted);
      applyTheme(wanted);
      const answer = await take(client.PATCH("/api/photographer", { body: { theme: wanted } })).catch(() => undefined);
      if (answer) queries.setQueryData(photographerQuery().queryKey, answer);
      else applyTheme(wanted, true);
    },
    [queries],
  );
  useEffect(() => {
    if (!saved) return;
    // Chosen in the runner: the latest choice counts.
    const chosen = unsavedTheme();
    if (chosen && chosen !== saved) {
      void choose(chosen);
      return;
    }
    setTheme(saved);
    applyTheme(saved);
  }, [saved, choose]);
  return { theme, choose };
}
