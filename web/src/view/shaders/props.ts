import { lamps, octahedron } from "./lamps";
import { clearly } from "./clear";
import { skyLight, unevenness } from "./light";
import { stones } from "./place";

/** What is kept of the surface that is seen in each pixel, or of the sky: its light by all but the key lamp and the fire, and
 * its shine; its light by that lamp as if there were no smoke, and how soft its edges are; its own colour, and how much of a
 * metal it is; how it faces, how uneven it is (below 0: it is lit from all sides alike), and how rough. */
export const surfaceOutputs = /* glsl */ `
layout(location = 0) out vec4 still;
layout(location = 1) out vec4 sunned;
layout(location = 2) out vec4 albedo;
layout(location = 3) out vec4 shape;`;

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

/** Props as the picture shades them: lamps, the shadows of props and of smoke in their light, fire, unevenness, haze. */
export const propFragment = /* glsl */ `
precision highp float;
precision highp sampler3D;
in vec3 where;
in vec3 facing;
in vec3 dyed;
in float strong;
in float within;
in vec2 at;
${surfaceOutputs}
/** Its picture: 0 none, 1 for its colour, 2 with open holes; how much it covers; whether it is lit from all sides alike. */
uniform sampler2D picture;
uniform int pictured;
uniform float opacity;
uniform float even;
/** Whether one sees through it: what the frame lights is not known of what is behind, and is in its own light. */
uniform float sheer;
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
uniform float picked;
/** Whether something comes from it at this frame, which nothing else shows before a run. */
uniform float feeds;
uniform sampler2D shadowMap;
uniform mat4 toShadow;
uniform float shadowed;
uniform float texel;
${unevenness}
${stones}
${lamps}
${octahedron}
#ifdef CLEAR
${skyLight}
${clearly}
#endif
/** How much of the sun that is the key lamp props leave at a place. */
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
/** A plane by its normal and how far along it that lies: what is on the eye's side of it is cut off. */
uniform vec4 cut;
void main() {
  if (dot(cut.xyz, cut.xyz) > 0.0 && (dot(cut.xyz, where) - cut.w) * (dot(cut.xyz, cameraPosition) - cut.w) > 0.0) discard;
#ifdef CLEAR
  // Of those behind others only what one looks into.
  if (isPassed() || (passing > 0.5 && !gl_FrontFacing)) discard;
#endif
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
    still = vec4(facedBy * (paint + 0.08) / max(exposed, 1e-4) + picked * vec3(0.1, 0.13, 0.02) / max(exposed, 1e-4), 1.0);
    sunned = albedo = shape = vec4(vec3(0.0), 1.0);
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
  float start = unrest();
  vec3 eye = -way / far;
  vec3 of = made;
#ifdef CLEAR
  // What bends light throws some of it back.
  float dull = (takes.w - 1.0) / (takes.w + 1.0);
  of.x = max(of.x, 12.5 * dull * dull);
#endif
  Skin skin = Skin(where, n, m, eye, 0.3 * min(rough.x, 1.0), bumpy, of.y, even > 0.5, of.x + of.z > 0.0);
  vec3 sum = mix(vec3(sky[3], sky[4], sky[5]), shelter * vec3(sky[0], sky[1], sky[2]), 0.5 + 0.5 * m.y);
  vec3 hot = vec3(0.0);
  vec3 hotRim = vec3(0.0);
  vec3 sun = vec3(0.0);
  vec3 sunHot = vec3(0.0);
  vec3 sunRim = vec3(0.0);
  int last = sheer > 0.5 ? lampCount : fireFrom;
  vec3 off = lifted(where, n);
  int taps = octaves > 4 ? 12 : 4;
  for (int i = 0; i < last; i++) {
    vec2 mirrored;
    vec3 came = sent(i, skin, mirrored);
    if (came.r + came.g + came.b <= 0.0) continue;
    // As far off the surface as the shadow's own pixels are wide, or it would shade itself in stripes.
    if (i == keyLamp && lampPlace[i].w < 0.5) came *= open(off + (0.004 + 2.0 * texel) * n, 6.2831853 * start);
    else came *= unhidden(i, off + 0.004 * n, 6.2831853 * start, taps);
    if (i == keyLamp) {
      if (sheer > 0.5) came *= throughKey(off, start);
      sun = came;
      sunHot = mirrored.x * came;
      sunRim = mirrored.y * came;
      continue;
    }
    sum += came;
    hot += mirrored.x * came;
    hotRim += mirrored.y * came;
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
  vec3 sunlight = sun * own;
#ifdef CLEAR
  Seen through = seenThrough(where, m, way, mix(takes.rgb, -log(max(dyed, vec3(1e-4))) / deep, dyes));
  shaded = mix(shaded, through.still.rgb, clear);
  sunlight = mix(sunlight, through.sunned.rgb, clear);
  own = mix(own, through.albedo.rgb, clear);
#endif
  bool shines = skin.shines;
#ifdef CLEAR
  // What stands behind another of them is seen without what it throws back, as in prints.
  if (passing > 0.5) shines = false;
#endif
  if (shines) {
    vec3 straight;
    vec3 back = thrownBack(own, of, dot(m, eye), straight);
    vec3 mirror = reflect(-eye, m);
#ifdef CLEAR
    vec3 mirrored = mirroredBy(where, mirror, far);
#else
    vec3 mirrored = mix(vec3(sky[3], sky[4], sky[5]), vec3(sky[0], sky[1], sky[2]), 0.5 + 0.5 * mirror.y);
#endif
    vec3 kept = (1.0 - of.z) * (1.0 - back);
    shaded = shaded * kept + hot * straight + hotRim * rimmed(of) + mirrored * back * (1.0 - 0.55 * of.y * of.y);
    sunlight = sunlight * kept + sunHot * straight + sunRim * rimmed(of);
    // What is thrown back at the surface hides what is behind it.
    covers = mix(covers, 1.0, clamp(max(back.r, max(back.g, back.b)) + 0.3 * pow(1.0 - max(dot(m, eye), 0.0), 2.0), 0.0, 1.0));
  }
  shaded += shining;
  if (mixes == 1) shaded += glow * 16.0 * strong * strong * (1.0 - strong) * (1.0 - strong);
  if (mixes == 2) {
    // What is only shown keeps the shape's light, in the colour of what is picked.
    vec3 shows = vec3(0.5, 0.66, 0.11) * 1.6;
    shaded = mix(shaded, shows * (0.12 + dot(shaded, vec3(0.33))), 0.85 * strong);
    sunlight = mix(sunlight, shows * dot(sunlight, vec3(0.33)), 0.85 * strong);
    own = mix(own, shows * dot(own, vec3(0.33)), 0.85 * strong);
  }
  if (sky[6] > 0.0) {
    // Far off, everything goes over into the haze above the horizon.
    float turn = mod(atan(way.x, way.z) * 5.0929582, 32.0);
    int a = int(turn) % 32;
    int b = (a + 1) % 32;
    vec3 haze = mix(vec3(horizon[3 * a], horizon[3 * a + 1], horizon[3 * a + 2]),
      vec3(horizon[3 * b], horizon[3 * b + 1], horizon[3 * b + 2]), fract(turn));
    float clear = exp(-sky[6] * far);
    shaded = mix(haze, shaded, clear);
    sunlight *= clear;
    own *= clear;
  }
  float rim = 1.0 - abs(dot(n, normalize(cameraPosition - where)));
  shaded += feeds * vec3(1.0, 0.45, 0.16) * (0.05 + 0.9 * rim * rim) / max(exposed, 1e-4) * 0.35;
  shaded += picked * vec3(0.5, 0.66, 0.11) * (0.06 + 0.6 * rim * rim);
  if (sheer > 0.5) {
    still = vec4(shaded + sunlight, covers);
    sunned = albedo = vec4(vec3(0.0), covers);
    shape = vec4(0.0);
  } else {
    still = vec4(shaded, made.x);
    sunned = vec4(sunlight, skin.soft);
    albedo = vec4(own, made.z);
    shape = vec4(folded(m), skin.even ? -1.0 : bumpy, made.y);
#ifdef CLEAR
    // The fire lights what is seen through it.
    if (clear > 0.5) {
      still.a = through.still.a;
      sunned.a = through.sunned.a;
      albedo.a = through.albedo.a;
      shape = through.shape;
    }
#endif
  }
}`;
