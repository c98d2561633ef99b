import type { Camera, Object3D, WebGLRenderer } from 'three';

/** Compiles all shaders of a scene while the page goes on: the first frame would hold it until that is done. */
export async function compileShaders(renderer: WebGLRenderer, scene: Object3D, camera: Camera): Promise<void> {
  // Asking for the log waits for the graphics process; our shaders are fixed and drawn by every journey.
  renderer.debug.checkShaderErrors = process.env.NODE_ENV !== 'production';
  await renderer.compileAsync(scene, camera);
  // Where the browser cannot tell when a shader is ready, the graphics process tells when it has come that far.
  await drained(renderer.getContext() as WebGL2RenderingContext);
}

/** Once the graphics process has done all that it was asked to; what it is asked for then, it answers at once. */
async function drained(gl: WebGL2RenderingContext): Promise<void> {
  const done = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
  gl.flush();
  while (done && !gl.isContextLost() && gl.getSyncParameter(done, gl.SYNC_STATUS) !== gl.SIGNALED)
    await new Promise((resolve) => setTimeout(resolve, 8));
}

/**
 * A context is given up only when the graphics process has done what it was asked to: giving it up sooner
 * holds the page until then.
 */
export function loseContextWhenIdle(renderer: WebGLRenderer): void {
  const lose = renderer.forceContextLoss.bind(renderer);
  renderer.forceContextLoss = () => {
    const gl = renderer.getContext() as WebGL2RenderingContext;
    void drained(gl).then(() => gl.isContextLost() || lose());
  };
}
