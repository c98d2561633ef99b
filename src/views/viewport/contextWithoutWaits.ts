import { WebGLRenderer, type Camera, type Object3D, type WebGLRendererParameters } from 'three';

const pause = () => new Promise((resolve) => setTimeout(resolve));
/** A browser that is driven draws in software: a quarter of the pixels takes two thirds of a journey's time. */
const isDriven = typeof navigator !== 'undefined' && navigator.webdriver;
/** Pixels of the canvas for each of the page. */
export const pixelRatio = (): number => (isDriven ? 0.5 : Math.min(2, Math.max(1, window.devicePixelRatio)));

/** A renderer of a canvas, made in steps between which the page answers. */
export async function makeRenderer(wanted: WebGLRendererParameters): Promise<WebGLRenderer> {
  const canvas = wanted.canvas as HTMLCanvasElement;
  // At its size from the beginning: it is a wait to change that.
  const { width, height } = canvas.parentElement!.getBoundingClientRect();
  canvas.width = Math.floor(width * pixelRatio());
  canvas.height = Math.floor(height * pixelRatio());
  canvas.style.visibility = 'hidden';
  const context = canvas.getContext('webgl2', { alpha: true, antialias: !isDriven, powerPreference: 'high-performance' });
  await pause();
  // Without a context the renderer says what is missing.
  const renderer = new WebGLRenderer({ ...wanted, ...(context && { context }) });
  loseContextWhenIdle(renderer);
  await pause();
  return renderer;
}

/** Compiles all shaders of a scene while the page goes on: the first frame would hold it until that is done. */
export async function compileShaders(renderer: WebGLRenderer, scene: Object3D, camera: Camera): Promise<void> {
  // Asking for the log waits for the graphics process; our shaders are fixed and drawn by every journey.
  renderer.debug.checkShaderErrors = process.env.NODE_ENV !== 'production';
  await renderer.compileAsync(scene, camera);
  const gl = renderer.getContext() as WebGL2RenderingContext;
  // Where the browser cannot tell when a program is linked, using it waits for that: the graphics process is let come so far,
  // and what is left is waited for program by program.
  await drained(renderer);
  for (const { program } of renderer.info.programs ?? []) {
    gl.useProgram(program as WebGLProgram);
    await pause();
  }
  renderer.resetState();
  await drained(renderer);
}

/** Once the graphics process has done all that it was asked to; what it is asked for then, it answers at once. */
export async function drained(renderer: WebGLRenderer): Promise<void> {
  const gl = renderer.getContext() as WebGL2RenderingContext;
  const done = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
  gl.flush();
  while (done && !gl.isContextLost() && gl.getSyncParameter(done, gl.SYNC_STATUS) !== gl.SIGNALED)
    await new Promise((resolve) => setTimeout(resolve, 8));
}

/**
 * A context is given up only when the graphics process has done what it was asked to: giving it up sooner
 * holds the page until then.
 */
function loseContextWhenIdle(renderer: WebGLRenderer): void {
  const lose = renderer.forceContextLoss.bind(renderer);
  renderer.forceContextLoss = () => {
    void drained(renderer).then(() => renderer.getContext().isContextLost() || lose());
  };
}
