import {
  ClampToEdgeWrapping,
  DataTexture,
  DoubleSide,
  FloatType,
  GLSL3,
  HalfFloatType,
  LinearFilter,
  Matrix4,
  NearestFilter,
  NoBlending,
  RawShaderMaterial,
  RedFormat,
  WebGLRenderTarget,
} from "three";
import { MESH_FRAGMENT, MESH_VERTEX, SCREEN_VERTEX } from "./shaders";

export function meshMaterial(): RawShaderMaterial {
  return new RawShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: MESH_VERTEX,
    fragmentShader: MESH_FRAGMENT,
    side: DoubleSide,
    blending: NoBlending,
    uniforms: {
      toClip: { value: new Matrix4() },
      reference: { value: 0 },
      polarised: { value: 0 },
      grain: { value: 1 },
      grainStops: { value: 0 },
    },
  });
}

export function screenMaterial(
  fragmentShader: string,
  uniforms: Record<string, { value: unknown }>,
): RawShaderMaterial {
  return new RawShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: SCREEN_VERTEX,
    fragmentShader,
    depthTest: false,
    depthWrite: false,
    blending: NoBlending,
    uniforms,
  });
}

export function set(material: RawShaderMaterial, name: string, value: unknown) {
  const uniform = material.uniforms[name];
  if (uniform) uniform.value = value;
}

/** A picture of linear light, read between its points. */
export function target(w: number, h: number): WebGLRenderTarget {
  return new WebGLRenderTarget(w, h, {
    type: HalfFloatType,
    depthBuffer: true,
    stencilBuffer: true,
    minFilter: LinearFilter,
    magFilter: LinearFilter,
  });
}

/** A row of numbers as a texture, kept while they stay the same. */
export function line(kept: DataTexture | null, values: readonly number[]): DataTexture {
  const old = kept?.image.data as Float32Array | undefined;
  if (kept && old?.length === values.length && values.every((value, at) => Math.fround(value) === old[at])) return kept;
  kept?.dispose();
  const made = new DataTexture(new Float32Array(values), values.length, 1, RedFormat, FloatType);
  made.minFilter = made.magFilter = NearestFilter;
  made.wrapS = made.wrapT = ClampToEdgeWrapping;
  made.needsUpdate = true;
  return made;
}
