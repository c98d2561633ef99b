import type { Camera, Object3D, WebGLRenderer } from 'three';

/** Compiles all shaders of a scene while the page goes on: the first frame would hold it until that is done. */
export async function compileShaders(renderer: WebGLRenderer, scene: Object3D, camera: Camera): Promise<void> {
  // Asking for the log waits for the graphics process; our shaders are fixed and drawn by every journey.
  renderer.debug.checkShaderErrors = process.env.NODE_ENV !== 'production';
  await renderer.compileAsync(scene, camera);
}

/**
 * A context is given up only when the graphics process has done what it was asked to: giving it up sooner
 * holds the page until then.
 */
export function loseContextWhenIdle(renderer: WebGLRenderer): void {
  const lose = renderer.forceContextLoss.bind(renderer);
  renderer.forceContextLoss = () => {
    const gl = renderer.getContext() as WebGL2RenderingContext;
    const done = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
    gl.flush();
    const look = () => {
      if (gl.isContextLost()) return;
      if (!done || gl.getSyncParameter(done, gl.SYNC_STATUS) === gl.SIGNALED) lose();
      else setTimeout(look, 50);
    };
    look();
  };
}
