/** Noise that is even over any few pixels (Jimenez 2014): where steps begin, and which way shadows are looked for. */
export const unrest = /* glsl */ `
float unrest() {
  return fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715))));
}`;

/** From linear light to what a screen shows, as the picture does it. */
export const tone = /* glsl */ `
uniform float film[8];
const float CROSSTALK = 0.09;
const vec3 GREY = vec3(0.2126, 0.7152, 0.0722);
vec3 curve(vec3 light) {
  vec3 a = 0.72 * max(light, vec3(0.0));
  return clamp(a * (2.51 * a + 0.03) / (a * (2.43 * a + 0.59) + 0.14), 0.0, 1.0);
}
vec3 filmed(vec3 light) {
  vec3 x = max(light * vec3(film[0], film[1], film[2]), vec3(0.0));
  if (film[4] != 1.0) x = 0.18 * pow(x / 0.18, vec3(film[4]));
  if (film[3] > 1.5) {
    x = curve((1.0 - CROSSTALK) * x + CROSSTALK * dot(x, GREY));
    x = (x - CROSSTALK * dot(x, GREY)) / (1.0 - CROSSTALK);
  } else if (film[3] > 0.5) {
    float peak = max(x.r, max(x.g, x.b));
    if (peak > 0.6) {
      float top = 0.6 + 0.4 * (1.0 - exp(-2.5 * (peak - 0.6)));
      x = mix(x * top / peak, vec3(top), 1.0 - 1.0 / (0.15 * (peak - top) + 1.0));
    }
  }
  return clamp(x, 0.0, 1.0);
}
vec3 encoded(vec3 x) {
  return mix(1.055 * pow(max(x, vec3(1e-6)), vec3(0.41666667)) - 0.055, 12.92 * x, vec3(lessThanEqual(x, vec3(0.0031308))));
}
vec3 toned(vec3 light) {
  return encoded(filmed(light));
}
/** Nearly the same, by roots alone. */
vec3 quickly(vec3 x) {
  vec3 a = sqrt(x), b = sqrt(a);
  return clamp(0.662 * a + 0.68412 * b - 0.32358 * sqrt(b) - 0.02254 * x, 0.0, 1.0);
}`;

/** Light that comes from a direction of the sky, as the picture has it. */
export const skyLight = /* glsl */ `
uniform sampler2D skyTable;
const float AHEAD = 0.76;
vec3 radiance(vec3 way) {
  if (sky[7] < 0.5) return vec3(sky[33], sky[34], sky[35]);
  if (sky[7] > 1.5) {
    vec3 own = vec3(sky[13] * way.x - sky[14] * way.z, way.y, sky[14] * way.x + sky[13] * way.z);
    vec2 place = vec2(atan(own.x, -own.z) * 0.15915494 + 0.5, 0.5 - asin(clamp(own.y, -1.0, 1.0)) * 0.31830989);
    return vec3(sky[30], sky[31], sky[32]) * textureLod(skyTable, place, 0.0).rgb;
  }
  float up = max(way.y, 0.0);
  float compass = dot(way.xz, vec2(sky[13], sky[14])) / max(length(way.xz), 1e-6);
  vec2 size = vec2(sky[12], sky[11]);
  vec2 at = vec2(0.5 * (1.0 - compass), sqrt(up)) * (size - 1.0) + 0.5;
  at /= size * vec2(1.0, 2.0);
  float cosine = compass * sqrt(max(1.0 - up * up, 0.0) * max(1.0 - sky[9] * sky[9], 0.0)) + up * sky[9];
  float below = 1.0 + AHEAD * AHEAD - 2.0 * AHEAD * cosine;
  float lobe = 0.07957747 * (1.0 - AHEAD * AHEAD) / (below * sqrt(below));
  vec3 light = texture(skyTable, at).rgb + lobe * texture(skyTable, at + vec2(0.0, 0.5)).rgb;
  return vec3(sky[30], sky[31], sky[32]) * light;
}`;

/** Uneven surfaces, as the picture has them. */
export const unevenness = /* glsl */ `
float lattice(ivec3 p, int seed) {
  uint h = uint(p.x) * 73856093u ^ uint(p.y) * 19349663u ^ uint(p.z) * 83492791u ^ uint(seed) * 67867979u;
  h = (h ^ (h >> 15)) * 739982445u;
  h = (h ^ (h >> 12)) * 695872825u;
  h = h ^ (h >> 15);
  return float(h & 0xffffffu) / 16777215.0;
}
vec3 fade(vec3 s) {
  return s * s * s * (s * (s * 6.0 - 15.0) + 10.0);
}
/** How high it stands, and how steeply it rises along x, y, z. */
vec4 slope(vec3 at, int seed) {
  ivec3 p = ivec3(floor(at));
  vec3 s = at - floor(at);
  vec3 f = fade(s);
  float a = lattice(p, seed);
  float ab = lattice(p + ivec3(1, 0, 0), seed) - a;
  float c = lattice(p + ivec3(0, 1, 0), seed);
  float cd = lattice(p + ivec3(1, 1, 0), seed) - c;
  float e = lattice(p + ivec3(0, 0, 1), seed);
  float ef = lattice(p + ivec3(1, 0, 1), seed) - e;
  float g = lattice(p + ivec3(0, 1, 1), seed);
  float gh = lattice(p + ivec3(1, 1, 1), seed) - g;
  float lo = a + f.x * ab;
  float hi = c + f.x * cd;
  float under = e + f.x * ef;
  float over = g + f.x * gh;
  float front = lo + f.y * (hi - lo);
  float back = under + f.y * (over - under);
  vec3 rise = 30.0 * s * s * (s * (s - 2.0) + 1.0);
  float along = (ab + f.y * (cd - ab)) + f.z * ((ef + f.y * (gh - ef)) - (ab + f.y * (cd - ab)));
  float up = (hi - lo) + f.z * ((over - under) - (hi - lo));
  return vec4(2.0 * (front + f.z * (back - front)) - 1.0, 2.0 * rise * vec3(along, up, back - front));
}
/** The mean square of the slopes that are too fine, or left out, is lost. */
vec4 bumps(vec3 where, float size, float pixel, int octaves, out float lost) {
  vec4 sum = vec4(0.0);
  float at = 1.0 / size;
  float gain = 1.0;
  lost = 0.0;
  for (int n = 0; n < 8; n++) {
    float part = n < octaves ? clamp(0.5 / (at * pixel + 1e-9) - 0.5, 0.0, 1.0) : 0.0;
    float share = part * gain;
    float steep = gain * at * size;
    if (share <= 0.0) {
      // All that are left, each 1.155 times as steep as the one before it.
      lost += 0.6 * (10.0302 - steep * steep) / 0.334025;
      break;
    }
    lost += 0.6 * (1.0 - part * part) * steep * steep;
    bool odd = n % 2 == 1;
    vec3 turned = odd ? vec3(0.6 * where.x - 0.8 * where.z, where.y, 0.6 * where.z + 0.8 * where.x) : where;
    vec4 here = slope(turned * at, 401 + n);
    vec3 rise = odd ? vec3(0.6 * here.y + 0.8 * here.w, here.z, 0.6 * here.w - 0.8 * here.y) : here.yzw;
    sum += share * vec4(here.x, at * size * rise);
    at *= 2.1;
    gain *= 0.55;
  }
  return sum;
}
/** Wide stains. */
float stains(vec3 where, float size, float pixel, int octaves) {
  float sum = 0.0;
  float at = 0.19 / size;
  for (int n = 0; n < octaves; n++) {
    float share = clamp(0.5 / (at * pixel + 1e-9) - 0.5, 0.0, 1.0) * 0.62;
    if (share > 0.0)
      sum += share * slope(at * vec3(0.6 * where.x + 0.8 * where.z, where.y, 0.6 * where.z - 0.8 * where.x), 431 + n).x;
    at *= 0.29;
  }
  return sum;
}`;
