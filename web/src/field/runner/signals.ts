import { readDraft } from "../../lib/drafts/drafts";
import { fitting, useStoredValues } from "../../lib/drafts/useStored";

/** Sound and vibration at the end of a countdown, and speech, as the photographer chose them on this device. */
export interface Signals {
  sound: boolean;
  vibration: boolean;
  /** Countdowns and what comes next are said aloud. */
  voice: boolean;
}

const KEPT_AS = "field signals";
const INITIAL: Signals = { sound: true, vibration: true, voice: false };

/** How a countdown tells its end on this device. */
export const useSignals = () => useStoredValues<Signals>(KEPT_AS, INITIAL);

export const signalsNow = (): Signals => ({ ...INITIAL, ...fitting(readDraft(KEPT_AS)?.text, INITIAL) });

let context: AudioContext | undefined;

/** Sound may begin only where something was touched: call this from the touch that starts a countdown. */
export function readySound(): void {
  try {
    context ??= new AudioContext();
    void context.resume();
  } catch {
    // A device without sound counts in silence.
  }
}

/** short: one of the spans is over; otherwise the whole. */
export function signal(said: Signals, short: boolean): void {
  // Before anything was touched a page may not vibrate, and says so aloud.
  if (said.vibration && navigator.userActivation?.hasBeenActive !== false)
    navigator.vibrate?.(short ? 80 : [200, 100, 200, 100, 400]);
  if (!said.sound || !context) return;
  const start = context.currentTime;
  for (let beep = 0; beep < (short ? 1 : 3); beep++) {
    const tone = context.createOscillator();
    const level = context.createGain();
    tone.frequency.value = short ? 660 : 880;
    level.gain.setValueAtTime(0.25, start + beep * 0.3);
    level.gain.exponentialRampToValueAtTime(0.001, start + beep * 0.3 + 0.22);
    tone.connect(level).connect(context.destination);
    tone.start(start + beep * 0.3);
    tone.stop(start + beep * 0.3 + 0.24);
  }
}
