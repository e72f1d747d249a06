import { useState } from "react";

/** A position as the device measures it. */
export interface Position {
  latitude_deg: number;
  longitude_deg: number;
  /** Where it lies with 95 % certainty, as the device says [m]. */
  within_m: number;
}

/** A position as a text that the server reads, to about a metre. */
export const coordinatesOf = ({ latitude_deg, longitude_deg }: Position): string =>
  `${latitude_deg.toFixed(5)}, ${longitude_deg.toFixed(5)}`;

const LONGEST_MS = 15_000;
const WHY: Record<number, string> = {
  1: "This browser may not tell the position: allow it in its settings, or type coordinates.",
  2: "The position cannot be found at the moment. Type coordinates.",
  3: "Finding the position took too long. Try again under the open sky, or type coordinates.",
};

/** The device's position, where the page may ask for it: on an encrypted address or on the device itself. */
export function usePosition(): { possible: boolean; busy: boolean; read: () => Promise<Position> } {
  const [busy, setBusy] = useState(false);
  const possible = globalThis.isSecureContext === true && "geolocation" in navigator;
  const read = () =>
    new Promise<Position>((resolve, reject) => {
      setBusy(true);
      navigator.geolocation.getCurrentPosition(
        ({ coords }) => {
          setBusy(false);
          resolve({ latitude_deg: coords.latitude, longitude_deg: coords.longitude, within_m: coords.accuracy });
        },
        ({ code }) => {
          setBusy(false);
          reject(new Error(WHY[code] ?? WHY[2]));
        },
        { enableHighAccuracy: true, timeout: LONGEST_MS, maximumAge: 0 },
      );
    });
  return { possible, busy, read };
}
