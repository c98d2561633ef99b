'use client';
import { useMemo } from 'react';
import { DoubleSide, GLSL3, ShaderMaterial } from 'three';

const vertexShader = /* glsl */ `
out vec3 world;
void main() {
  world = (modelMatrix * vec4(position, 1.0)).xyz;
  gl_Position = projectionMatrix * viewMatrix * vec4(world, 1.0);
}`;
const fragmentShader = /* glsl */ `
uniform float stride;
uniform float reach;
in vec3 world;
out vec4 outColor;
float line(vec2 p, float width) {
  vec2 w = fwidth(p);
  vec2 d = abs(fract(p - 0.5) - 0.5) / max(w, vec2(1e-6));
  // Where lines come closer than pixels they fade instead of shimmering.
  vec2 a = (1.0 - min(d / width, 1.0)) * (1.0 - smoothstep(0.15, 0.5, w));
  return max(a.x, a.y);
}
void main() {
  float fade = 1.0 - smoothstep(0.25, 1.0, length(world.xz) / reach);
  float fine = line(world.xz / stride, 1.0) * 0.09;
  float coarse = line(world.xz / (stride * 5.0), 1.2) * 0.13;
  outColor = vec4(0.0, 0.0, 0.0, max(fine, coarse) * fade);
}`;

/** The floor at y = 0, a line for each step in metres. */
export function FloorGrid({ step, reach }: { step: number; reach: number }) {
  const material = useMemo(
    () =>
      new ShaderMaterial({
        glslVersion: GLSL3,
        vertexShader,
        fragmentShader,
        side: DoubleSide,
        transparent: true,
        depthWrite: false,
        uniforms: { stride: { value: step }, reach: { value: reach } },
      }),
    [step, reach],
  );
  return (
    <mesh rotation={[-Math.PI / 2, 0, 0]} material={material} renderOrder={-1}>
      <planeGeometry args={[reach * 2, reach * 2]} />
    </mesh>
  );
}
