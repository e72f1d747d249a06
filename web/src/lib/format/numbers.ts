/** Numbers as text for a field: no more digits than anyone typed or could use, never a raw float. */
export function plain(value: number | null | undefined, decimals = 4): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return "";
  const rounded = Number(value.toFixed(decimals));
  // A value too small for its decimals keeps three figures instead of becoming nothing.
  if (rounded === 0 && value !== 0) return String(Number(value.toPrecision(3)));
  return String(rounded === 0 ? 0 : rounded);
}

/** A position to a tenth of a metre. */
export const coordinates = (latitude: number, longitude: number): string =>
  `${plain(latitude, 6)}, ${plain(longitude, 6)}`;

/** A share as the core writes it (core/units/spelling.py: percent): a narrow space, halves up, no minus before nothing. */
export function percent(share: number, decimals = 0): string {
  const written = (Math.abs(100 * share) + 1e-9).toFixed(decimals);
  return `${share < 0 && Number(written) ? "−" : ""}${written}\u202f%`;
}

/** A share in use: what is there but rounds to nothing is "under 1 %". */
export const percentInUse = (share: number): string => (share > 0 && share < 0.01 ? "under 1\u202f%" : percent(share));
