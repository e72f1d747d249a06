import { useSyncExternalStore } from "react";
import type { Schemas } from "../../api/client";

type Spelling = Pick<Schemas["PhotographerOut"], "lengths" | "hours" | "day_order" | "dial_steps">;

const METRIC: Spelling = { lengths: "metres", hours: "24", day_order: "day_first", dial_steps: "thirds" };
const FOOT_M = 0.3048;
const INCH_M = 0.0254;
const MILE_M = 1609.344;
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const WEEKDAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];

let inForce: Spelling = stored();
const listeners = new Set<() => void>();

/** How this photographer reads figures. Sentences come spelled from the server; this is for what drawings write themselves. */
export function useSpelling(): Spelling {
  return useSyncExternalStore(
    (listen) => {
      listeners.add(listen);
      return () => listeners.delete(listen);
    },
    () => inForce,
  );
}

/** Write figures so from here on; this device remembers it for the first paint. */
export function spell({ lengths, hours, day_order, dial_steps }: Spelling): void {
  if (JSON.stringify({ lengths, hours, day_order, dial_steps }) === JSON.stringify(inForce)) return;
  inForce = { lengths, hours, day_order, dial_steps };
  try {
    localStorage.setItem("spelling", JSON.stringify(inForce));
  } catch {
    // Storage may be closed; the spelling then comes with the first answer.
  }
  for (const listen of listeners) listen();
}

function stored(): Spelling {
  try {
    const found: unknown = JSON.parse(localStorage.getItem("spelling") ?? "{}");
    const known = typeof found === "object" && found !== null ? (found as Record<string, unknown>) : {};
    const choice = <Name extends keyof Spelling>(name: Name, ...options: Spelling[Name][]) =>
      options.find((option) => option === known[name]) ?? METRIC[name];
    return {
      lengths: choice("lengths", "feet"),
      hours: choice("hours", "12"),
      day_order: choice("day_order", "month_first"),
      dial_steps: choice("dial_steps", "halves", "whole"),
    };
  } catch {
    return METRIC;
  }
}

const inFeet = () => inForce.lengths === "feet";

/** A length on a scale: "30 cm", "2 m", "1.5 km", or "12″", "7′ 10.5″", "41 ft", "0.7 mi"; the core's format_scale_length writes the same. */
export function lengthText(metres: number, centimetres = 0): string {
  const size = Math.abs(metres);
  const sign = metres < 0 ? "−" : "";
  if (!inFeet()) {
    if (size < 0.995) return `${sign}${tidy(size * 100, centimetres)} cm`;
    return size < 1000 ? `${sign}${tidy(size, 2)} m` : `${sign}${tidy(size / 1000, 1)} km`;
  }
  const inches = Math.round((size / INCH_M) * 2) / 2;
  if (inches < 36) return `${sign}${inches}″`;
  if (size < 30 * FOOT_M) return `${sign}${Math.floor(inches / 12)}′${inches % 12 ? ` ${inches % 12}″` : ""}`;
  return size < MILE_M / 2 ? `${sign}${tidy(size / FOOT_M, 0)} ft` : `${sign}${tidy(size / MILE_M, 1)} mi`;
}

const tidy = (value: number, decimals: number) => String(Number(value.toFixed(decimals)));

/** A round length of a scale in metres, or the same figure in inches, feet and miles. */
export function roundLength(metres: number): number {
  if (!inFeet()) return metres;
  return metres < 1 ? metres * 10 * INCH_M : metres < 1000 ? metres * FOOT_M : (metres / 1000) * MILE_M;
}

/** A height of either sign, in metres or feet. */
export function heightText(metres: number, decimals = 1): string {
  const text = (inFeet() ? metres / FOOT_M : metres).toFixed(decimals);
  return `${Number(text) === 0 ? text.replace("-", "") : text.replace("-", "−")} ${inFeet() ? "ft" : "m"}`;
}

/** A length as it is sent: a bare figure is one of the unit preferred. */
export const lengthSent = (text: string): string =>
  inFeet() && /^[-−+]?[\d.,]+$/.test(text.trim()) ? `${text.trim()} ft` : text;

/**
 * What a field that holds metres, as its name says (near_m), shows and sends where feet are preferred: a bare figure is one of feet, whether the
 * field shows a number with its unit behind it or a length as the trade writes it.
 */
export const metresField = (name: string, unit: string | undefined) =>
  name.endsWith("_m") && inFeet()
    ? {
        unit: unit === "m" ? "ft" : unit,
        shown: (text: string) =>
          unit === "m" && text.trim() && Number.isFinite(Number(text)) ? tidy(Number(text) / FOOT_M, 3) : text,
        sent: lengthSent,
      }
    : undefined;

/** The clock time of an instant where the zone is: "16:04" or "4:04 pm". */
export function clockIn(zone: string): (instant: Date) => string {
  const twelve = inForce.hours === "12";
  const format = new Intl.DateTimeFormat("en-GB", {
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
    timeZone: zone,
  });
  return (instant) => {
    const text = format.format(instant);
    const hour = Number(text.slice(0, 2));
    return twelve ? `${hour % 12 || 12}${text.slice(2)} ${hour < 12 ? "am" : "pm"}` : text;
  };
}

/** A full hour on a scale that may run over midnight: "16" or "4 pm". */
export function hourText(hour: number): string {
  const of = ((hour % 24) + 24) % 24;
  return inForce.hours === "12" ? `${of % 12 || 12} ${of < 12 ? "am" : "pm"}` : String(of).padStart(2, "0");
}

/** A date (2026-11-24) as it is read: "24 Nov 2026" or "Nov 24, 2026". */
export function dayText(iso: string, weekday = false): string {
  const [year = 0, month = 1, day = 1] = iso.split("-").map(Number);
  const name = WEEKDAYS[new Date(`${iso}T12:00:00Z`).getUTCDay()];
  const words = MONTHS[month - 1];
  return inForce.day_order === "day_first"
    ? `${weekday ? `${name} ` : ""}${day} ${words} ${year}`
    : `${weekday ? `${name}, ` : ""}${words} ${day}, ${year}`;
}

/** The date (2026-11-24) that a text of ours means; others are read by the server. */
export function readDay(text: string): string | undefined {
  const plain = text.trim();
  if (/^\d{4}-\d{2}-\d{2}$/.test(plain)) return plain;
  const first = /^(\d{1,2}) (\w{3}) (\d{4})$/.exec(plain);
  const second = /^(\w{3}) (\d{1,2}), (\d{4})$/.exec(plain);
  const [day, month, year] = first ? [first[1], first[2], first[3]] : second ? [second[2], second[1], second[3]] : [];
  const number = MONTHS.findIndex((name) => name.toLowerCase() === month?.toLowerCase()) + 1;
  return number && day && year ? `${year}-${String(number).padStart(2, "0")}-${day.padStart(2, "0")}` : undefined;
}

/** The day so many days later. */
export const dayLater = (iso: string, days: number): string =>
  new Date(Date.parse(`${iso}T12:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** So many of something: "1 frame", "3 frames". */
export function plural(count: number, word: string, many = `${word}s`): string {
  return `${count} ${count === 1 ? word : many}`;
}
