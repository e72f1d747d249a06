/** The pages in the order of the bar. */
export const PAGES = [
  { to: "/now", label: "Now" },
  { to: "/", label: "Notebook" },
  { to: "/which-place", label: "Which place?" },
  { to: "/outings", label: "Outings" },
  { to: "/logbook", label: "Logbook" },
  { to: "/locations", label: "Locations" },
  { to: "/kit", label: "Kit" },
] as const;
