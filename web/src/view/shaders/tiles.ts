/** How many pixels a tile is wide and high. */
export const TILE = 16;

/** A tile is a point as large as itself: two triangles would draw what lies on their edge twice. Those at the far edges
 * end where the picture does. */
export const tileVertex = /* glsl */ `
uniform sampler2D tiles;
uniform vec2 whole;
void main() {
  int across = textureSize(tiles, 0).x;
  ivec2 tile = ivec2(gl_VertexID % across, gl_VertexID / across);
  vec2 middle = min((vec2(tile) + 0.5) * ${TILE}.0, whole - ${TILE / 2}.0) / whole;
  gl_PointSize = ${TILE}.0;
  // What has nothing to be drawn lies outside.
  gl_Position = vec4(texelFetch(tiles, tile, 0).r > 0.5 ? middle * 2.0 - 1.0 : vec2(3.0), 0.0, 1.0);
}`;

/** Whether what was seen at fewer places differs within a tile, or hides anything: a thin thing that stands between the
 * places would be hidden with it. */
export const sought = /* glsl */ `
precision highp float;
out vec4 colour;
uniform sampler2D before;
uniform vec2 whole;
uniform float bright;
/** So much of what a screen shows is as good as even, and so much hides as good as nothing. */
const float EVEN = 0.004;
const float HIDES = 0.03;
void main() {
  ivec2 most = textureSize(before, 0) - 1;
  vec2 scale = vec2(most + 1) / whole;
  vec2 low = floor(gl_FragCoord.xy - 0.5) * ${TILE}.0;
  low = min(low, whole - ${TILE}.0);
  ivec2 from = clamp(ivec2(floor(low * scale)) - 2, ivec2(0), most);
  ivec2 to = clamp(ivec2(ceil((low + ${TILE}.0) * scale)) + 1, ivec2(0), most);
  vec4 least = vec4(1e9);
  vec4 greatest = vec4(0.0);
  for (int y = from.y; y <= to.y; y++)
    for (int x = from.x; x <= to.x; x++) {
      vec4 here = texelFetch(before, ivec2(x, y), 0);
      least = min(least, here);
      greatest = max(greatest, here);
    }
  vec4 gap = greatest - least;
  gap.rgb *= bright / (0.5 + bright * greatest.rgb);
  bool even = max(max(gap.r, gap.g), max(gap.b, gap.a)) < EVEN && greatest.a < HIDES;
  colour = vec4(even ? 0.0 : 1.0);
}`;

/** What was seen at fewer places, over all of the picture. */
export const copy = /* glsl */ `
precision highp float;
in vec2 place;
out vec4 colour;
uniform sampler2D before;
void main() {
  colour = texture(before, place);
}`;
