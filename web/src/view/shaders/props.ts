import { unevenness } from "./light";
import { stones } from "./place";

export const propVertex = /* glsl */ `
in vec3 dye;
in float strength;
out vec2 at;
out float strong;
out vec3 where;
out vec3 facing;
out vec3 dyed;
out float within;
uniform int innerFrom;
void main() {
  dyed = dye;
  within = gl_VertexID >= innerFrom ? 1.0 : 0.0;
  strong = strength;
  at = uv;
  vec4 world = modelMatrix * vec4(position, 1.0);
  where = world.xyz;
  facing = mat3(transpose(inverse(modelMatrix))) * normal;
  gl_Position = projectionMatrix * viewMatrix * world;
}`;

/** Props as the picture shades them: lamps, the sun's shadows of props and of smoke, fire, unevenness, haze. */
export const propFragment = /* glsl */ `
precision highp float;
precision highp sampler3D;
in vec3 where;
in vec3 facing;
in vec3 dyed;
in float strong;
in float within;
in vec2 at;
out vec4 result;
/** Its picture: 0 none, 1 for its colour, 2 with open holes; how much it covers; whether it is lit from all sides alike. */
uniform sampler2D picture;
uniform int pictured;
uniform float opacity;
uniform float even;
/** What it has where it broke. */
uniform vec3 inner;
/** Shine, roughness and metal of what it is made of, and its own light. */
uniform vec3 made;
uniform vec3 light;
/** 0 none, 1 how much of the second colour there is, 2 only shown. */
uniform int mixes;
uniform vec3 second;
uniform vec3 glow;
uniform vec3 tint;
uniform float dyes;
/** 0 as in the picture, 1 plain, 2 plain and seen through. */
uniform int shownAs;
uniform vec2 rough;
/** How much of it stones lie on, and how large those are. */
uniform vec2 strewn;
uniform int octaves;
/** What the film makes of light, so that what is plain is as bright at any exposure. */
uniform float exposed;
uniform float pixel;
uniform float sky[40];
uniform float horizon[96];
uniform int lampCount;
uniform vec4 lampPlace[16];
uniform vec4 lampColour[16];
/** The way it shines and its kind (0 all round, 1 a cone, 2 a sheet); where a cone ends and begins to fade. */
uniform vec4 lampWay[16];
uniform vec3 lampEdge[16];
uniform float picked;
/** Whether something comes from it at this frame, which nothing else shows before a run. */
uniform float feeds;
uniform sampler2D shadowMap;
uniform mat4 toShadow;
uniform float shadowed;
uniform float texel;
uniform sampler3D lit;
uniform vec3 low;
uniform vec3 high;
uniform float smoke;
uniform float voxel;
${unevenness}
${stones}
float offset() {
  return fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715))));
}
/** How much of the first sun props leave at a place. */
float open(vec3 at, float turn) {
  if (shadowed < 0.5) return 1.0;
  vec4 seen = toShadow * vec4(at, 1.0);
  vec3 there = seen.xyz / seen.w * 0.5 + 0.5;
  if (any(lessThan(there, vec3(0.0))) || any(greaterThan(there, vec3(1.0)))) return 1.0;
  float sum = 0.0;
  for (int n = 0; n < 4; n++) {
    float angle = turn + 1.5708 * float(n);
    vec2 aside = vec2(cos(angle), sin(angle)) / vec2(textureSize(shadowMap, 0));
    sum += texture(shadowMap, there.xy + aside).r + 0.0004 > there.z ? 0.25 : 0.0;
  }
  return sum;
}
/** How much of a lamp's light the smoke on its way leaves. */
float through(vec3 at, vec3 way, float start) {
  if (smoke <= 0.0) return 1.0;
  vec3 slope = 1.0 / way;
  vec3 a = (low - at) * slope;
  vec3 b = (high - at) * slope;
  vec3 near3 = min(a, b);
  vec3 far3 = max(a, b);
  float first = max(max(near3.x, near3.y), max(near3.z, 0.0));
  float last = min(min(far3.x, far3.y), far3.z);
  if (first >= last) return 1.0;
  int count = clamp(int((last - first) / (2.0 * voxel)), 3, octaves > 4 ? 40 : 8);
  float span = (last - first) / float(count);
  float sum = 0.0;
  for (int n = 0; n < count; n++) {
    // Closest where it begins: what lies on the surface is thickest there, and would be dots.
    float part = (float(n) + start) / float(count);
    float root = texture(lit, (at + (first + part * part * (last - first)) * way - low) / (high - low)).a;
    sum += 2.0 * part * root * root;
  }
  return exp(-smoke * sum * span);
}
/** A plane by its normal and how far along it that lies: what is on the eye's side of it is cut off. */
uniform vec4 cut;
void main() {
  if (dot(cut.xyz, cut.xyz) > 0.0 && (dot(cut.xyz, where) - cut.w) * (dot(cut.xyz, cameraPosition) - cut.w) > 0.0) discard;
  vec3 n = normalize(facing) * (gl_FrontFacing ? 1.0 : -1.0);
  vec3 way = where - cameraPosition;
  if (shownAs > 0) {
    if (shownAs == 2 && mod(floor(gl_FragCoord.x) + floor(gl_FragCoord.y), 2.0) < 0.5) discard;
    // From the eye, as on a modelling stand, in a middle tone whatever the shot's light is.
    float facedBy = 0.25 + 0.75 * abs(dot(n, normalize(way)));
    vec3 paint = mix(mix(tint, dyed, dyes), inner, within);
    if (mixes == 1) paint = mix(paint, second, strong);
    if (mixes == 2) paint = mix(paint, vec3(0.62, 0.75, 0.16), strong);
    paint *= 0.35 / max(0.35, max(paint.r, max(paint.g, paint.b)));
    result = vec4(facedBy * (paint + 0.08) / max(exposed, 1e-4) + picked * vec3(0.1, 0.13, 0.02) / max(exposed, 1e-4), 1.0);
    return;
  }
  float far = length(way);
  float tone = 1.0;
  float dry = 0.0;
  float bumpy = 0.0;
  float shelter = 1.0;
  vec3 m = n;
  float grain = pixel * far / sqrt(max(abs(dot(n, way / far)), 0.03));
  if (rough.x > 0.0) {
    float lost;
    vec4 here = bumps(where, rough.y, grain, octaves, lost);
    m = normalize(n - 0.12 * rough.x * (here.yzw - dot(here.yzw, n) * n));
    bumpy = 0.0144 * rough.x * rough.x * lost;
    // The widest are left out of pictures that come again and again.
    dry = stains(where, rough.y, grain, octaves > 4 ? 3 : 1);
    tone = clamp(1.0 + rough.x * (0.3 * here.x + 0.3 * dry), 0.1, 2.0);
    dry *= rough.x;
  }
  if (strewn.x > 0.0) {
    // Where pictures come again and again they are taken for grit that is too fine to be seen.
    float lost = 1.5 * strewn.x;
    if (octaves > 4) {
      Strewn stone = strew(where, n, strewn.y, strewn.x, grain, lost);
      shelter = stone.open;
      if (stone.high > 0.0) {
        tone = stone.tone;
        dry = 0.0;
        m = normalize(0.5 * (m - n) + n + 1.3 * stone.leans);
      }
    }
    bumpy += lost;
  }
  // An even spread of slopes as wide as theirs.
  bumpy = 1.73 * sqrt(bumpy);
  float start = offset();
  vec3 sum = mix(vec3(sky[3], sky[4], sky[5]), shelter * vec3(sky[0], sky[1], sky[2]), 0.5 + 0.5 * m.y);
  vec3 off = where + n * 0.0015 * (1.0 + abs(where.x) + abs(where.y) + abs(where.z));
  // The first lamp is the sun where there is one; it alone throws shadows here.
  float sunlit = 1.0;
  if (lampCount > 0 && lampColour[0].w > 0.5 && dot(n, lampPlace[0].xyz) > 0.0 && lampPlace[0].w < 0.5) {
    // As far off the surface as the shadow's own pixels are wide, or it would shade itself in stripes.
    sunlit = open(off + (0.004 + 2.0 * texel) * n, 6.2831853 * start);
    if (sunlit > 0.0) sunlit *= through(off, lampPlace[0].xyz, start);
  }
  vec3 eye = -way / far;
  float alpha = made.y * made.y;
  vec3 hot = vec3(0.0);
  for (int i = 0; i < lampCount; i++) {
    vec3 to = lampPlace[i].xyz;
    float near = 1.0;
    float width = 1e-3;
    if (lampPlace[i].w > 0.5) {
      to -= where;
      float most = max(length(to), 0.02);
      to /= most;
      float size = lampPlace[i].w - 1.0;
      float square = most * most + size * size;
      near = lampEdge[i].z > 1.5 ? 1.0 / square : lampEdge[i].z > 0.5 ? inversesqrt(square) : 1.0;
      width = max(size * inversesqrt(square), 0.3 * min(rough.x, 1.0));
      float ahead = -dot(to, lampWay[i].xyz);
      if (lampWay[i].w > 1.5) near *= max(ahead, 0.0);
      else if (lampWay[i].w > 0.5) near *= smoothstep(lampEdge[i].x, lampEdge[i].y, ahead);
    }
    float cosine = dot(m, to);
    width = max(width, bumpy * sqrt(max(1.0 - cosine * cosine, 0.0)));
    float faced = abs(cosine) < width ? 0.25 * (cosine + width) * (cosine + width) / width : max(cosine, 0.0);
    faced *= inversesqrt(1.0 + 0.667 * bumpy * bumpy);
    near *= 0.31830989 * (even > 0.5 ? 0.5 : faced * step(0.0, dot(n, to)));
    vec3 came = near * (i == 0 ? sunlit : 1.0) * lampColour[i].rgb;
    sum += came;
    if (made.x + made.z > 0.0) {
      vec3 half_ = normalize(to + eye);
      float nl = max(dot(m, to), 0.001);
      float nv = max(dot(m, eye), 0.001);
      float nh = max(dot(m, half_), 0.0);
      float under = nh * nh * (alpha * alpha - 1.0) + 1.0;
      float k = alpha * alpha;
      float seen = 0.5 / (nl * sqrt(nv * nv * (1.0 - k) + k) + nv * sqrt(nl * nl * (1.0 - k) + k));
      hot += came * seen * k / (under * under);
    }
  }
  vec3 own = mix(mix(tint, dyed, dyes), inner, within);
  float covers = opacity;
  vec3 shining = light;
  if (pictured > 0) {
    vec4 here = texture(picture, at);
    own = here.rgb;
    shining *= own;
    if (pictured > 1) covers *= here.a;
  }
  own = (mixes == 1 ? mix(own, second, strong) : own) * tone;
  // Where it is dry it is paler and warmer.
  own *= vec3(1.0 + 0.1 * dry, 1.0, 1.0 - 0.14 * dry);
  vec3 shaded = sum * own;
  if (made.x + made.z > 0.0) {
    vec3 straight = mix(vec3(0.08 * made.x), own, made.z);
    vec3 mirror = reflect(-eye, m);
    vec3 around = mix(vec3(sky[3], sky[4], sky[5]), vec3(sky[0], sky[1], sky[2]), 0.5 + 0.5 * mirror.y);
    float rim = pow(1.0 - max(dot(m, eye), 0.0), 5.0) * (1.0 - made.y) * min(4.0 * made.x + made.z, 1.0);
    vec3 back = straight + (1.0 - straight) * rim;
    shaded = shaded * (1.0 - made.z) * (1.0 - back) + hot * straight + around * back * (1.0 - 0.55 * made.y * made.y);
    // What is thrown back at the surface hides what is behind it.
    covers = mix(covers, 1.0, clamp(max(back.r, max(back.g, back.b)) + 0.3 * pow(1.0 - max(dot(m, eye), 0.0), 2.0), 0.0, 1.0));
  }
  shaded += shining;
  if (mixes == 1) shaded += glow * 16.0 * strong * strong * (1.0 - strong) * (1.0 - strong);
  // What is only shown keeps the shape's light, in the colour of what is picked.
  if (mixes == 2) shaded = mix(shaded, vec3(0.5, 0.66, 0.11) * (0.12 + dot(shaded, vec3(0.33))) * 1.6, 0.85 * strong);
  if (sky[6] > 0.0) {
    // Far off, everything goes over into the haze above the horizon.
    float turn = mod(atan(way.x, way.z) * 5.0929582, 32.0);
    int a = int(turn) % 32;
    int b = (a + 1) % 32;
    vec3 haze = mix(vec3(horizon[3 * a], horizon[3 * a + 1], horizon[3 * a + 2]),
      vec3(horizon[3 * b], horizon[3 * b + 1], horizon[3 * b + 2]), fract(turn));
    shaded = mix(haze, shaded, exp(-sky[6] * far));
  }
  float rim = 1.0 - abs(dot(n, normalize(cameraPosition - where)));
  shaded += feeds * vec3(1.0, 0.45, 0.16) * (0.05 + 0.9 * rim * rim) / max(exposed, 1e-4) * 0.35;
  result = vec4(shaded + picked * vec3(0.5, 0.66, 0.11) * (0.06 + 0.6 * rim * rim), covers);
}`;
