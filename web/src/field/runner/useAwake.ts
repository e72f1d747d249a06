import { useEffect, useState } from "react";

/** Keep the screen on while this is shown: by a wake lock, else by a film of one still picture, which screens stay on for too. False where neither can be had. */
export function useAwake(): boolean {
  const [awake, setAwake] = useState(true);
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    let film: HTMLVideoElement | undefined;
    let here = true;
    const stay = async () => {
      if (document.visibilityState !== "visible") return;
      try {
        lock = await navigator.wakeLock.request("screen");
        if (!here) void lock.release();
        setAwake(true);
      } catch {
        film ??= stillFilm();
        await film?.play().then(
          () => setAwake(true),
          () => setAwake(false),
        );
        if (!film) setAwake(false);
      }
    };
    void stay();
    const again = () => void stay();
    document.addEventListener("visibilitychange", again);
    // Where a film may play only once something was touched.
    document.addEventListener("pointerdown", again, { once: true });
    return () => {
      here = false;
      document.removeEventListener("visibilitychange", again);
      document.removeEventListener("pointerdown", again);
      void lock?.release().catch(() => undefined);
      film?.pause();
    };
  }, []);
  return awake;
}

function stillFilm(): HTMLVideoElement | undefined {
  const canvas = document.createElement("canvas");
  if (!("captureStream" in canvas)) return undefined;
  canvas.width = canvas.height = 2;
  canvas.getContext("2d")?.fillRect(0, 0, 2, 2);
  const film = document.createElement("video");
  film.muted = film.loop = film.playsInline = true;
  film.srcObject = canvas.captureStream(1);
  return film;
}
