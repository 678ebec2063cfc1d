import { unrest } from "./light";

/** The lamps, and what props leave of their light: those of the shot first, then those that stand for the fire. */
export const lampsAround = /* glsl */ `
uniform int lampCount;
/** The first of those that stand for the fire. */
uniform int fireFrom;
uniform vec4 lampPlace[16];
uniform vec4 lampColour[16];
/** The way it shines and its kind (0 all round, 1 a cone, 2 a sheet); where a cone ends and begins to fade (of a sun how
 * large it is),
 * how it falls off, and what it lights (1 smoke and fog alone, 2 props alone, 3 all). */
uniform vec4 lampWay[16];
uniform vec4 lampEdge[16];
/** The lamp that smoke and props shade at each frame; -1 where none does. */
uniform int keyLamp;
/** What lamps see of the props, six sides in a row for each. */
uniform sampler2D lampShadow;
/** Which row a lamp has, -1 for none; how near and how far it sees. */
uniform vec3 lampSees[16];
/** The way to a lamp and how far it is, and how much of its light comes to a place. */
float comes(int i, vec3 where, out vec3 to, out float most) {
  to = lampPlace[i].xyz;
  most = 1e9;
  if (lampPlace[i].w < 0.5) return 1.0;
  to -= where;
  most = max(length(to), 0.02);
  to /= most;
  float size = lampPlace[i].w - 1.0;
  float square = most * most + size * size;
  float near = lampEdge[i].z > 1.5 ? 1.0 / square : lampEdge[i].z > 0.5 ? inversesqrt(square) : 1.0;
  float ahead = -dot(to, lampWay[i].xyz);
  if (lampWay[i].w > 1.5) near *= max(ahead, 0.0);
  else if (lampWay[i].w > 0.5) near *= smoothstep(lampEdge[i].x, lampEdge[i].y, ahead);
  return near;
}
/** How far what a lamp sees at a place of the map stands off; nothing is farther than anything. */
float stood(vec2 at, vec3 sees) {
  float z = textureLod(lampShadow, at, 0.0).r;
  return z < 1.0 ? sees.y * sees.z / (sees.z - z * (sees.z - sees.y)) : 1e9;
}
/** How much of a lamp's light, which stands at a place, props leave. @param taps places that are looked at */
float unhidden(int i, vec3 at, float turn, int taps) {
  vec3 sees = lampSees[i];
  if (sees.x < 0.0) return 1.0;
  vec3 d = at - lampPlace[i].xyz;
  vec3 a = abs(d);
  float m = max(a.x, max(a.y, a.z));
  float face;
  vec2 uv;
  if (a.x >= a.y && a.x >= a.z) {
    face = d.x > 0.0 ? 0.0 : 1.0;
    uv = vec2(sign(d.x) * d.z, d.y);
  } else if (a.y >= a.z) {
    face = d.y > 0.0 ? 2.0 : 3.0;
    uv = vec2(sign(d.y) * d.x, d.z);
  } else {
    face = d.z > 0.0 ? 4.0 : 5.0;
    uv = vec2(-sign(d.z) * d.x, d.y);
  }
  uv /= m;
  vec2 size = vec2(textureSize(lampShadow, 0));
  float texel = 12.0 / size.x;
  float edge = 1.0 - 0.5 * texel;
  float wide = lampPlace[i].w - 1.0;
  vec2 middle = vec2(face * size.x / 6.0 + size.x / 12.0, (sees.x + 0.5) * size.x / 6.0);
  float ahead = m * (1.0 - 2.0 * texel) - 0.002 * m;
  if (taps < 2) {
    return stood((middle + clamp(uv, -edge, edge) * size.x / 12.0) / size, sees) < ahead ? 0.0 : 1.0;
  }
  float reach = clamp(2.0 * wide / m, texel, 0.35);
  float before = 0.0;
  float found = 0.0;
  for (int n = 0; n < taps; n++) {
    float angle = turn + 2.3999632 * float(n);
    vec2 there = clamp(uv + reach * sqrt((float(n) + 0.5) / float(taps)) * vec2(cos(angle), sin(angle)), -edge, edge);
    float stands = stood((middle + there * size.x / 12.0) / size, sees);
    if (stands < ahead) {
      before += stands;
      found += 1.0;
    }
  }
  if (found < 0.5) return 1.0;
  before /= found;
  reach = clamp(wide * (1.0 / before - 1.0 / m), 0.7 * texel, 0.5);
  float left = 0.0;
  for (int n = 0; n < taps; n++) {
    float angle = turn + 2.3999632 * float(n);
    vec2 there = clamp(uv + reach * sqrt((float(n) + 0.5) / float(taps)) * vec2(cos(angle), sin(angle)), -edge, edge);
    left += stood((middle + there * size.x / 12.0) / size, sees) < ahead ? 0.0 : 1.0;
  }
  return left / float(taps);
}
`;

/** What lamps send to surfaces, as the picture has it: those of the shot first, then those that stand for the fire. */
export const lamps = /* glsl */ `
${lampsAround}
/** How thick fog without an end is, per metre, between lamps and what they light. */
uniform float fogThick;
uniform sampler3D lit;
uniform vec3 low;
uniform vec3 high;
uniform float smoke;
uniform float voxel;
/** So many places are looked at on a lamp's way through the smoke at most. */
uniform int looks;
struct Skin {
  vec3 where;
  /** The way it faces, and with all its unevenness. */
  vec3 n;
  vec3 m;
  vec3 eye;
  /** How far light goes around its edges, and how unevenly it faces where that is too fine to be seen. */
  float soft;
  float bumpy;
  float rough;
  bool even;
  bool shines;
};
${unrest}
/** How much of a lamp's light the smoke on its way leaves, as far as the lamp. */
float through(vec3 at, vec3 way, float far, float start) {

  if (smoke <= 0.0) return 1.0;
  vec3 slope = 1.0 / way;
  vec3 a = (low - at) * slope;
  vec3 b = (high - at) * slope;
  vec3 near3 = min(a, b);
  vec3 far3 = max(a, b);
  float first = max(max(near3.x, near3.y), max(near3.z, 0.0));
  float last = min(min(far3.x, far3.y), min(far3.z, far));
  if (first >= last) return 1.0;
  int count = clamp(int((last - first) / (2.0 * voxel)), 3, looks);
  float span = (last - first) / float(count);
  float sum = 0.0;
  for (int n = 0; n < count; n++) {
    // Closest where it begins: what lies on the surface is thickest there, and would be dots.
    float part = (float(n) + start) / float(count);
    float here = texture(lit, (at + (first + part * part * (last - first)) * way - low) / (high - low)).a;
    sum += 2.0 * part * here;
  }
  return exp(-smoke * sum * span);
}
/** The same of the key lamp's. */
float throughKey(vec3 at, float start) {
  vec3 way = lampPlace[keyLamp].xyz;
  if (lampPlace[keyLamp].w < 0.5) return through(at, way, 1e9, start);
  way -= at;
  float far = max(length(way), 1e-4);
  return through(at, way / far, far, start);
}
/** As far off a surface as it takes not to shade itself. */
vec3 lifted(vec3 at, vec3 n) {
  return at + n * 0.0015 * (1.0 + abs(at.x) + abs(at.y) + abs(at.z));
}
/** Light that a surface takes from a lamp, and how much of it goes back as from a mirror. */
vec3 sent(int i, Skin skin, out vec2 mirrored) {
  mirrored = vec2(0.0);
  // What lights smoke alone lights no prop.
  if (lampEdge[i].w == 1.0) return vec3(0.0);
  vec3 to;
  float most;
  float near = comes(i, skin.where, to, most);
  bool placed = lampPlace[i].w > 0.5;
  if (placed && i < fireFrom) near *= exp(-fogThick * most);
  float size = placed ? lampPlace[i].w - 1.0 : 0.0;
  float width = placed ? max(size * inversesqrt(most * most + size * size), skin.soft) : 1e-3;
  float cosine = dot(skin.m, to);
  width = max(width, skin.bumpy * sqrt(max(1.0 - cosine * cosine, 0.0)));
  float faced = abs(cosine) < width ? 0.25 * (cosine + width) * (cosine + width) / width : max(cosine, 0.0);
  faced *= inversesqrt(1.0 + 0.667 * skin.bumpy * skin.bumpy);
  near *= 0.31830989 * (skin.even ? 0.5 : faced * step(0.0, dot(skin.n, to)));
  if (skin.shines) {
    vec3 half_ = normalize(to + skin.eye);
    float nl = max(dot(skin.m, to), 0.001);
    float nv = max(dot(skin.m, skin.eye), 0.001);
    float nh = max(dot(skin.m, half_), 0.0);
    // A lamp with a size shows as a wider spot.
    float facets = min(skin.rough + min(placed ? 0.4 * size / most : 0.5 * lampEdge[i].x, 0.5), 1.0);
    float k = facets * facets * facets * facets;
    float under = nh * nh * (k - 1.0) + 1.0;
    float rim = pow(1.0 - max(dot(to, half_), 0.0), 5.0);
    mirrored = 0.5 * k / (under * under * (nl * sqrt(nv * nv * (1.0 - k) + k) + nv * sqrt(nl * nl * (1.0 - k) + k))) * vec2(1.0 - rim, rim);
  }
  return near * lampColour[i].rgb;
}
/** How much of all light comes back from a surface's edge: what hardly shines does not shine more than it may there. */
float rimmed(vec3 made) {
  return min(4.0 * made.x + made.z, 1.0);
}
/** What comes straight back from a surface, and how much of the rest it keeps. @param made shine, roughness, metal */
vec3 thrownBack(vec3 own, vec3 made, float faced, out vec3 straight) {
  straight = mix(vec3(0.08 * made.x), own, made.z);
  float rim = pow(1.0 - max(faced, 0.0), 5.0) * (1.0 - made.y) * rimmed(made);
  return straight + (1.0 - straight) * rim;
}`;

/** A direction in two numbers and back (Cigolle et al. 2014). */
export const octahedron = /* glsl */ `
vec2 folded(vec3 n) {
  n /= abs(n.x) + abs(n.y) + abs(n.z);
  vec2 around = vec2(n.x < 0.0 ? -1.0 : 1.0, n.y < 0.0 ? -1.0 : 1.0);
  return n.z < 0.0 ? (1.0 - abs(n.yx)) * around : n.xy;
}
vec3 unfolded(vec2 at) {
  vec3 n = vec3(at, 1.0 - abs(at.x) - abs(at.y));
  vec2 around = vec2(n.x < 0.0 ? -1.0 : 1.0, n.y < 0.0 ? -1.0 : 1.0);
  if (n.z < 0.0) n.xy = (1.0 - abs(n.yx)) * around;
  return normalize(n);
}`;
