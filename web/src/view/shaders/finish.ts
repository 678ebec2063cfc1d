import { skyLight, tone, unevenness } from "./light";
import { hills } from "./place";

/** Lays the volume over the props and what stands behind everything. Where it was drawn smaller, only what
 * lies about as deep is mixed, so that the smoke keeps its edges at props. */
export const compose = /* glsl */ `
precision highp float;
in vec2 place;
out vec4 colour;
uniform sampler2D props;
uniform sampler2D volume;
uniform sampler2D depths;
uniform vec2 small;
uniform bool hasty;
uniform mat4 toWorld;
uniform vec3 eye;
uniform vec2 span;
/** A plate that stands behind it all, in light; how much of the view's height it takes (none for 0); and what its light has
 * to be for the film to show it as it is. */
uniform sampler2D plate;
uniform float plated;
uniform vec3 plateGain;
${unevenness}
${skyLight}
${hills}
float far(vec2 at) {
  float depth = texture(depths, at).r;
  return span.x * span.y / (span.y - depth * (span.y - span.x));
}
float alike(vec2 there, float mine) {
  return 1.0 / (1.0 + 40.0 * abs(far(there) - mine) / mine);
}
vec4 smokeAt() {
  vec2 at = place * small - 0.5;
  vec2 base = floor(at);
  vec2 part = at - base;
  vec2 low = (base + 0.5) / small;
  vec2 high = (base + 1.5) / small;
  vec4 a = texture(volume, low);
  vec4 b = texture(volume, vec2(high.x, low.y));
  vec4 c = texture(volume, vec2(low.x, high.y));
  vec4 d = texture(volume, high);
  // Where there is nothing, and for what comes anew again and again, edges are not worth looking for.
  if (hasty || a + b + c + d == vec4(0.0)) return mix(mix(a, b, part.x), mix(c, d, part.x), part.y);
  float mine = far(place);
  vec2 rest = 1.0 - part;
  vec4 weight = vec4(rest.x * rest.y * alike(low, mine), part.x * rest.y * alike(vec2(high.x, low.y), mine),
    rest.x * part.y * alike(vec2(low.x, high.y), mine), part.x * part.y * alike(high, mine)) + 1e-5;
  return (weight.x * a + weight.y * b + weight.z * c + weight.w * d) / dot(weight, vec4(1.0));
}
void main() {
  vec4 smoke = smokeAt();
  vec3 behind = texture(props, place).rgb;
  if (texture(depths, place).r >= 1.0) {
    vec4 end = toWorld * vec4(place * 2.0 - 1.0, 1.0, 1.0);
    vec2 at = vec2(place.x, plated > 0.0 ? (place.y - 0.5) / plated + 0.5 : -1.0);
    behind = at.y >= 0.0 && at.y <= 1.0 ? texture(plate, at).rgb * plateGain : beyond(normalize(end.xyz / end.w - eye));
  }
  colour = vec4(behind * (1.0 - smoke.a) + smoke.rgb, 1.0);
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
uniform bool hasty;
${tone}
void main() {
  vec3 sum = texture(light, place).rgb;
  if (bloom > 0.0) {
    vec3 halo = 0.5 * texture(halo0, place).rgb + 0.3 * texture(halo1, place).rgb + 0.2 * texture(halo2, place).rgb;
    sum = mix(sum, halo, bloom);
  }
  // Half a step of noise hides the bands of eight bits in dark places.
  float noise = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715)))) - 0.5;
  vec3 shown = filmed(sum);
  colour = vec4((hasty ? quickly(shown) : encoded(shown)) + noise / 255.0, 1.0);
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
