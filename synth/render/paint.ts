import * as THREE from 'three';

/** Noise and helpers every painter may use; `rest` is the place on the skin before it moved, mm. */
const COMMON = /* glsl */ `
float hash3(vec3 p) { p = fract(p * vec3(0.1031, 0.1030, 0.0973)); p += dot(p, p.yxz + 33.33); return fract((p.x + p.y) * p.z); }
float noise3(vec3 p) {
  vec3 i = floor(p); vec3 f = fract(p); f = f * f * (3.0 - 2.0 * f);
  return mix(mix(mix(hash3(i), hash3(i + vec3(1,0,0)), f.x), mix(hash3(i + vec3(0,1,0)), hash3(i + vec3(1,1,0)), f.x), f.y),
    mix(mix(hash3(i + vec3(0,0,1)), hash3(i + vec3(1,0,1)), f.x), mix(hash3(i + vec3(0,1,1)), hash3(i + vec3(1,1,1)), f.x), f.y), f.z);
}
`;

export type Uniforms = Record<string, { value: unknown }>;

/**
 * Lets a material paint by place: `code` may change `color` (a vec3), knowing `rest`. Light that cannot reach a
 * nook is taken off by the mesh's own `openness`; `glow` is the share of light that comes back out of the skin.
 */
export function painted<T extends THREE.Material>(material: T, code: string, uniforms: Uniforms = {}, glow = 0): T {
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, uniforms);
    const declared = Object.entries(uniforms)
      .map(([name, { value }]) => `uniform ${typeOf(value)} ${name}${Array.isArray(value) ? `[${value.length}]` : ''};`)
      .join('\n');
    shader.vertexShader = `attribute vec3 rest; attribute float openness; varying vec3 vRest; varying float vOpenness;\n${shader.vertexShader}`.replace(
      '#include <begin_vertex>',
      '#include <begin_vertex>\n  vRest = rest; vOpenness = openness;',
    );
    shader.fragmentShader = `varying vec3 vRest; varying float vOpenness;\n${declared}\n${COMMON}\n${shader.fragmentShader}`.replace(
      '#include <color_fragment>',
      `#include <color_fragment>
      { vec3 rest = vRest; vec3 color = diffuseColor.rgb; ${code}
        diffuseColor.rgb = color * mix(vec3(${glow > 0 ? '0.62, 0.42, 0.38' : '0.42'}), vec3(1.0), vOpenness);
        totalEmissiveRadiance += diffuseColor.rgb * vec3(1.0, 0.55, 0.42) * ${glow.toFixed(3)}; }`,
    );
  };
  material.customProgramCacheKey = () => code + Object.keys(uniforms).join() + glow;
  return material;
}

function typeOf(value: unknown): string {
  const one = Array.isArray(value) ? value[0] : value;
  if (one instanceof THREE.Vector3) return 'vec3';
  if (one instanceof THREE.Color) return 'vec3';
  return 'float';
}

/** Lips, brows, lashes, blush and a little unevenness. */
export const FACE_PAINT = /* glsl */ `
float ax = abs(rest.x);
float front = smoothstep(48.0, 60.0, rest.y);
float mottle = noise3(rest * 0.11) * 0.5 + noise3(rest * 0.3) * 0.3;
color *= 0.95 + 0.1 * mottle;
float blush = exp(-dot(vec2(ax - 42.0, rest.z + 20.0), vec2(ax - 42.0, rest.z + 20.0)) / 420.0) * front + 0.8 * exp(-dot(vec2(rest.x, rest.z + 18.0), vec2(rest.x, rest.z + 18.0)) / 130.0) * front;
blush += 0.9 * smoothstep(66.0, 78.0, ax) * smoothstep(-40.0, -20.0, rest.z) * step(-40.0, rest.y) ;
color = mix(color, color * vec3(1.04, 0.74, 0.7), clamp(blush, 0.0, 1.0) * 0.55);
float under = exp(-pow((ax - 29.0) / 13.0, 2.0) - pow((rest.z + 2.5) / 3.5, 2.0)) * front;
color *= 1.0 - 0.13 * under;
color = mix(color, color * vec3(1.12, 1.05, 0.9) * 0.8, freckles * front * smoothstep(0.66, 0.8, noise3(rest * 0.42)) * exp(-pow((rest.z + 10.0) / 20.0, 2.0)));
float t = ax / 22.0;
float above = mouth + 6.6 * (1.0 - t * t * 0.72) - 1.8 * exp(-ax * ax / 9.0) - rest.z;
float below = rest.z - (mouth - 8.6 + 10.4 * t * t);
float lip = smoothstep(-0.7, 0.9, above) * smoothstep(-0.7, 1.2, below) * step(ax, 22.0) * front;
color = mix(color, lips, lip * 0.8);
float between = exp(-pow((rest.z - (mouth - 0.9 + 3.6 * t * t)) / 0.9, 2.0)) * step(ax, 22.5) * front;
color *= 1.0 - 0.62 * between;
float b = (ax - 9.0) / 40.0;
float line = 32.5 + 10.0 * b - 13.0 * b * b;
float thick = browThick * (1.0 - 0.6 * b) * smoothstep(-0.1, 0.4, b);
float strand = 0.55 + 0.45 * noise3(vec3((ax * 0.9 - rest.z * 0.9), rest.z * 0.12, ax * 0.1));
float brow = smoothstep(thick, thick * 0.35, abs(rest.z - line)) * step(0.0, b) * smoothstep(1.04, 0.9, b) * smoothstep(40.0, 50.0, rest.y) * strand;
color = mix(color, hairColor * 0.75, brow * 0.88);
vec2 q = vec2((ax - 31.5) / eyeWide, (rest.z - 9.4) / eyeHigh);
float r = length(q);
float lash = smoothstep(0.2, 0.02, abs(r - 1.07)) * smoothstep(-0.1, 0.5, q.y) + 0.35 * smoothstep(0.14, 0.02, abs(r - 1.06)) * smoothstep(0.1, -0.5, q.y);
color = mix(color, hairColor * 0.28, lash * 0.85 * step(62.0, rest.y));
float crease = exp(-pow((r - 1.55) / 0.12, 2.0)) * smoothstep(0.2, 0.7, q.y) * step(60.0, rest.y);
color *= 1.0 - 0.2 * crease;
`;

/** Locks, lighter where the light runs along them. */
export const HAIR_PAINT = /* glsl */ `
float turn = atan(rest.x, rest.y + 30.0);
float strands = noise3(vec3(turn * 34.0, rest.z * 0.035, rest.y * 0.03)) * 0.6 + noise3(vec3(turn * 90.0, rest.z * 0.06, rest.y * 0.05)) * 0.4;
if (curl > 0.5) strands = noise3(rest * 0.16) * 0.6 + noise3(rest * 0.45) * 0.4;
float sheen = exp(-pow((rest.z - 82.0 + 5.0 * strands) / 16.0, 2.0));
color *= 0.42 + 0.95 * strands;
color += (0.05 + color * 1.3) * vec3(0.5, 0.46, 0.4) * sheen * (0.3 + strands) * (1.0 - curl);
`;

/** Iris, pupil and a gleam on a ball that looks along +y. */
export const EYE_PAINT = /* glsl */ `
float r = length(rest.xz);
float ring = smoothstep(0.59, 0.53, r);
float rays = 0.75 + 0.5 * noise3(vec3(atan(rest.x, rest.z) * 6.0, r * 8.0, 0.0));
vec3 white = mix(vec3(0.8, 0.78, 0.76), vec3(0.66, 0.53, 0.5), smoothstep(0.62, 0.95, r));
color = mix(white, iris * rays, ring);
color *= 1.0 - 0.5 * smoothstep(0.05, 0.0, abs(r - 0.55));
color = mix(color, vec3(0.015), smoothstep(0.28, 0.23, r));
color *= mix(1.0, 0.42, smoothstep(0.1, 0.75, rest.z));
float gleam = smoothstep(0.13, 0.08, length(rest.xz - vec2(0.16, 0.2)));
color = mix(color, vec3(1.6), gleam * step(0.0, rest.y));
`;

/** Knuckles and nails of the hand; forearm evenly. */
export const HAND_PAINT = /* glsl */ `
color *= 0.95 + 0.1 * (noise3(rest * 0.12) * 0.6 + noise3(rest * 0.35) * 0.4);
for (int i = 0; i < 5; i++) {
  vec3 d = rest - nailAt[i];
  float u = dot(d, nailAlong[i]) / (6.2 * handSize);
  float w = dot(d, cross(nailOut[i], nailAlong[i])) / (5.2 * handSize);
  float up = dot(d, nailOut[i]);
  float e = pow(pow(abs(u), 3.0) + pow(abs(w), 3.0), 0.333);
  float nail = smoothstep(1.04, 0.94, e) * step(-2.5 * handSize, up);
  color = mix(color, color * vec3(1.08, 0.93, 0.92) + 0.05, nail);
  color *= 1.0 - 0.3 * smoothstep(0.14, 0.0, abs(e - 1.05)) * step(-2.5 * handSize, up);
  color = mix(color, vec3(0.93, 0.88, 0.82), smoothstep(0.72, 0.9, u) * nail);
}
for (int i = 0; i < 8; i++) {
  vec3 d = rest - knuckle[i];
  float red = exp(-dot(d, d) / (110.0 * handSize * handSize)) * smoothstep(-4.0, 6.0, d.z);
  color = mix(color, color * vec3(1.02, 0.8, 0.75), 0.55 * red);
  color *= 1.0 - 0.13 * exp(-pow(mod(d.x + 20.0, 3.4) - 1.7, 2.0) / 0.35) * exp(-dot(d, d) / (40.0 * handSize * handSize)) * smoothstep(0.0, 5.0, d.z);
}
`;

/** Weave, and the pattern of this very cloth: 0 plain, 1 stripes, 2 checks, 3 dots, 4 a print on the chest. */
export const CLOTH_PAINT = /* glsl */ `
vec3 local = rest - chest;
if (pattern > 0.5 && pattern < 1.5) color = mix(color, second, step(0.5, fract(local.z / 46.0)));
else if (pattern > 1.5 && pattern < 2.5) color = mix(color, second, 0.5 * step(0.5, fract(local.z / 52.0)) + 0.5 * step(0.5, fract(local.x / 52.0)));
else if (pattern > 2.5 && pattern < 3.5) { vec2 g = fract(vec2(local.x / 34.0 + 0.5 * mod(floor(local.z / 30.0), 2.0), local.z / 30.0)) - 0.5; color = mix(color, second, smoothstep(0.26, 0.2, length(g))); }
else if (pattern > 3.5) {
  vec2 g = vec2(local.x, local.z + 10.0) / 62.0;
  float sail = step(g.x * 0.8 - 0.1, 0.9 - g.y) * step(-0.6, g.y) * step(0.05, g.x) + step(-g.x * 1.3, 0.75 - g.y) * step(-0.6, g.y) * step(g.x, -0.03);
  float hull = step(abs(g.y + 0.82), 0.13) * step(abs(g.x), 1.05 - 0.6 * (-0.7 - g.y));
  color = mix(color, second, clamp(sail * step(abs(g.x), 1.2) + hull, 0.0, 1.0) * step(rest.y, chest.y));
}
color *= 0.9 + 0.13 * noise3(rest * 0.9) + 0.07 * noise3(rest * vec3(0.25, 0.25, 0.06));
`;

export const SHOE_PAINT = /* glsl */ `
color = mix(vec3(0.86, 0.85, 0.82), color, smoothstep(15.0, 18.0, rest.z));
color *= 0.92 + 0.1 * noise3(rest * 0.4);
`;

export const SKIN_PAINT = /* glsl */ `color *= 0.95 + 0.1 * (noise3(rest * 0.1) * 0.6 + noise3(rest * 0.3) * 0.4);`;
