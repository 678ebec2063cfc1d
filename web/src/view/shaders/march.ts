import { lampsAround } from "./lamps";
import { unrest } from "./light";

export const fullScreen = /* glsl */ `
out vec2 place;
void main() {
  place = position.xy * 0.5 + 0.5;
  gl_Position = vec4(position.xy, 0.0, 1.0);
}`;

/** What was seen at fewer places, where these agree on what lies between them: smoke is smooth between voxels, so most
 * pixels of a fine picture need no look of their own. */
const between = /* glsl */ `
/** So much of what a screen shows lies between neighbours that agree, and so much between a straight line and a smooth one
 * through them. */
const float ALIKE = 0.08;
const float BENT = 0.01;
uniform sampler2D before;
/** What the film makes of light, and how near and how far the eye sees. */
uniform float bright;
uniform vec2 span;
/** One over how far what stands still is: even between places of one plane. */
float closeness(vec2 at) {
  return (span.y - texture(depths, at).r * (span.y - span.x)) / (span.x * span.y);
}
/** What lies between four places in a row, smoothly. */
vec4 smoothly(vec4 a, vec4 b, vec4 c, vec4 d, float part) {
  return b + 0.5 * part * (c - a + part * (2.0 * a - 5.0 * b + 4.0 * c - d + part * (3.0 * (b - c) + d - a)));
}
bool known(out vec4 here) {
  ivec2 most = textureSize(before, 0) - 1;
  vec2 size = vec2(most + 1);
  vec2 at = place * size - 0.5;
  vec2 base = floor(at);
  vec2 part = at - base;
  ivec2 first = ivec2(base);
  vec4 seen[16];
  for (int n = 0; n < 16; n++)
    seen[n] = texelFetch(before, clamp(first + ivec2(n % 4 - 1, n / 4 - 1), ivec2(0), most), 0);
  vec4 row[4];
  for (int j = 0; j < 4; j++)
    row[j] = smoothly(seen[4 * j], seen[4 * j + 1], seen[4 * j + 2], seen[4 * j + 3], part.x);
  here = max(smoothly(row[0], row[1], row[2], row[3], part.y), 0.0);
  here.a = min(here.a, 1.0);
  vec4 even = mix(mix(seen[5], seen[6], part.x), mix(seen[9], seen[10], part.x), part.y);
  vec4 high = max(max(seen[5], seen[6]), max(seen[9], seen[10]));
  vec4 gap = high - min(min(seen[5], seen[6]), min(seen[9], seen[10]));
  vec4 bent = abs(here - even);
  vec3 film = bright / (0.5 + bright * high.rgb);
  gap.rgb *= film;
  bent.rgb *= film;
  vec2 from = (base + 0.5) / size;
  vec2 to = (base + 1.5) / size;
  vec4 close = vec4(closeness(from), closeness(vec2(to.x, from.y)), closeness(vec2(from.x, to.y)), closeness(to));
  float mine = closeness(place);
  float plane = mix(mix(close.x, close.y, part.x), mix(close.z, close.w, part.x), part.y);
  float apart = max(max(close.x, close.y), max(close.z, close.w)) - min(min(close.x, close.y), min(close.z, close.w));
  return max(max(gap.r, gap.g), max(gap.b, gap.a)) < ALIKE && max(max(bent.r, bent.g), max(bent.b, bent.a)) < BENT &&
    abs(mine - plane) < 0.03 * mine && apart < 0.2 * mine;
}`;

/** Marches the frame's volume along each ray: smoke lit as the server lit it, heat as a tint. */
export const march = /* glsl */ `
precision highp float;
precision highp sampler3D;
#ifdef AGAIN
uniform vec2 whole;
#define place (gl_FragCoord.xy / whole)
#else
in vec2 place;
#endif
out vec4 colour;
uniform sampler3D lit;
uniform sampler3D hot;
uniform sampler3D busy;
const float BLOCK = 8.0;
#ifdef SEEN
uniform sampler3D seen;
uniform vec3 seenLow;
uniform vec3 seenHigh;
uniform vec3 seenTint;
uniform float seenZero;
#endif
uniform sampler2D depths;
uniform mat4 toWorld;
uniform vec3 eye;
uniform vec3 low;
uniform vec3 high;
uniform float voxel;
uniform float pace;
uniform float thickness;
uniform vec4 peaks;
uniform vec3 albedo;
uniform vec3 heatTint;
/** Whether smoke, heat as a tint and fire are seen. */
uniform vec3 shown;
#ifdef FOG
uniform sampler3D fogLit;
uniform sampler3D fogHot;
uniform sampler3D fogWays;
uniform vec3 fogLow;
uniform vec3 fogHigh;
/** The length of a cell. */
uniform float fogVoxel;
/** How long its steps are. */
uniform float fogPace;
/** How much of lamps' light keeps its way. */
uniform float fogForward;
/** How far fog without an end is seen (0 for none), and one over the height over which it thins. */
uniform vec2 fogEndless;
/** Its colour. */
uniform vec3 fogColour;
#ifdef LAMPS
${lampsAround}
#endif
#endif

${unrest}
vec3 unproject(float depth) {
  vec4 point = toWorld * vec4(place * 2.0 - 1.0, depth * 2.0 - 1.0, 1.0);
  return point.xyz / point.w;
}

#ifdef FOG
/** What fog sends on for each metre at a place, and how thick it is. */
#ifdef LAMPS
/** What fog sends on for each metre of lamps that stand at a place, in parts of how thick it is.
 * @param nearest how far the nearest is */
vec3 fogLamps(vec3 point, vec3 ray, float thick, out float nearest) {
  float g = fogForward;
  vec3 sum = vec3(0.0);
  nearest = 1e9;
  for (int i = 0; i < fireFrom; i++) {
    if (lampPlace[i].w < 0.5 || lampEdge[i].w == 2.0) continue;
    vec3 to;
    float most;
    float near = comes(i, point, to, most);
    nearest = min(nearest, most);
    if (near * (lampColour[i].r + lampColour[i].g + lampColour[i].b) < 1e-4) continue;
    vec3 ends = max((fogLow - point) / to, (fogHigh - point) / to);
    float within = fogEndless.x > 0.0 ? most : min(most, min(ends.x, min(ends.y, ends.z)));
    near *= exp(-thick * within) * unhidden(i, point, 0.0, 1);
    float below = 1.0 + g * g - 2.0 * g * dot(ray, to);
    sum += near * (1.0 - g * g) / (below * sqrt(below)) * lampColour[i].rgb;
  }
  return 0.07957747 * sum;
}
#endif
vec4 fogAt(vec3 point, vec3 ray) {
  vec3 at = (point - fogLow) / (fogHigh - fogLow);
  vec4 here = texture(fogLit, at);
  // From where lamps agree on, their light goes on as from one.
  vec3 way = texture(fogWays, at).xyz;
  float agree = length(way);
  float g = fogForward;
  float below = 1.0 + g * g - 2.0 * g * dot(ray, way) / max(agree, 1e-3);
  float lobe = mix(1.0, (1.0 - g * g) / (below * sqrt(below)), min(agree, 1.0));
  float less = exp(-max(point.y - fogHigh.y, 0.0) * fogEndless.y);
  return less * (here + vec4(lobe * texture(fogHot, at).rgb, 0.0));
}
#endif

#ifdef AGAIN
${between}
#endif
void main() {
#ifdef AGAIN
  if (known(colour)) return;
#endif
  vec3 far = unproject(1.0);
  vec3 ray = normalize(far - eye);
  float most = distance(eye, unproject(texture(depths, place).r));
  vec3 slope = 1.0 / ray;
  vec3 a = (low - eye) * slope;
  vec3 b = (high - eye) * slope;
  vec3 near3 = min(a, b);
  vec3 far3 = max(a, b);
  float first = max(max(near3.x, near3.y), max(near3.z, 0.0));
  float last = min(min(far3.x, far3.y), min(far3.z, most));
  vec3 light = vec3(0.0);
  float through = 1.0;
  float stride = pace * voxel;
  float offset = unrest();
  // Where the ray is within the box, and in which of its blocks.
  vec3 start = (eye - low) / (high - low);
  vec3 along = ray / (high - low);
  float blockSize = BLOCK * voxel;
  vec3 startBlock = (eye - low) / blockSize;
  vec3 alongBlock = ray / blockSize;
  if (first >= last) { first = 1e9; last = 0.0; }
  // Each ray begins at another part of a step before the box, so that no layers are seen.
  float begin = first - stride * offset;
  float t = begin;
  // Where fog is: within its box, or from the eye on.
#ifdef FOG
  a = (fogLow - eye) * slope;
  b = (fogHigh - eye) * slope;
  near3 = min(a, b);
  far3 = max(a, b);
  float fogFirst = max(max(near3.x, near3.y), max(near3.z, 0.0));
  float fogLast = min(min(far3.x, far3.y), min(far3.z, most));
  if (fogEndless.x > 0.0) { fogFirst = 0.0; fogLast = min(most, fogEndless.x); }
  if (fogFirst >= fogLast) { fogFirst = 1e9; fogLast = 0.0; }
  t = min(t, fogFirst);
#else
  const float fogLast = 0.0;
#endif
#ifdef LAMPS
  float nearest = 1e9;
#endif
  float fires = shown.z * peaks.w;
  vec3 sent = albedo * peaks.z;
  // Smoke, fire, heat.
  int wanted = (shown.x > 0.0 ? 1 : 0) | (shown.z > 0.0 && peaks.w > 0.0 ? 2 : 0) | (shown.y > 0.0 ? 4 : 0);
  float seenLast = max(last, fogLast);
  for (int n = 0; n < 768; n++) {
    if (t >= seenLast || through < 0.004) break;
    bool smoky = t + stride > first && t < last;
    float leap = 1e9;
#ifdef FOG
    bool foggy = t >= fogFirst && t < fogLast;
    // A step of fog grows with the distance; it ends where smoke begins.
#ifdef LAMPS
    // Closer where a lamp is near: its light and the shadows in it change fast there.
    float pace = min(max(fogVoxel, 0.045 * t), 0.12 * nearest + 0.02);
#else
    float pace = max(fogVoxel, 0.045 * t);
#endif
    if (foggy) leap = fogPace * pace * (n == 0 ? offset + 0.05 : 1.0);
    if (t < fogFirst) leap = min(leap, max(fogFirst - t, 0.001));
#endif
    if (t < begin) leap = min(leap, max(begin - t, 0.001));
    // As far as steps are alike.
    float alike = 0.0;
#ifdef SEEN
    bool burns = (wanted & 6) != 0;
#else
    // Blocks of eight cells in which nothing is that is seen are passed over at once.
    bool burns = false;
    if (smoky) {
      vec3 block = floor(startBlock + max(t, first) * alongBlock);
      int has = int(255.0 * texelFetch(busy, clamp(ivec3(block), ivec3(0), textureSize(busy, 0) - 1), 0).r + 0.5);
      burns = (has & wanted & 6) != 0;
      vec3 out3 = (block + step(vec3(0.0), ray) - startBlock) * blockSize * slope;
      float leave = min(out3.x, min(out3.y, out3.z));
      if ((has & wanted) == 0) {
        leap = min(leap, stride * max(ceil((leave - t) / stride + 0.001), 1.0));
        smoky = false;
      }
#ifndef FOG
      alike = min(leave, last);
#endif
    }
#endif
    if (smoky) leap = min(leap, stride);
#ifdef FOG
    if (foggy) {
      float end = min(t + leap, fogLast);
      vec3 within = eye + 0.5 * (t + end) * ray;
      vec4 fog = fogAt(within, ray);
#ifdef LAMPS
      if (fog.a > 0.0) fog.rgb += fog.a * fogColour * fogLamps(within, ray, fog.a, nearest);
#endif
      float depth = fog.a * (end - t);
      float part = depth > 0.01 ? (1.0 - exp(-depth)) / depth : 1.0 - 0.5 * depth;
      light += through * (end - t) * part * fog.rgb;
      through *= exp(-depth);
    }
#endif
    if (!smoky) {
      t += leap;
      continue;
    }
    do {
      float from = max(t, first);
      t += leap;
      float span = max(min(t, last) - from, 0.0);
      vec3 at = start + (from + 0.5 * span) * along;
      vec4 here = texture(lit, at);
      vec4 flame = burns ? texture(hot, at) : vec4(0.0);
      // What a step gives off is seen through its own smoke, and heat glows for the eye only: how hot, not how bright.
      float depth = thickness * shown.x * here.a * peaks.x * span;
      float kept = exp(-depth);
      float part = depth > 0.01 ? (1.0 - kept) / depth : 1.0 - 0.5 * depth;
      float glow = shown.y * flame.a * flame.a * span * 2.2;
      vec3 shines = span * part * fires * flame.rgb * flame.rgb;
      light += through * (shines + (1.0 - kept) * sent * here.rgb + glow * heatTint);
      through *= kept * exp(-0.4 * glow);
#ifdef SEEN
      vec3 there = (eye + (from + 0.5 * span) * ray - seenLow) / (seenHigh - seenLow);
      if (all(greaterThan(there, vec3(0.0))) && all(lessThan(there, vec3(1.0)))) {
        float amount = abs(texture(seen, there).r - seenZero) * span * 1.6 / max(seenZero, 1.0 - seenZero);
        light += through * amount * seenTint;
        through *= exp(-0.5 * amount);
      }
#endif
    } while (t < alike && through >= 0.004);
  }
  colour = vec4(light, 1.0 - through);
}`;
