import { signalsNow } from "./signals";

/** Say something aloud by the device's own voice, where the photographer wants that; what was being said gives way. */
export function say(words: string): void {
  if (!signalsNow().voice || !("speechSynthesis" in window)) return;
  const said = new SpeechSynthesisUtterance(words);
  said.lang = "en";
  window.speechSynthesis.cancel();
  window.speechSynthesis.speak(said);
}

// Seconds left at which a span is said: early enough to be ready, and the last five one by one.
const SAID_AT_S = [600, 300, 120, 60, 30, 20, 10, 5, 4, 3, 2, 1];

/** What is said of a span when less than before is left of it [s]; empty where nothing is. */
export function countWords(beforeS: number, leftS: number): string {
  const passed = SAID_AT_S.find((seconds) => leftS <= seconds && beforeS > seconds && leftS > seconds - 1);
  if (passed === undefined) return "";
  if (passed >= 60) return passed === 60 ? "one minute" : `${passed / 60} minutes`;
  return passed > 5 ? `${passed} seconds` : String(passed);
}
