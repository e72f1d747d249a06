/** The tone of each kind of light, as a role of the themes: the darker the light, the darker it is drawn. */
export const BAND_ROLES: Record<string, string> = {
  night: "night",
  twilight: "night",
  "blue hour": "low",
  "golden hour": "low",
  daylight: "day",
};
