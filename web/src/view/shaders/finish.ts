import { lamps, octahedron } from "./lamps";
import { skyLight, tone, unevenness, unrest } from "./light";
import { hills } from "./place";
import { surfaceOutputs } from "./props";

/** What stands behind everything: the plate, hills, the sky. */
export const backdropVertex = /* glsl */ `
out vec2 place;
void main() {
  place = position.xy * 0.5 + 0.5;
  gl_Position = vec4(position.xy, 1.0, 1.0);
}`;

export const backdrop = /* glsl */ `
precision highp float;
in vec2 place;
${surfaceOutputs}
uniform bool hasty;
uniform mat4 toWorld;
uniform vec3 eye;
/** A plate that stands behind it all, in light; how much of the view's height it takes (none for 0); and what its light has
 * to be for the film to show it as it is. */
uniform sampler2D plate;
uniform float plated;
uniform vec3 plateGain;
uniform float sky[40];
${unevenness}
${skyLight}
${hills}
void main() {
  vec4 end = toWorld * vec4(place * 2.0 - 1.0, 1.0, 1.0);
  vec2 at = vec2(place.x, plated > 0.0 ? (place.y - 0.5) / plated + 0.5 : -1.0);
  vec3 light = at.y >= 0.0 && at.y <= 1.0 ? texture(plate, at).rgb * plateGain : beyond(normalize(end.xyz / end.w - eye));
  still = vec4(light, 0.0);
  sunned = albedo = shape = vec4(0.0);
}`;

/** Half a step of noise hides the bands of eight bits in dark places. */
const dithered = /* glsl */ `
#ifdef HASTY
#define encode quickly
#else
#define encode encoded
#endif
vec4 dithered(vec3 shown) {
  return vec4(encode(shown) + (unrest() - 0.5) / 255.0, 1.0);
}`;

/** Where a pixel is, and from what depth on; needs `toWorld`. */
const placed = /* glsl */ `
vec3 placed(vec2 at, float depth) {
  vec4 point = toWorld * vec4(at * 2.0 - 1.0, depth * 2.0 - 1.0, 1.0);
  return point.xyz / point.w;
}`;

/** How far apart the places are, pixels, at which the smoke's shadow is looked at first. */
export const SHADE_APART = 4;

/** How much smoke leaves of the key lamp's light at every fourth place each way, and one over how far that is: smoke's
 * shadows are soft, so that most pixels between need no look of their own. */
export const shading = /* glsl */ `
precision highp float;
precision highp sampler3D;
out vec4 colour;
uniform sampler2D shape;
uniform sampler2D depths;
uniform mat4 toWorld;
uniform vec2 span;
${lamps}
${octahedron}
${placed}
void main() {
  ivec2 most = textureSize(depths, 0) - 1;
  ivec2 at = min(ivec2(gl_FragCoord.xy) * ${SHADE_APART} + ${SHADE_APART / 2}, most);
  float depth = texelFetch(depths, at, 0).r;
  vec3 m = unfolded(texelFetch(shape, at, 0).xy);
  vec3 where = placed((vec2(at) + 0.5) / vec2(most + 1), depth);
  float near = (span.y - depth * (span.y - span.x)) / (span.x * span.y);
  colour = vec4(throughKey(lifted(where, m), 0.5), near, 0.0, 1.0);
}`;

/** What smoke leaves of the key lamp's light, from four places around where they agree and are of one plane. */
const shadeBetween = /* glsl */ `
uniform sampler2D shade;
/** Shadows that differ by no more are even between. */
const float EVEN = 0.04;
float shaded(vec3 where, float depth) {
  vec2 at = (gl_FragCoord.xy - ${SHADE_APART / 2 + 0.5}) / ${SHADE_APART.toFixed(1)};
  vec2 base = floor(at);
  vec2 part = at - base;
  ivec2 most = textureSize(shade, 0) - 1;
  ivec2 first = clamp(ivec2(base), ivec2(0), most);
  ivec2 next = min(ivec2(base) + 1, most);
  vec2 a = texelFetch(shade, first, 0).rg;
  vec2 b = texelFetch(shade, ivec2(next.x, first.y), 0).rg;
  vec2 c = texelFetch(shade, ivec2(first.x, next.y), 0).rg;
  vec2 d = texelFetch(shade, next, 0).rg;
  vec2 here = mix(mix(a, b, part.x), mix(c, d, part.x), part.y);
  vec2 gap = max(max(a, b), max(c, d)) - min(min(a, b), min(c, d));
  float mine = (span.y - depth * (span.y - span.x)) / (span.x * span.y);
  if (gap.x < EVEN && abs(mine - here.y) < 0.03 * mine && gap.y < 0.2 * mine) return here.x;
  return throughKey(where, unrest());
}`;

/** Lights what stands still as the frame's smoke and fire light it, and lays the smoke over it. Where that was drawn
 * smaller, only what lies about as deep is mixed, so that it keeps its edges at props.
 * `HASTY` says as quickly as can be, `WHOLE` that the smoke has a place for each pixel.
 * @param shown whether it is brought to the screen as it is: the lens spreads nothing */
export const compose = (shown: boolean) => /* glsl */ `
precision highp float;
precision highp sampler3D;
in vec2 place;
out vec4 colour;
uniform sampler2D still;
uniform sampler2D sunned;
uniform sampler2D albedo;
uniform sampler2D shape;
uniform sampler2D volume;
uniform sampler2D depths;
/** Up to where smoke is seen. */
uniform sampler2D sights;
uniform vec2 small;
uniform mat4 toWorld;
uniform vec3 eye;
uniform vec2 span;
${lamps}
${octahedron}
${placed}
${shown ? tone + dithered : ""}
#ifdef WHOLE
${shadeBetween}
#else
#define shaded(where, depth) throughKey(where, unrest())
#endif
#ifdef HASTY
// For what comes anew again and again, edges are not worth looking for.
#define smokeAt() texture(volume, place)
#elif defined(WHOLE)
#define smokeAt() texelFetch(volume, ivec2(gl_FragCoord.xy), 0)
#else
float far(vec2 at) {
  float depth = texture(sights, at).r;
  return span.x * span.y / (span.y - depth * (span.y - span.x));
}
float alike(vec2 there, float mine) {
  return 1.0 / (1.0 + 40.0 * abs(far(there) - mine) / mine);
}
vec4 smokeAt() {
  vec2 at = place * small - 0.5;
  vec2 base = floor(at);
  vec2 part = at - base;
  ivec2 most = ivec2(small) - 1;
  ivec2 first = clamp(ivec2(base), ivec2(0), most);
  ivec2 next = min(ivec2(base) + 1, most);
  vec4 a = texelFetch(volume, first, 0);
  vec4 b = texelFetch(volume, ivec2(next.x, first.y), 0);
  vec4 c = texelFetch(volume, ivec2(first.x, next.y), 0);
  vec4 d = texelFetch(volume, next, 0);
  // Where there is nothing, there are no edges.
  if (a + b + c + d == vec4(0.0)) return mix(mix(a, b, part.x), mix(c, d, part.x), part.y);
  float mine = far(place);
  vec2 low = (base + 0.5) / small;
  vec2 high = (base + 1.5) / small;
  vec2 rest = 1.0 - part;
  vec4 weight = vec4(rest.x * rest.y * alike(low, mine), part.x * rest.y * alike(vec2(high.x, low.y), mine),
    rest.x * part.y * alike(vec2(low.x, high.y), mine), part.x * part.y * alike(high, mine)) + 1e-5;
  return (weight.x * a + weight.y * b + weight.z * c + weight.w * d) / dot(weight, vec4(1.0));
}
#endif
#ifdef FIRE
/** What the frame's fire adds to a surface. */
vec3 fired(vec3 where, vec3 m, vec4 own, vec4 shaped, float shine, float soft) {
  vec3 way = normalize(eye - where);
  vec3 made = vec3(shine, shaped.w, own.a);
  // How it faces without its unevenness is not kept: light that ends there would end in hard edges.
  Skin skin = Skin(where, vec3(0.0), m, way, soft, max(shaped.z, 0.0), shaped.w, shaped.z < -0.5, shine + own.a > 0.0);
  vec3 sum = vec3(0.0);
  vec3 hot = vec3(0.0);
  vec3 hotRim = vec3(0.0);
  for (int i = fireFrom; i < lampCount; i++) {
    vec2 mirrored;
    vec3 came = sent(i, skin, mirrored);
    sum += came;
    hot += mirrored.x * came;
    hotRim += mirrored.y * came;
  }
  if (!skin.shines) return sum * own.rgb;
  vec3 straight;
  vec3 back = thrownBack(own.rgb, made, dot(m, way), straight);
  return sum * own.rgb * (1.0 - made.z) * (1.0 - back) + hot * straight + hotRim * rimmed(made);
}
#endif
void main() {
  vec4 volumeHere = smokeAt();
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 behind = texelFetch(still, at, 0);
  float depth = texelFetch(depths, at, 0).r;
  vec4 sun = texelFetch(sunned, at, 0);
  vec4 own = texelFetch(albedo, at, 0);
  bool smoky = smoke > 0.0 && sun.r + sun.g + sun.b > 0.0;
#ifdef FIRE
  bool warmed = own.r + own.g + own.b > 0.0;
#else
  const bool warmed = false;
#endif
  if (depth < 1.0 && (smoky || warmed)) {
    vec4 shaped = texelFetch(shape, at, 0);
    vec3 m = unfolded(shaped.xy);
    vec3 where = placed(place, depth);
    if (smoky) sun.rgb *= shaded(lifted(where, m), depth);
#ifdef FIRE
    if (warmed) behind.rgb += fired(where, m, own, shaped, behind.a, sun.a);
#endif
  }
  vec3 light = (behind.rgb + sun.rgb) * (1.0 - volumeHere.a) + volumeHere.rgb;
  colour = ${shown ? "dithered(filmed(light))" : "vec4(light, 1.0)"};
}`;

/** Blurs along one way with a bell. */
export const blur = /* glsl */ `
precision highp float;
in vec2 place;
out vec4 colour;
uniform sampler2D light;
uniform vec2 way;
uniform float sigma;
void main() {
  int reach = int(ceil(3.0 * sigma));
  vec3 sum = vec3(0.0);
  float whole = 0.0;
  for (int n = -reach; n <= reach; n++) {
    float weight = exp(-0.5 * float(n * n) / (sigma * sigma));
    sum += weight * texture(light, place + float(n) * way).rgb;
    whole += weight;
  }
  colour = vec4(sum / whole, 1.0);
}`;

/** Spreads what the lens spreads, and brings all to the screen. */
export const develop = /* glsl */ `
precision highp float;
in vec2 place;
out vec4 colour;
uniform sampler2D light;
uniform sampler2D halo0;
uniform sampler2D halo1;
uniform sampler2D halo2;
uniform float bloom;
${unrest}
${tone}
${dithered}
void main() {
  vec3 sum = texture(light, place).rgb;
  if (bloom > 0.0) {
    vec3 halo = 0.5 * texture(halo0, place).rgb + 0.3 * texture(halo1, place).rgb + 0.2 * texture(halo2, place).rgb;
    sum = mix(sum, halo, bloom);
  }
  colour = dithered(filmed(sum));
}`;

/** A smaller picture over all of the screen. */
export const enlarge = /* glsl */ `
precision highp float;
in vec2 place;
out vec4 colour;
uniform sampler2D shown;
void main() {
  colour = texture(shown, place);
}`;
