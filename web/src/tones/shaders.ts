/** A mesh in light: its EV from point to point, as linear light around the scene's middle. */
export const MESH_VERTEX = `
in vec3 position;
in float ev;
in float polariser;
uniform mat4 toClip;
uniform float reference;
uniform float polarised;
out float stops;
out vec3 place;
void main() {
  place = position;
  gl_Position = toClip * vec4(position, 1.0);
  stops = ev + polarised * polariser - reference;
}`;

export const MESH_FRAGMENT = `
precision highp float;
precision highp int;
in float stops;
in vec3 place;
uniform float grain;
uniform float grainStops;
out vec4 light;
float chance(vec3 p) {
  p = fract(p * vec3(0.1031, 0.1030, 0.0973));
  p += dot(p, p.yxz + 33.33);
  return fract((p.x + p.y) * p.z);
}
float bumps(vec3 p) {
  vec3 cell = floor(p);
  vec3 part = fract(p);
  part = part * part * (3.0 - 2.0 * part);
  float sum = 0.0;
  for (int corner = 0; corner < 8; corner += 1) {
    vec3 at = vec3(corner & 1, (corner >> 1) & 1, corner >> 2);
    vec3 share = mix(1.0 - part, part, at);
    sum += chance(cell + at) * share.x * share.y * share.z;
  }
  return 2.0 * sum - 1.0;
}
void main() {
  float skin = 0.0;
  if (grainStops > 0.0) {
    vec3 p = place / grain;
    float pixel = length(fwidth(p));
    float weight = 0.5;
    // Bumps that are finer than a pixel melt into their mean: from there on nothing comes.
    for (int octave = 0; octave < 5 && pixel < 0.75; octave += 1) {
      skin += weight * bumps(p) * (1.0 - smoothstep(0.25, 0.75, pixel));
      p = p * 2.03 + 17.0;
      pixel *= 2.03;
      weight *= 0.62;
    }
  }
  light = vec4(exp2(clamp(stops + grainStops * 1.4 * skin, -14.0, 14.0)), 0.0, 0.0, 1.0);
}`;

export const SCREEN_VERTEX = `
in vec3 position;
out vec2 at;
void main() {
  at = position.xy * 0.5 + 0.5;
  gl_Position = vec4(position.xy, 0.0, 1.0);
}`;

/** Blur along one direction: light and cover together, as a lens would. */
export const BLUR_FRAGMENT = `
precision highp float;
in vec2 at;
out vec4 light;
uniform sampler2D from;
uniform vec2 along;
uniform float sigma;
void main() {
  vec4 sum = vec4(0.0);
  float whole = 0.0;
  for (int step = -6; step <= 6; step += 1) {
    float far = float(step) / 6.0 * 2.4;
    float weight = exp(-0.5 * far * far);
    sum += weight * texture(from, at + along * far * sigma);
    whole += weight;
  }
  light = sum / whole;
}`;

export const COPY_FRAGMENT = `
precision highp float;
in vec2 at;
out vec4 light;
uniform sampler2D from;
void main() {
  light = texture(from, at);
}`;

/** From light to tones: the graduated filters, then the sensor's response looked up; what it cannot hold is hatched. */
export const SENSOR_FRAGMENT = `
precision highp float;
in vec2 at;
out vec4 colour;
uniform sampler2D from;
uniform sampler2D response;
uniform sampler2D plate;
uniform vec2 texel;
uniform float reference;
uniform float brightest;
uniform float held;
uniform float toStops;
uniform vec2 frame;
uniform vec4 edge;
uniform vec2 table;
uniform vec3 white;
uniform vec3 clippedInk;
uniform vec3 blockedInk;
uniform float hatch;
uniform int corners;
// A row of numbers, straight between them.
float along(sampler2D row, float share) {
  int last = textureSize(row, 0).x - 1;
  float exact = clamp(share, 0.0, 1.0) * float(last);
  int low = int(exact);
  return mix(texelFetch(row, ivec2(low, 0), 0).r, texelFetch(row, ivec2(min(low + 1, last), 0), 0).r, exact - float(low));
}
void main() {
  vec2 place = (at - 0.5) / frame + 0.5;
  float up = (place.x - 0.5) * edge.z * sin(edge.y) + (edge.x - (1.0 - place.y)) * edge.w * cos(edge.y);
  float taken = 0.0;
  if (edge.z > 0.0) taken = along(plate, (up - table.x) / table.y);
  float tone = 0.0;
  float clipped = 0.0;
  float blocked = 0.0;
  float share = 1.0 / float(corners);
  for (int corner = 0; corner < corners; corner += 1) {
    // Under a hand a pixel of the canvas is one of the light.
    vec2 off = (vec2(float(corner % 2), float(corner / 2)) - 0.5) * texel;
    float light = corners == 1 ? texelFetch(from, ivec2(gl_FragCoord.xy), 0).r : texture(from, at + off).r;
    float below = brightest - (log2(max(light, 1e-7)) + reference - taken);
    tone += share * along(response, below / toStops);
    clipped += below < 0.0 ? share : 0.0;
    blocked += below > held ? share : 0.0;
  }
  vec3 shown = tone * white;
  if (clipped >= 0.5 || blocked >= 0.5) {
    vec2 pixel = gl_FragCoord.xy / hatch;
    float lean = clipped >= 0.5 ? pixel.x - pixel.y : pixel.x + pixel.y;
    float stripe = smoothstep(0.36, 0.44, abs(fract(lean / 7.0) - 0.5));
    shown = mix(shown, clipped >= 0.5 ? clippedInk : blockedInk, stripe);
  }
  colour = vec4(shown, 1.0);
}`;
