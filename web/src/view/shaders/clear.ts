/** What lies behind clear things, as it was kept of them, and where they end. */
const kept = /* glsl */ `
uniform sampler2D still;
uniform sampler2D sunned;
uniform sampler2D albedo;
uniform sampler2D shape;
uniform sampler2D depths;`;

/** Copies what was kept of surfaces, so that what is drawn over it can look at it. */
export const copied = /* glsl */ `
precision highp float;
in vec2 place;
layout(location = 0) out vec4 a;
layout(location = 1) out vec4 b;
layout(location = 2) out vec4 c;
layout(location = 3) out vec4 d;
${kept}
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  a = texelFetch(still, at, 0);
  b = texelFetch(sunned, at, 0);
  c = texelFetch(albedo, at, 0);
  d = texelFetch(shape, at, 0);
  gl_FragDepth = texelFetch(depths, at, 0).r;
}`;

/** Clear things that lie before others are passed over where those are drawn. */
export const passedOver = /* glsl */ `
uniform highp sampler2D passed;
uniform float passing;
bool isPassed() {
  return passing > 0.5 && gl_FragCoord.z <= texelFetch(passed, ivec2(gl_FragCoord.xy), 0).r + 2e-6;
}`;

/** Where one looks out of clear things again: the way their far sides face. */
export const exitVertex = /* glsl */ `
out vec3 facing;
void main() {
  facing = mat3(transpose(inverse(modelMatrix))) * normal;
  gl_Position = projectionMatrix * viewMatrix * modelMatrix * vec4(position, 1.0);
}`;
export const exitFragment = /* glsl */ `
precision highp float;
in vec3 facing;
out vec4 colour;
${passedOver}
void main() {
  if (isPassed()) discard;
  colour = vec4(normalize(facing), 1.0);
}`;

/** How far smoke and fire are seen in clear things: until these have taken most of their light. */
export const reachVertex = /* glsl */ `
in vec3 dye;
out vec3 dyed;
out float ahead;
void main() {
  dyed = dye;
  vec4 at = viewMatrix * modelMatrix * vec4(position, 1.0);
  ahead = -at.z;
  gl_Position = projectionMatrix * at;
}`;
export const reachFragment = /* glsl */ `
precision highp float;
in vec3 dyed;
in float ahead;
out vec4 colour;
uniform float clear;
uniform float dyes;
uniform float deep;
uniform vec4 takes;
void main() {
  vec3 rate = mix(takes.rgb, -log(max(dyed, vec3(1e-4))) / deep, dyes);
  float most = clear > 0.5 ? 3.0 / max(rate.r + rate.g + rate.b, 1e-4) : 0.0;
  colour = vec4(ahead + most, 0.0, 0.0, 1.0);
}`;
/** That as a depth: no farther than what stands behind them. */
export const sightFragment = /* glsl */ `
precision highp float;
in vec2 place;
out vec4 colour;
uniform sampler2D depths;
uniform sampler2D reach;
uniform vec2 span;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  float most = texelFetch(reach, at, 0).r;
  float behind = texelFetch(depths, at, 0).r;
  gl_FragDepth = most > 0.0 ? min(behind, (span.y - span.x * span.y / most) / (span.y - span.x)) : behind;
  colour = vec4(0.0);
}`;

/** What is seen through a clear thing whose skin is met: bent where one looks in and where one looks out, and less of it
 * the farther that is. After {skyLight}. What stands beside the picture is not known: there is sky, or what lies below it. */
export const clearly = /* glsl */ `
${passedOver}
${kept.replace(/ (\w+);/g, (_, name) => ` ${name}Behind;`)}
uniform sampler2D exits;
uniform sampler2D exitDepths;
uniform mat4 toClip;
uniform vec2 span;
/** How much of a metre's light it takes, and how much it bends. */
uniform vec4 takes;
uniform float clear;
/** After so many metres light has the colour that it gets within. */
uniform float deep;
struct Seen {
  vec4 still;
  vec4 sunned;
  vec4 albedo;
  vec4 shape;
};
float ahead(float depth) {
  return span.x * span.y / (span.y - depth * (span.y - span.x));
}
vec3 around(vec3 way) {
  vec3 below = vec3(sky[3], sky[4], sky[5]);
  return mix(below, radiance(vec3(way.x, max(way.y, 0.0), way.z)), smoothstep(-0.04, 0.04, way.y));
}
/** What a clear thing throws back: what stands still in the picture where that is met, or the sky. */
vec3 mirroredBy(vec3 where, vec3 way, float far) {
  vec3 at = where;
  float stride = 0.02 * far;
  for (int n = 0; n < 18; n++) {
    at += stride * way;
    vec4 clip = toClip * vec4(at, 1.0);
    vec2 there = clip.xy / clip.w * 0.5 + 0.5;
    if (clip.w <= 0.0 || any(lessThan(there, vec2(0.0))) || any(greaterThan(there, vec2(1.0)))) break;
    float behind = ahead(texture(depthsBehind, there).r);
    if (clip.w > behind && clip.w < behind + 3.0 * stride) return texture(stillBehind, there).rgb + texture(sunnedBehind, there).rgb;
    stride *= 1.18;
  }
  return around(way);
}
/** @param rate how much of a metre's light is taken */
Seen seenThrough(vec3 where, vec3 m, vec3 way, vec3 rate) {
  float far = length(way);
  way /= far;
  float along = dot(way, -vec3(viewMatrix[0][2], viewMatrix[1][2], viewMatrix[2][2]));
  ivec2 at = ivec2(gl_FragCoord.xy);
  float from = far * along;
  float out_ = texelFetch(exitDepths, at, 0).r;
  float behind = ahead(texelFetch(depthsBehind, at, 0).r);
  float end = out_ < 1.0 ? min(ahead(out_), behind) : from;
  float thick = max(end - from, 0.0) / along;
  vec3 bent = refract(way, m, 1.0 / takes.w);
  // As far as the plane in which it is left, or in which something stands within it.
  bool leaves = end < behind;
  vec3 n = !leaves ? -unfolded(texelFetch(shapeBehind, at, 0).xy) : out_ < 1.0 ? texelFetch(exits, at, 0).xyz : m;
  float facing = dot(bent, n);
  if (facing > 0.05) thick = clamp(thick * dot(way, n) / facing, 0.0, 2.0 * thick);
  vec3 place = where + thick * bent;
  vec3 onward = bent;
  if (leaves) {
    if (out_ < 1.0) onward = refract(bent, -n, takes.w);
    else onward = way;
    if (dot(onward, onward) < 0.5) {
      // All is thrown back within, and comes out where it came in, or goes on to and fro.
      bent = reflect(bent, n);
      onward = refract(bent, dot(bent, m) > 0.0 ? -m : m, takes.w);
      if (dot(onward, onward) < 0.5) onward = reflect(bent, m);
      return Seen(vec4(exp(-3.0 * rate * thick) * around(onward), 0.0), vec4(0.0), vec4(0.0), vec4(0.0));
    }
    place += min((behind - end) / along, 1000.0) * onward;
  }
  vec3 left = exp(-rate * thick);
  vec4 clip = toClip * vec4(place, 1.0);
  vec2 there = clip.xy / clip.w * 0.5 + 0.5;
  bool known = clip.w > 0.0 && all(greaterThan(there, vec2(0.0))) && all(lessThan(there, vec2(1.0)));
  // What stands before it is not seen through it.
  if (known && ahead(texture(depthsBehind, there).r) < from - 0.01 * from) there = gl_FragCoord.xy / vec2(textureSize(depthsBehind, 0));
  if (!known) return Seen(vec4(left * around(onward), 0.0), vec4(0.0), vec4(0.0), vec4(0.0));
  return Seen(
    vec4(left, 1.0) * texture(stillBehind, there), vec4(left, 1.0) * texture(sunnedBehind, there),
    vec4(left, 1.0) * texture(albedoBehind, there), texture(shapeBehind, there)
  );
}`;
