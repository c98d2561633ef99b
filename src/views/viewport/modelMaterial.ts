import { GLSL3, ShaderMaterial, Vector2, type DataArrayTexture, type DataTexture } from 'three';

export const shadingNumber = { true: 0, light: 1, grey: 2 } as const;

export const samplingNumber = { none: 0, nearest: 1, bilinear: 2, trilinear: 3 } as const;
/** Sheets of a kit that are sampled as an engine does; those beyond look as anywhere else. */
export const mostSheets = 64;

/** Bits of the state texture. */
export const stateBits = { picked: 1, pointed: 2, shown: 4, hidden: 8, bothSides: 16 } as const;

const vertexShader = /* glsl */ `
in uint faceId;
in float faceSize;
in vec2 sheetUv;
out vec2 vUv;
out vec2 vSheetUv;
out vec3 vPlace;
flat out uint vFace;
flat out float vSize;
out vec3 vNormal;
out vec3 vPosition;
void main() {
  vFace = faceId;
  vSize = faceSize;
  vUv = uv;
  vSheetUv = sheetUv;
  vPlace = position;
  vNormal = normal;
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  vPosition = seen.xyz;
  gl_Position = projectionMatrix * seen;
}`;

const fragmentShader = /* glsl */ `
precision highp usampler2D;
uniform highp usampler2D cells;
uniform highp usampler2D states;
uniform sampler2D cellColors;
uniform sampler2D asRead;
uniform highp usampler2D tones;
uniform bool toned;
uniform float checkerStep;
uniform highp sampler2DArray pictures;
uniform highp sampler2DArray sheets;
uniform int textureWidth;
uniform int sampling;
uniform float farther;
uniform int leftOut;
uniform vec2 sheetSizes[${mostSheets}];
uniform int shading;
uniform uint previewCell;
uniform uint pointedCell;
uniform bool hatchHidden;
uniform int cutAxis;
uniform float cutOffset;
uniform bool onlyBehind;
uniform bool backsAsLeft;
uniform float pixelRatio;
uniform vec3 surround;
flat in uint vFace;
flat in float vSize;
in vec3 vNormal;
in vec3 vPosition;
in vec2 vUv;
in vec2 vSheetUv;
in vec3 vPlace;
out vec4 outColor;

vec3 toLinear(vec3 c) { return mix(c / 12.92, pow((c + 0.055) / 1.055, vec3(2.4)), step(0.04045, c)); }
vec3 toScreen(vec3 c) { return mix(c * 12.92, 1.055 * pow(c, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, c)); }
float lightness(vec3 c) {
  vec3 lms = pow(mat3(0.4122214708, 0.2119034982, 0.0883024619, 0.5363325363, 0.6806995451, 0.2817188376, 0.0514459929, 0.1073969566, 0.6299787005) * c, vec3(1.0 / 3.0));
  return dot(lms, vec3(0.2104542553, 0.793617785, -0.0040720468));
}
/* Ink and paper lines, each one pixel and a half, every so many pixels. */
vec4 hatch(float along, float every) {
  float m = mod(along, every);
  return m < 1.6 ? vec4(0.067, 0.067, 0.067, 1.0) : m < 3.2 ? vec4(1.0) : vec4(0.0);
}

/* As an engine samples a sheet: its mip levels lie right of it, each under the one before; see mips.ts of core. */
vec3 texelOfLevel(int sheet, ivec2 size, int level, ivec2 at) {
  ivec2 own = max(size >> level, 1);
  ivec2 corner = ivec2(level == 0 ? 0 : size.x, 0);
  for (int k = 1; k < level; k++) corner.y += max(size.y >> k, 1);
  return texelFetch(sheets, ivec3(corner + clamp(at, ivec2(0), own - 1), sheet), 0).rgb;
}
vec3 mixedOfLevel(int sheet, ivec2 size, int level, vec2 place) {
  vec2 p = place * vec2(max(size >> level, 1)) - 0.5;
  ivec2 at = ivec2(floor(p));
  vec2 t = fract(p);
  return mix(
    mix(texelOfLevel(sheet, size, level, at), texelOfLevel(sheet, size, level, at + ivec2(1, 0)), t.x),
    mix(texelOfLevel(sheet, size, level, at + ivec2(0, 1)), texelOfLevel(sheet, size, level, at + ivec2(1, 1)), t.x), t.y);
}
vec3 sampled(int sheet, vec2 texel, float footprint) {
  ivec2 size = ivec2(sheetSizes[sheet]);
  vec2 place = texel / vec2(size);
  float last = floor(log2(float(max(size.x, size.y))));
  float least = min(float(leftOut), last);
  if (sampling == 1) return texelOfLevel(sheet, size, int(least), ivec2(floor(place * vec2(max(size >> int(least), 1)))));
  float level = clamp(log2(max(footprint * farther, 1e-6)), least, last);
  if (sampling == 2) return mixedOfLevel(sheet, size, int(floor(level + 0.5)), place);
  int below = int(floor(level));
  return mix(mixedOfLevel(sheet, size, below, place), mixedOfLevel(sheet, size, min(below + 1, int(last)), place), fract(level));
}

void main() {
  /* Texels under a pixel, along its longer side; asked for here, where all pixels of a face come by. */
  vec2 texel = vSheetUv * vec2(textureSize(sheets, 0).xy);
  float footprint = max(length(dFdx(texel)), length(dFdy(texel)));
  ivec2 at = ivec2(int(vFace) % textureWidth, int(vFace) / textureWidth);
  uint cell = texelFetch(cells, at, 0).r;
  uint state = texelFetch(states, at, 0).r;
  if ((state & 8u) != 0u || (cutAxis >= 0 && vPlace[cutAxis] > cutOffset) || (onlyBehind && gl_FrontFacing)) discard;
  bool picked = (state & 1u) != 0u;
  bool previewing = picked && previewCell > 0u;
  if (previewing) cell = previewCell;
  vec2 screen = gl_FragCoord.xy / pixelRatio;
  float facePixels = vSize / max(length(fwidth(vPosition)) * pixelRatio, 1e-9);
  vec3 normal = normalize(vNormal);
  if (!gl_FrontFacing) normal = -normal;

  vec3 color;
  if (cell == 0u) {
    vec4 read = texelFetch(asRead, at, 0);
    /* Not yet colored: what it came with, or bare paper, under a screen of dots; a little shade lets bare shapes read. */
    int layer = int(read.a * 255.0 + 0.5);
    vec3 came = layer == 0 ? vec3(0.86) : layer == 255 ? read.rgb : texture(pictures, vec3(vUv, float(layer - 1)), -0.8).rgb;
    color = came * (0.9 + 0.1 * normal.y + 0.05 * normal.x);
    vec2 dot2 = mod(vec2(screen.x + screen.y, screen.x - screen.y), 8.0) - 4.0;
    float ink = 1.0 - smoothstep(0.7, 1.4, length(dot2) * 0.7071);
    float dark = lightness(toLinear(color)) > 0.5 ? 0.0 : 1.0;
    color = mix(color, vec3(dark), ink * 0.42 * smoothstep(2.0, 8.0, facePixels));
  } else {
    ivec2 entry = ivec2(int(cell) % 256, int(cell) / 256);
    vec4 own = texelFetch(cellColors, entry, 0);
    /* Alpha below 255: the cell differs from place to place, so look at the sheet itself. */
    int layer = int(own.a * 255.0 + 0.5);
    if (sampling > 0 && layer != 255 && layer <= ${mostSheets} && !previewing) color = sampled(layer - 1, texel, footprint);
    else color = layer == 255 || previewing ? own.rgb : texture(sheets, vec3(vSheetUv, float(layer - 1))).rgb;
    if (checkerStep > 0.0 && layer != 255) {
      vec2 square = floor(vSheetUv * vec2(textureSize(sheets, 0).xy) / checkerStep);
      color = vec3(mod(square.x + square.y, 2.0) < 0.5 ? 0.86 : 0.36);
    }
  }
  if (toned) {
    /* A lightness stands for how far a face is stretched; those that lie nowhere on art step back. */
    uint tone = texelFetch(tones, at, 0).r;
    color = tone == 0u ? mix(color, surround, 0.85) : vec3(float(tone - 1u) / 254.0);
  }
  if (shading == 1) {
    vec3 linear = toLinear(color);
    float key = max(dot(normal, normalize(vec3(0.5, 0.8, 0.6))), 0.0);
    color = toScreen(min(linear * (0.42 + 0.12 * normal.y + 0.75 * key), vec3(1.0)));
  } else if (shading == 2) {
    float l = lightness(toLinear(color));
    color = toScreen(vec3(l * l * l));
  }
  /* The back of a face that leaves with one side only: a game shows nothing there, so it has no color, only level lines. */
  if (backsAsLeft && !gl_FrontFacing && (state & 16u) == 0u && cutAxis < 0 && !onlyBehind)
    color = surround * (mod(screen.y, 5.0) < 1.4 ? 0.72 : 1.1);
  if (pointedCell > 0u && previewCell == 0u && cell != pointedCell) color = mix(color, surround, 0.78);
  if (!hatchHidden) {
    /* On faces of a few pixels a hatch would only be noise. */
    float fade = smoothstep(3.0, 10.0, facePixels);
    vec4 lines = vec4(0.0);
    if (picked && !previewing) lines = hatch(screen.x + screen.y, 9.0);
    else if ((state & 4u) != 0u) { lines = hatch(screen.x + screen.y, 9.0); if (lines.a == 0.0) lines = hatch(screen.x - screen.y, 9.0); }
    else if ((state & 2u) != 0u) lines = hatch(screen.x - screen.y, 17.0) * 0.8;
    color = mix(color, lines.rgb, lines.a * fade);
    /* Where a hatch would be noise, a grain of ink and paper dots still tells what is picked. */
    if (picked && !previewing && fade < 1.0) {
      vec2 grain = mod(floor(screen), 4.0);
      bool isInk = grain == vec2(0.0) || grain == vec2(2.0);
      bool isPaper = grain == vec2(1.0, 0.0) || grain == vec2(3.0, 2.0);
      color = isInk ? mix(vec3(0.067), color, fade) : isPaper ? mix(vec3(1.0), color, fade) : color;
    }
  }
  outColor = vec4(color, 1.0);
}`;

export interface ModelTextures {
  cells: DataTexture;
  states: DataTexture;
  cellColors: DataTexture;
  asRead: DataTexture;
  tones: DataTexture;
  pictures: DataArrayTexture;
  sheets: DataArrayTexture;
  width: number;
}

/**
 * Flat colors by face: what a face looks like is looked up by its number, so that coloring uploads texels and
 * never geometry.
 */
export function modelMaterial({ cells, states, cellColors, asRead, tones, pictures, sheets, width }: ModelTextures): ShaderMaterial {
  return new ShaderMaterial({
    glslVersion: GLSL3,
    vertexShader,
    fragmentShader,
    side: 2,
    // Lines lie on the faces; this lets them win.
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
    uniforms: {
      cells: { value: cells },
      states: { value: states },
      cellColors: { value: cellColors },
      asRead: { value: asRead },
      tones: { value: tones },
      toned: { value: false },
      checkerStep: { value: 0 },
      sampling: { value: 0 },
      farther: { value: 1 },
      leftOut: { value: 0 },
      sheetSizes: { value: Array.from({ length: mostSheets }, () => new Vector2(1, 1)) },
      pictures: { value: pictures },
      sheets: { value: sheets },
      textureWidth: { value: width },
      shading: { value: 0 },
      previewCell: { value: 0 },
      pointedCell: { value: 0 },
      hatchHidden: { value: false },
      cutAxis: { value: -1 },
      cutOffset: { value: 0 },
      onlyBehind: { value: false },
      backsAsLeft: { value: true },
      pixelRatio: { value: 1 },
      surround: { value: [0.56, 0.56, 0.56] },
    },
  });
}
