import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { inkParts, useTheme } from "../theme/useTheme";
import { DistantPainter } from "./distantPainter";
import type { Inks, Painter, Response, View } from "./sceneData";
import type { Toned } from "./useTones";

interface TonalCanvasProps {
  toned: Toned;
  view: View;
  response: Response;
  /** Where it stands, in CSS pixels. */
  left: number;
  top: number;
  width: number;
  height: number;
}

/** The scene as the sensor holds it. What the exposure and the filters do to it is looked up here, so that it follows a hand at once. */
export function TonalCanvas({ toned, view, response, left, top, width, height }: TonalCanvasProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [painter, setPainter] = useState<{ made: Painter; way: string } | null>(null);
  const theme = useTheme();
  const { data, scene } = toned;
  useEffect(() => {
    let made: Painter | null = null;
    let gone = false;
    void paintWith(canvas).then((found) => {
      if (gone || !found) {
        found?.made.end();
        return;
      }
      made = found.made;
      setPainter(found);
    });
    return () => {
      gone = true;
      made?.end();
    };
  }, []);
  useLayoutEffect(() => painter?.made.scene(data), [painter, data]);
  // Under a hand things change with every picture of the screen: what is drawn next is always the latest, and none is put off.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the theme stands in the page's variables
  const inks = useMemo(themeInks, [theme]);
  const latest = useRef({ view, response, inks, width, height });
  latest.current = { view, response, inks, width, height };
  const pending = useRef(0);
  useEffect(() => () => cancelAnimationFrame(pending.current), []);
  // Asked for as soon as the page knows: an effect that waits until it is painted would often miss the next picture of the screen.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the data stand in the painter, the theme in the page's variables
  useLayoutEffect(() => {
    if (!painter || pending.current) return;
    pending.current = requestAnimationFrame(() => {
      pending.current = 0;
      painter.made.draw({ ...latest.current, scale: Math.min(2, window.devicePixelRatio || 1) });
    });
  }, [painter, data, view, response, width, height, theme]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="The picture in tones"
      data-tones={painter?.way ?? ""}
      data-mirrors={scene.mirrors.length}
      data-shadows={scene.shadows.length}
      style={{ position: "absolute", left, top, width, height, pointerEvents: "none" }}
    />
  );
}

/** With WebGL where there is some, else face by face. A canvas gives only one kind of context: the one that draws is the first to ask for it. */
async function paintWith(
  canvas: React.RefObject<HTMLCanvasElement | null>,
): Promise<{ made: Painter; way: string } | null> {
  const shown = () => {
    const { dataset } = canvas.current ?? {};
    if (dataset) dataset.drawn = String(Number(dataset.drawn ?? 0) + 1);
  };
  const able = document.createElement("canvas").getContext("webgl2");
  able?.getExtension("WEBGL_lose_context")?.loseContext();
  const light = able && canvas.current ? await DistantPainter.begin(canvas.current, shown) : null;
  if (light) return { made: light, way: "light" };
  const { PlainPainter } = await import("./plainPainter");
  return canvas.current ? { made: new PlainPainter(canvas.current, shown), way: "plain" } : null;
}

const themeInks = (): Inks => ({ clipped: inkParts("rust"), blocked: inkParts("haze"), white: inkParts("tonal") });
