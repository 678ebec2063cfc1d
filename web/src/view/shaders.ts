/** Shared by both: from linear light to what a screen shows, as the picture does it. */
const tone = /* glsl */ `
uniform float film[8];
const float CROSSTALK = 0.09;
const vec3 GREY = vec3(0.2126, 0.7152, 0.0722);
vec3 curve(vec3 light) {
  vec3 a = 0.72 * max(light, vec3(0.0));
  return clamp(a * (2.51 * a + 0.03) / (a * (2.43 * a + 0.59) + 0.14), 0.0, 1.0);
}
vec3 toned(vec3 light) {
  vec3 x = max(light * vec3(film[0], film[1], film[2]), vec3(0.0));
  if (film[4] != 1.0) x = 0.18 * pow(x / 0.18, vec3(film[4]));
  if (film[3] > 1.5) {
    x = curve((1.0 - CROSSTALK) * x + CROSSTALK * dot(x, GREY));
    x = (x - CROSSTALK * dot(x, GREY)) / (1.0 - CROSSTALK);
  } else if (film[3] > 0.5) {
    x = mix(x, 0.6 + 0.4 * (1.0 - exp(-2.5 * (x - 0.6))), vec3(greaterThan(x, vec3(0.6))));
  }
  x = clamp(x, 0.0, 1.0);
  return mix(1.055 * pow(max(x, vec3(1e-6)), vec3(0.41666667)) - 0.055, 12.92 * x, vec3(lessThanEqual(x, vec3(0.0031308))));
}`;

/** Light that comes from a direction of the sky, as the picture has it. */
const skyLight = /* glsl */ `
uniform float sky[40];
float perez(int at, float cosine, float angle) {
  float near = cos(angle);
  return (1.0 + sky[at] * exp(sky[at + 1] / cosine)) *
    (1.0 + sky[at + 2] * exp(sky[at + 3] * angle) + sky[at + 4] * near * near);
}
vec3 radiance(vec3 way) {
  if (sky[7] < 0.5) return vec3(sky[33], sky[34], sky[35]);
  float cosine = max(way.y, 0.035);
  float angle = acos(clamp(dot(vec3(way.x, max(way.y, 0.0), way.z), vec3(sky[8], sky[9], sky[10])), -0.9999, 0.9999));
  float bright = sky[26] * perez(11, cosine, angle);
  float x = sky[27] * perez(16, cosine, angle);
  float y = max(sky[28] * perez(21, cosine, angle), 0.01);
  vec3 xyz = vec3(bright * x / y, bright, bright * (1.0 - x - y) / y);
  vec3 rgb = vec3(dot(vec3(3.2404542, -1.5371385, -0.4985314), xyz), dot(vec3(-0.969266, 1.8760108, 0.041556), xyz),
    dot(vec3(0.0556434, -0.2040259, 1.0572252), xyz));
  return sky[29] * vec3(sky[30], sky[31], sky[32]) * max(rgb, vec3(0.0));
}`;

export const fullScreen = /* glsl */ `
out vec2 place;
void main() {
  place = position.xy * 0.5 + 0.5;
  gl_Position = vec4(position.xy, 0.0, 1.0);
}`;

/** Marches the frame's volume along each ray: smoke lit as the server lit it, heat as a tint. */
export const march = /* glsl */ `
precision highp float;
precision highp sampler3D;
in vec2 place;
out vec4 colour;
uniform sampler3D lit;
uniform sampler3D hot;
uniform sampler3D seen;
uniform vec3 seenLow;
uniform vec3 seenHigh;
uniform vec3 seenTint;
uniform float seenZero;
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
uniform vec4 shown;

vec3 unproject(float depth) {
  vec4 point = toWorld * vec4(place * 2.0 - 1.0, depth * 2.0 - 1.0, 1.0);
  return point.xyz / point.w;
}

void main() {
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
  float step = pace * voxel;
  float offset = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715))));
  vec3 size = high - low;
  float t = first - step * offset;
  for (int n = 0; n < 768; n++) {
    if (t >= last || through < 0.004) break;
    float from = max(t, first);
    t += step;
    float span = min(t, last) - from;
    vec3 at = (eye + (from + 0.5 * span) * ray - low) / size;
    vec4 here = texture(lit, at);
    float density = shown.x * here.a * here.a * peaks.x;
    vec4 flame = peaks.w > 0.0 || shown.y > 0.0 ? texture(hot, at) : vec4(0.0);
    float heat = shown.y * flame.a * flame.a;
    if (shown.w > 0.0 && peaks.w > 0.0)
      {
        // What a step gives off is seen through its own smoke.
        float depth = thickness * density * span;
        float part = depth > 0.01 ? (1.0 - exp(-depth)) / depth : 1.0 - 0.5 * depth;
        light += through * span * part * flame.rgb * flame.rgb * peaks.w;
      }
    if (shown.z > 0.0) {
      vec3 there = (eye + (from + 0.5 * span) * ray - seenLow) / (seenHigh - seenLow);
      if (all(greaterThan(there, vec3(0.0))) && all(lessThan(there, vec3(1.0)))) {
        float amount = abs(texture(seen, there).r - seenZero) * span * 1.6 / max(seenZero, 1.0 - seenZero);
        light += through * amount * seenTint;
        through *= exp(-0.5 * amount);
      }
    }
    if (density > 0.0001 || heat > 0.002) {
      float kept = exp(-thickness * density * span);
      light += through * (1.0 - kept) * albedo * here.rgb * here.rgb * peaks.z;
      // Heat glows for the eye only: how hot, not how bright.
      float glow = heat * span * 2.2;
      light += through * glow * heatTint;
      through *= kept * exp(-0.4 * glow);
    }
  }
  colour = vec4(light, 1.0 - through);
}`;

/** Lays the volume over the props and the background, and brings all to the screen. */
export const finish = /* glsl */ `
precision highp float;
in vec2 place;
out vec4 colour;
uniform sampler2D props;
uniform sampler2D volume;
uniform sampler2D depths;
uniform mat4 toWorld;
uniform vec3 eye;
${tone}
${skyLight}
void main() {
  vec4 smoke = texture(volume, place);
  vec3 behind = texture(props, place).rgb;
  if (texture(depths, place).r >= 1.0) {
    vec4 far = toWorld * vec4(place * 2.0 - 1.0, 1.0, 1.0);
    behind = radiance(normalize(far.xyz / far.w - eye));
  }
  vec3 sum = behind * (1.0 - smoke.a) + smoke.rgb;
  // Half a step of noise hides the bands of eight bits in dark places.
  float noise = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715)))) - 0.5;
  colour = vec4(toned(sum) + noise / 255.0, 1.0);
}`;

export const propVertex = /* glsl */ `
out vec3 where;
out vec3 facing;
void main() {
  vec4 world = modelMatrix * vec4(position, 1.0);
  where = world.xyz;
  facing = mat3(transpose(inverse(modelMatrix))) * normal;
  gl_Position = projectionMatrix * viewMatrix * world;
}`;

/** Props as the picture shades them, without shadows and unevenness. */
export const propFragment = /* glsl */ `
precision highp float;
in vec3 where;
in vec3 facing;
out vec4 result;
uniform vec3 tint;
uniform float sky[40];
uniform float horizon[96];
uniform int lampCount;
uniform vec4 lampPlace[8];
uniform vec3 lampColour[8];
uniform float picked;
void main() {
  vec3 n = normalize(facing) * (gl_FrontFacing ? 1.0 : -1.0);
  vec3 sum = mix(vec3(sky[3], sky[4], sky[5]), vec3(sky[0], sky[1], sky[2]), 0.5 + 0.5 * n.y);
  for (int i = 0; i < 8; i++) {
    if (i >= lampCount) break;
    vec3 way = lampPlace[i].xyz;
    float near = 1.0;
    if (lampPlace[i].w > 0.5) {
      way -= where;
      float far = max(length(way), 0.02);
      way /= far;
      near = 1.0 / (far * far);
    }
    sum += lampColour[i] * near * 0.31830989 * max(dot(n, way), 0.0);
  }
  vec3 way = where - cameraPosition;
  float far = length(way);
  vec3 lit = sum * tint;
  if (sky[6] > 0.0) {
    // Far off, everything goes over into the haze above the horizon.
    float turn = mod(atan(way.x, way.z) * 5.0929582, 32.0);
    int a = int(turn) % 32;
    int b = (a + 1) % 32;
    vec3 haze = mix(vec3(horizon[3 * a], horizon[3 * a + 1], horizon[3 * a + 2]),
      vec3(horizon[3 * b], horizon[3 * b + 1], horizon[3 * b + 2]), fract(turn));
    lit = mix(haze, lit, exp(-sky[6] * far));
  }
  float rim = 1.0 - abs(dot(n, normalize(cameraPosition - where)));
  result = vec4(lit + picked * vec3(0.5, 0.66, 0.11) * (0.06 + 0.6 * rim * rim), 1.0);
}`;
