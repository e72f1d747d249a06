import {
  AddEquation,
  AlwaysStencilFunc,
  BufferAttribute,
  BufferGeometry,
  CustomBlending,
  type DataTexture,
  EqualStencilFunc,
  KeepStencilOp,
  Matrix4,
  Mesh,
  OneFactor,
  OneMinusSrcAlphaFactor,
  OrthographicCamera,
  type RawShaderMaterial,
  ReplaceStencilOp,
  Scene,
  Vector2,
  Vector3,
  Vector4,
  WebGLRenderer,
  type WebGLRenderTarget,
} from "three";
import { NEAREST } from "../drawing/projective";
import { Slices } from "./depthSlices";
import { line, meshMaterial, screenMaterial, set, target } from "./lightMaterials";
import { fan, flatMesh, Part, sunDisc } from "./lightMeshes";
import {
  type Corrections,
  correctionOf,
  type Inks,
  type Painter,
  type Response,
  type SceneData,
  type Sight,
  type View,
} from "./sceneData";
import { BLUR_FRAGMENT, COPY_FRAGMENT, SENSOR_FRAGMENT } from "./shaders";

// Blurred by less than this many pixels a thing is drawn as it is.
const LEAST_BLUR = 1.2;
// A blur is made in a picture so small that it is only so many of its pixels wide: that is as smooth, and a fraction of the work.
const LEAST_SIGMA = 2.5;
const SMALLEST = 16;
const REST_MS = 180;
const LONGEST_REST_MS = 1200;
// Where a picture under a hand takes longer, the next ones are drawn half as fine, until one of these is quick.
const SLOW_MS = 20;
const QUICK_MS = 4;
const SLOW_AT_REST_MS = 120;
const [SHADOW, WATER] = [1, 2];

/** Draws the scene's light with WebGL: once into a picture of linear light, which is then developed for the exposure. */
export class LightPainter implements Painter {
  private readonly renderer: WebGLRenderer;
  private readonly camera = new OrthographicCamera();
  private readonly stage = new Scene();
  private readonly screen: Mesh;
  private readonly material = meshMaterial();
  private readonly blurring = screenMaterial(BLUR_FRAGMENT, {
    from: { value: null },
    along: { value: new Vector2() },
    sigma: { value: 1 },
  });
  private readonly copying = screenMaterial(COPY_FRAGMENT, { from: { value: null } });
  private readonly developing = screenMaterial(SENSOR_FRAGMENT, {
    from: { value: null },
    response: { value: null },
    plate: { value: null },
    texel: { value: new Vector2() },
    reference: { value: 0 },
    brightest: { value: 0 },
    held: { value: 0 },
    toStops: { value: 1 },
    frame: { value: new Vector2(1, 1) },
    edge: { value: new Vector4() },
    table: { value: new Vector2(0, 1) },
    white: { value: new Vector3(1, 1, 1) },
    clippedInk: { value: new Vector3() },
    blockedInk: { value: new Vector3() },
    hatch: { value: 1 },
    corners: { value: 4 },
  });
  private light = target(1, 1);
  /** Pictures to blur in, by how many of the light's pixels go into one of theirs. */
  private readonly pairs = new Map<number, [WebGLRenderTarget, WebGLRenderTarget]>();
  private data: SceneData | null = null;
  private parts: Part[] = [];
  private shadows: Mesh[] = [];
  private sun: Mesh | null = null;
  private drawnFor = "";
  private changedAt = 0;
  private restMs = REST_MS;
  private slow = false;
  private rough = false;
  private developed = "";
  private again: ReturnType<typeof setTimeout> | undefined;
  private response: DataTexture | null = null;
  private plate: DataTexture | null = null;

  /** shown: told when a picture stands in the canvas. */
  constructor(
    canvas: OffscreenCanvas,
    private readonly shown: () => void,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: false, alpha: false, stencil: false });
    // Half floats as targets: without them there is no linear light to keep.
    if (
      !this.renderer.extensions.has("EXT_color_buffer_float") &&
      !this.renderer.extensions.has("EXT_color_buffer_half_float")
    ) {
      this.renderer.dispose();
      throw new Error("no float targets");
    }
    this.renderer.autoClear = false;
    this.renderer.sortObjects = false;
    this.copying.blending = CustomBlending;
    this.copying.blendEquation = AddEquation;
    this.copying.blendSrc = OneFactor;
    this.copying.blendDst = OneMinusSrcAlphaFactor;
    const whole = new BufferGeometry();
    whole.setAttribute("position", new BufferAttribute(new Float32Array([-1, -1, 0, 3, -1, 0, -1, 3, 0]), 3));
    this.screen = new Mesh(whole, this.copying);
    this.screen.frustumCulled = false;
  }

  scene(data: SceneData): void {
    this.forget();
    this.data = data;
    this.parts = data.layers.map((layer) => new Part(layer));
    this.shadows = data.shadows.filter((ring) => ring.length > 2).map((ring) => flatMesh(fan(ring)));
    this.sun = data.sun ? flatMesh(sunDisc(data.sun)) : null;
    if (this.drawnFor) this.drawnFor = "another scene";
  }

  draw(sight: Sight): void {
    const { view, response, inks, width, height, scale } = sight;
    if (!this.data || width < 2 || height < 2) return;
    const key = JSON.stringify([
      view.matrix,
      view.fit,
      [...view.shifts],
      [...view.blurs],
      view.behind,
      response.polariser,
      response.corrections,
    ]);
    // By what they say: what comes from the page is a copy each time.
    const developed = JSON.stringify([response, inks]);
    clearTimeout(this.again);
    const now = performance.now();
    // What has changed is drawn as fine as the screen or less, and twice as fine when it has rested.
    const first = this.drawnFor === "";
    const changed = key !== this.drawnFor;
    const resting = first || (!changed && now - this.changedAt > this.restMs - 20);
    if (changed && !first) {
      const since = now - this.changedAt;
      // Where drawing is slow a hand's moves lie far apart: a pause between two of them is no rest.
      this.restMs = Math.max(REST_MS, Math.min(LONGEST_REST_MS, 3 * Math.min(since, LONGEST_REST_MS / 3)));
      this.changedAt = now;
    }
    if (!resting) this.again = setTimeout(() => this.draw(sight), this.restMs);
    this.rough = !resting;
    const fine = (resting ? 2 : this.slow ? 0.5 : 1) * scale;
    const [w, h] = [Math.round(width * fine), Math.round(height * fine)];
    // Where drawing is slow, developing every pixel of the screen would take longest of all: as many as there are of the light, then.
    const shown = Math.min(fine, scale);
    const sized = this.size(width, height, shown, w, h);
    if (key !== this.drawnFor || sized) {
      this.correct(response.corrections);
      for (const part of this.parts) part.rough(this.rough && this.slow);
      this.gather(view, response.polariser, w, h);
      this.drawnFor = key;
    } else if (developed === this.developed) return;
    this.developed = developed;
    this.develop(view, response, inks, w, h, shown);
    this.learn(performance.now() - now, resting);
  }

  /** Tell from how long a picture took how fine the next one may be. With a graphics card it takes no time that is noticed here. */
  private learn(tookMs: number, resting: boolean) {
    if (resting) this.slow ||= tookMs > SLOW_AT_REST_MS;
    else this.slow = this.slow ? tookMs > QUICK_MS : tookMs > SLOW_MS;
  }

  end(): void {
    clearTimeout(this.again);
    this.forget();
    this.light.dispose();
    this.forgetPairs();
    for (const one of [this.material, this.blurring, this.copying, this.developing]) one.dispose();
    this.response?.dispose();
    this.plate?.dispose();
    this.renderer.dispose();
    // A browser has only so many contexts.
    this.renderer.forceContextLoss();
  }

  private correct(corrections: Corrections) {
    for (const part of this.parts)
      for (const mesh of [part.seen, part.shaded, part.mirrored])
        if (mesh) mesh.userData.lift = correctionOf(part.layer, corrections);
  }

  private forget() {
    for (const part of this.parts) part.dispose();
    for (const mesh of [...this.shadows, ...(this.sun ? [this.sun] : [])]) mesh.geometry.dispose();
  }

  private forgetPairs() {
    for (const pair of this.pairs.values()) for (const one of pair) one.dispose();
    this.pairs.clear();
  }

  private pair(reduced: number): [WebGLRenderTarget, WebGLRenderTarget] {
    const kept = this.pairs.get(reduced);
    if (kept) return kept;
    const [w, h] = [Math.ceil(this.light.width / reduced), Math.ceil(this.light.height / reduced)];
    const made: [WebGLRenderTarget, WebGLRenderTarget] = [target(w, h), target(w, h)];
    this.pairs.set(reduced, made);
    return made;
  }

  /** Whether anything had to be made again. */
  private size(width: number, height: number, scale: number, w: number, h: number): boolean {
    const drawn = this.renderer.getSize(new Vector2());
    if (drawn.x !== width || drawn.y !== height || this.renderer.getPixelRatio() !== scale) {
      this.renderer.setPixelRatio(scale);
      this.renderer.setSize(width, height, false);
    }
    if (this.light.width !== w || this.light.height !== h) {
      this.light.dispose();
      this.forgetPairs();
      this.light = target(w, h);
      return true;
    }
    return false;
  }

  /** Collect the scene's light: sky, land, ground with its shadows, water with its mirrors, then things from far to near. */
  private gather(view: View, polariser: boolean, w: number, h: number) {
    const data = this.data as SceneData;
    const clip = toClip(view, data.anchor);
    const things = this.parts.filter(({ layer }) => layer.kind === "thing");
    const slices = new Slices(things.length * (1 + data.mirrors.size));
    const { uniforms } = this.material;
    (uniforms.polarised as { value: number }).value = polariser ? 1 : 0;
    this.renderer.setRenderTarget(this.light);
    this.renderer.setClearColor(0x000000, 0);
    this.renderer.clear(true, true);
    const of = (kind: string) => this.parts.filter((part) => part.layer.kind === kind);
    this.outOfFocus(view.behind * w * view.fit, w, h, () => {
      for (const part of of("sky")) this.put(part.seen, clip);
      if (this.sun) this.put(this.sun, clip);
      for (const part of [...of("land"), ...of("ground")]) this.put(part.seen, clip);
      this.castShadows(of("ground"), clip);
    });
    for (const part of this.parts.filter(({ layer }) => layer.kind === "flat" || layer.kind === "water")) {
      this.element([part], view, clip, w, h, null);
      if (part.layer.elementId !== null && data.mirrors.has(part.layer.elementId))
        this.mirror(part, view, clip, data, slices);
    }
    for (const id of new Set(things.map((part) => part.layer.elementId)))
      this.element(
        things.filter((part) => part.layer.elementId === id),
        view,
        clip,
        w,
        h,
        slices,
      );
  }

  private castShadows(grounds: Part[], clip: Matrix4) {
    if (!this.shadows.length) return;
    this.stencil("write", SHADOW);
    for (const mesh of this.shadows) this.put(mesh, clip);
    this.stencil("within", SHADOW);
    for (const part of grounds) if (part.shaded) this.put(part.shaded, clip);
    this.stencil("off");
  }

  private mirror(water: Part, view: View, clip: Matrix4, data: SceneData, slices: Slices) {
    const level = (data.mirrorLevel as number) - (data.anchor[2] ?? 0);
    const flip = new Matrix4().makeScale(1, 1, -1).premultiply(new Matrix4().makeTranslation(0, 0, 2 * level));
    const mirrored = clip.clone().multiply(flip);
    this.stencil("write", WATER);
    this.put(water.seen, clip);
    this.stencil("within", WATER);
    for (const part of this.parts) {
      if (!part.mirrored) continue;
      const thing = part.layer.kind === "thing";
      const there = shifted(mirrored, view, part.layer.elementId);
      this.put(part.mirrored, thing ? slices.next([part], there) : there, thing);
    }
    this.stencil("off");
  }

  /** Draw an element's parts, out of focus where it is. */
  private element(parts: Part[], view: View, clip: Matrix4, w: number, h: number, slices: Slices | null) {
    const id = parts[0]?.layer.elementId ?? null;
    const pixels = (id === null ? 0 : (view.blurs.get(id) ?? 0)) * w * view.fit;
    const there = shifted(clip, view, id);
    const sliced = slices?.next(parts, there) ?? there;
    this.outOfFocus(pixels, w, h, () => {
      for (const part of parts) this.put(part.seen, sliced, slices !== null);
    });
  }

  /** Draw something into the light, blurred by so many pixels. */
  private outOfFocus(pixels: number, w: number, h: number, drawing: () => void) {
    if (pixels <= LEAST_BLUR * 2) {
      drawing();
      return;
    }
    // A disc of diameter d looks like a Gaussian of d/4.
    const sigma = Math.min(pixels / 4, w / 12);
    let reduced = 1;
    while (reduced < SMALLEST && sigma / (2 * reduced) >= LEAST_SIGMA) reduced *= 2;
    const [first, second] = this.pair(reduced);
    this.renderer.setRenderTarget(first);
    this.renderer.clear(true, true);
    drawing();
    this.blur(first, second, sigma / w, 0);
    this.blur(second, first, 0, sigma / h);
    this.renderer.setRenderTarget(this.light);
    set(this.copying, "from", first.texture);
    this.fill(this.copying);
  }

  private blur(from: WebGLRenderTarget, to: WebGLRenderTarget, x: number, y: number) {
    this.renderer.setRenderTarget(to);
    set(this.blurring, "from", from.texture);
    (this.blurring.uniforms.along as { value: Vector2 }).value.set(x, y);
    this.fill(this.blurring);
  }

  /** Turn the light into the picture that the sensor makes of it. */
  private develop(view: View, response: Response, inks: Inks, w: number, h: number, scale: number) {
    const data = this.data as SceneData;
    this.response = line(this.response, response.tones);
    const { graduated } = response;
    this.plate = line(this.plate, graduated?.stops ?? [0, 0]);
    set(this.developing, "from", this.light.texture);
    set(this.developing, "response", this.response);
    set(this.developing, "plate", this.plate);
    set(this.developing, "reference", data.referenceEv);
    set(this.developing, "brightest", response.brightestEv);
    set(this.developing, "held", response.brightestEv - response.darkestEv);
    set(this.developing, "toStops", response.toStops);
    set(this.developing, "texel", new Vector2(1 / w, 1 / h));
    set(this.developing, "frame", new Vector2(view.fit, view.fit));
    set(
      this.developing,
      "edge",
      graduated
        ? new Vector4(graduated.at, (graduated.tiltDeg * Math.PI) / 180, graduated.widthMm, graduated.heightMm)
        : new Vector4(0, 0, 0, 0),
    );
    set(
      this.developing,
      "table",
      graduated ? new Vector2(graduated.fromMm, graduated.stepMm * (graduated.stops.length - 1)) : new Vector2(0, 1),
    );
    set(this.developing, "white", new Vector3(...inks.white));
    set(this.developing, "clippedInk", new Vector3(...inks.clipped));
    set(this.developing, "blockedInk", new Vector3(...inks.blocked));
    set(this.developing, "hatch", scale);
    set(this.developing, "corners", this.rough ? 1 : 4);
    this.renderer.setRenderTarget(null);
    this.fill(this.developing);
    this.shown();
  }

  private put(mesh: Mesh, clip: Matrix4, deep = false) {
    const skin = mesh.userData as { grain?: number; stops?: number; lift?: number };
    set(this.material, "reference", (this.data?.referenceEv ?? 0) - (skin.lift ?? 0));
    set(this.material, "grain", skin.grain ?? 1);
    // Skin is for a picture at rest: it costs most.
    set(this.material, "grainStops", this.rough ? 0 : (skin.stops ?? 0));
    (this.material.uniforms.toClip as { value: Matrix4 }).value = clip;
    this.material.uniformsNeedUpdate = true;
    this.material.depthTest = deep;
    this.material.depthWrite = deep;
    mesh.material = this.material;
    this.show(mesh);
  }

  private fill(material: RawShaderMaterial) {
    this.screen.material = material;
    this.show(this.screen);
  }

  private show(mesh: Mesh) {
    this.stage.clear();
    this.stage.add(mesh);
    this.renderer.render(this.stage, this.camera);
  }

  /** Each purpose has a mark of its own, so that nothing has to be wiped between them. */
  private stencil(how: "off" | "write" | "within", mark = 0) {
    this.material.stencilWrite = how !== "off";
    this.material.colorWrite = how !== "write";
    this.material.stencilRef = mark;
    this.material.stencilFunc = how === "within" ? EqualStencilFunc : AlwaysStencilFunc;
    this.material.stencilZPass = how === "write" ? ReplaceStencilOp : KeepStencilOp;
  }
}

/** From metres around the anchor to the canvas. */
function toClip({ matrix, fit }: View, anchor: readonly number[]): Matrix4 {
  const [u = [], v = [], w = []] = matrix;
  const row = (of: (at: number) => number): [number, number, number, number] => {
    const [a, b, c, d] = [of(0), of(1), of(2), of(3)];
    return [a, b, c, d + a * (anchor[0] ?? 0) + b * (anchor[1] ?? 0) + c * (anchor[2] ?? 0)];
  };
  const one = (line: readonly number[], at: number) => line[at] ?? 0;
  const across = row((at) => fit * (2 * one(u, at) - one(w, at)));
  const upwards = row((at) => fit * (one(w, at) - 2 * one(v, at)));
  const depth = row((at) => one(w, at));
  return new Matrix4().set(...across, ...upwards, depth[0], depth[1], depth[2], depth[3] - 2 * NEAREST, ...depth);
}

function shifted(clip: Matrix4, { shifts }: View, id: number | null): Matrix4 {
  const shift = id === null ? undefined : shifts.get(id);
  return shift ? clip.clone().multiply(new Matrix4().makeTranslation(shift.east, shift.north, 0)) : clip;
}
