/** Stones on surfaces, as the picture has them; after {unevenness}. */
export const stones = /* glsl */ `
uint mixed(ivec3 p, int seed) {
  uint h = uint(p.x) * 73856093u ^ uint(p.y) * 19349663u ^ uint(p.z) * 83492791u ^ uint(seed) * 67867979u;
  h = (h ^ (h >> 15)) * 739982445u;
  h = (h ^ (h >> 12)) * 695872825u;
  return h ^ (h >> 15);
}
struct Strewn {
  float high;
  vec3 leans;
  float tone;
  float open;
};
Strewn among(vec3 at, vec3 n, float wide, float share, int seed) {
  Strewn found = Strewn(0.0, vec3(0.0), 1.0, 1.0);
  float cell = 1.05 * wide;
  ivec3 low = ivec3(floor(at / cell - 0.5));
  float heap = 255.0 * share * clamp(0.75 + 1.1 * slope(at / (17.0 * wide), 617 + seed).x, 0.0, 1.3);
  for (int c = 0; c < 8; c++) {
    ivec3 corner = low + ivec3(c & 1, (c >> 1) & 1, c >> 2);
    uint h = mixed(corner, 601 + seed);
    if (float((h >> 24) & 255u) >= heap) continue;
    vec3 d = at / cell - vec3(corner) - vec3(float(h & 63u), float((h >> 6) & 63u), float((h >> 12) & 63u)) / 63.0;
    float ball = 0.5 * (0.45 + 0.55 * float((h >> 18) & 63u) / 63.0);
    float up = dot(d, n);
    float cut = ball * ball - up * up;
    if (cut <= 0.0) continue;
    vec3 a = d - up * n;
    if (dot(a, a) > 2.2 * cut) continue;
    float rim = cut * (1.0 + 0.35 * slope(3.0 * d / ball + vec3(corner), 611).x);
    float away = dot(a, a) / rim;
    float top = 0.75 * cell * sqrt(max(rim * (1.0 - away), 0.0));
    if (top > found.high) {
      found.high = top;
      found.leans = a * inversesqrt(rim);
      found.tone = 0.65 + 0.8 * float((h >> 3) & 31u) / 31.0;
    }
    found.open = min(found.open, 0.45 + 0.55 * clamp((away - 1.0) * 1.6, 0.0, 1.0));
  }
  return found;
}
Strewn strew(vec3 at, vec3 n, float size, float share, float pixel, out float lost) {
  Strewn all = Strewn(0.0, vec3(0.0), 1.0, 1.0);
  float wide = size;
  lost = 0.0;
  for (int k = 0; k < 3; k++) {
    float part = clamp(0.25 * wide / (pixel + 1e-9) - 0.4, 0.0, 1.0);
    lost += 0.5 * share * (1.0 - part);
    if (part > 0.0) {
      Strewn one = among(at, n, wide, share, k);
      all.open = min(all.open, 1.0 - part * (1.0 - one.open));
      if (one.high > all.high) {
        all.high = part * one.high;
        all.leans = part * one.leans;
        all.tone = 1.0 + part * (one.tone - 1.0);
      }
    }
    wide *= 0.41;
  }
  if (all.high > 0.0) all.open = 1.0;
  return all;
}`;

/** How high each row of hills stands all around, in parts of the highest, and how it rises: drawn once for each skyline. */
export const skyline = (noise: string) => /* glsl */ `
precision highp float;
in vec2 place;
out vec4 colour;
uniform float which;
uniform float columns;
${noise}
void main() {
  int row = int(place.y * 3.0);
  float turn = 6.2831853 * place.x;
  vec2 c = vec2(sin(turn), cos(turn));
  float wide = 6.2831853 / columns;
  float most = 0.42 + 0.29 * float(row);
  float at = 2.3 + 0.9 * float(2 - row);
  float gain = 0.5;
  float sum = 0.0;
  float along = 0.0;
  for (int n = 0; n < 7; n++) {
    float share = gain * clamp(0.6 / (at * wide + 1e-9) - 0.5, 0.0, 1.0);
    vec4 here = slope(vec3(at * c.x, 7.3 * float(row) + 3.1 * float(n) + 0.37, at * c.y), int(which) + 517);
    sum += share * here.x;
    if (n < 3) along += share * at * (here.w * c.x - here.y * c.y);
    at *= 2.07;
    gain *= 0.52;
  }
  colour = vec4(most * max(0.5 + 1.05 * sum, 0.03), most * along, 0.0, 1.0);
}`;

/** Hills before the sky, as the picture has them; after {unevenness} and {skyLight}. */
export const hills = /* glsl */ `
uniform sampler2D crests;
uniform float wide;
vec3 hillside(vec2 c, float part, float tilt) {
  vec4 broad = vec4(0.0);
  vec4 fine = vec4(0.0);
  // What they are made of in themselves is for pictures at rest.
  if (!hasty) {
    broad = slope(vec3(23.0 * c.x, 2.2 * part, 23.0 * c.y), 523);
    fine = slope(vec3(71.0 * c.x, 6.0 * part, 71.0 * c.y), 541);
  }
  float side = 4.0 * tilt + 0.26 * (broad.w * c.x - broad.y * c.y) + 0.16 * (fine.w * c.x - fine.y * c.y);
  vec3 n = normalize(vec3(-c.x + side * c.y, 0.8 - 0.26 * broad.z - 0.16 * fine.z, -c.y - side * c.x));
  float facing = max(dot(n, vec3(sky[23], sky[24], sky[25])), 0.0);
  return (1.0 + 0.3 * broad.x + 0.25 * fine.x) * (vec3(sky[17], sky[18], sky[19]) + facing * vec3(sky[20], sky[21], sky[22]));
}
vec3 beyond(vec3 way) {
  vec3 light = radiance(way);
  float across = max(length(way.xz), 1e-6);
  float up = way.y / across;
  if (sky[15] <= 0.0 || up >= 1.6 * sky[15] + wide || up <= -wide) return light;
  vec2 c = way.xz / across;
  float turn = atan(c.x, c.y) * 0.15915494;
  vec3 haze = radiance(vec3(c.x, 0.0, c.y));
  float left = 1.0;
  vec3 sum = vec3(0.0);
  float clear = 0.55;
  for (int row = 0; row < 3; row++) {
    vec2 crest = textureLod(crests, vec2(turn, (float(row) + 0.5) / 3.0), 0.0).xy * sky[15];
    float over = left * clamp((crest.x - up) / wide + 0.5, 0.0, 1.0);
    if (over > 0.0) {
      float part = clamp(up / max(crest.x, 1e-6), 0.0, 1.0);
      sum += over * mix(haze, hillside(c, up / sky[15], crest.y), clear * part * (2.0 - part));
      left -= over;
    }
    clear *= 0.56;
  }
  return sum + left * light;
}`;
