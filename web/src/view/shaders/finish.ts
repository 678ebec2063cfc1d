import { skyLight, tone } from "./light";

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
uniform mat4 toWorld;
uniform vec3 eye;
uniform vec2 span;
/** A plate that stands behind it all, in light; how much of the view's height it takes (none for 0); and what its light has
 * to be for the film to show it as it is. */
uniform sampler2D plate;
uniform float plated;
uniform vec3 plateGain;
${skyLight}
float far(vec2 at) {
  float depth = texture(depths, at).r;
  return span.x * span.y / (span.y - depth * (span.y - span.x));
}
vec4 smokeAt() {
  vec2 at = place * small - 0.5;
  vec2 base = floor(at);
  vec2 part = at - base;
  float mine = far(place);
  vec4 sum = vec4(0.0);
  float whole = 0.0;
  for (int n = 0; n < 4; n++) {
    vec2 step = vec2(float(n & 1), float(n >> 1));
    vec2 there = (base + step + 0.5) / small;
    vec2 near = mix(1.0 - part, part, step);
    float weight = near.x * near.y / (1.0 + 40.0 * abs(far(there) - mine) / mine) + 1e-5;
    sum += weight * texture(volume, there);
    whole += weight;
  }
  return sum / whole;
}
void main() {
  vec4 smoke = smokeAt();
  vec3 behind = texture(props, place).rgb;
  if (texture(depths, place).r >= 1.0) {
    vec4 end = toWorld * vec4(place * 2.0 - 1.0, 1.0, 1.0);
    vec2 at = vec2(place.x, plated > 0.0 ? (place.y - 0.5) / plated + 0.5 : -1.0);
    behind = at.y >= 0.0 && at.y <= 1.0 ? texture(plate, at).rgb * plateGain : radiance(normalize(end.xyz / end.w - eye));
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
${tone}
void main() {
  vec3 sum = texture(light, place).rgb;
  if (bloom > 0.0) {
    vec3 halo = 0.5 * texture(halo0, place).rgb + 0.3 * texture(halo1, place).rgb + 0.2 * texture(halo2, place).rgb;
    sum = mix(sum, halo, bloom);
  }
  // Half a step of noise hides the bands of eight bits in dark places.
  float noise = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715)))) - 0.5;
  colour = vec4(toned(sum) + noise / 255.0, 1.0);
}`;
