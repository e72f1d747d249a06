/** The tone of each kind of light, as a role of the themes: the darker the light, the darker it is drawn. */
export const BAND_ROLES: Record<string, string> = {
  night: "night",
  twilight: "night",
  blue_hour: "low",
  golden_hour: "low",
  daylight: "day",
};
