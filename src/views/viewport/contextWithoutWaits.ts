import { Vector4, WebGLRenderer, type Camera, type Object3D, type WebGLRendererParameters } from 'three';

const pause = () => new Promise((resolve) => setTimeout(resolve));
/** A browser that is driven draws in software: a quarter of the pixels takes two thirds of a journey's time. */
const isDriven = typeof navigator !== 'undefined' && navigator.webdriver;
/** Pixels of the canvas for each of the page. */
export const pixelRatio = (): number => (isDriven ? 0.5 : Math.min(2, Math.max(1, window.devicePixelRatio)));

/** A renderer of a canvas, made in steps between which the page answers. */
export async function makeRenderer(wanted: WebGLRendererParameters): Promise<WebGLRenderer> {
  const canvas = wanted.canvas as HTMLCanvasElement;
  canvas.style.visibility = 'hidden';
  canvas.width = canvas.height = 1;
  // Asked for while React puts the page together, which takes its time as well.
  await pause();
  const context = canvas.getContext('webgl2', { alpha: true, antialias: !isDriven, powerPreference: 'high-performance' });
  await pause();
  // Its size is a wait of its own; a viewport that was left meanwhile has none.
  const { width = 1, height = 1 } = canvas.parentElement?.getBoundingClientRect() ?? {};
  canvas.width = Math.floor(width * pixelRatio());
  canvas.height = Math.floor(height * pixelRatio());
  await pause();
  // Without a context the renderer says what is missing.
  const renderer = new WebGLRenderer({ ...wanted, ...(context && { context }) });
  loseContextWhenIdle(renderer);
  await pause();
  return renderer;
}

/** Sets up all that a scene is drawn with while the page goes on: the first frame would hold it until that is done. */
export async function setUpDrawing(renderer: WebGLRenderer, scene: Object3D, camera: Camera): Promise<void> {
  // Asking for the log waits for the graphics process; our shaders are fixed and drawn by every journey.
  renderer.debug.checkShaderErrors = process.env.NODE_ENV !== 'production';
  await renderer.compileAsync(scene, camera);
  const gl = renderer.getContext() as WebGL2RenderingContext;
  // Where the browser cannot tell when a program is linked, using it waits for that: the graphics process is let come so far,
  // and what is left is waited for program by program.
  await drained(renderer);
  for (const linked of renderer.info.programs ?? []) {
    gl.useProgram(linked.program as WebGLProgram);
    linked.getUniforms();
    linked.getAttributes();
    await pause();
  }
  renderer.resetState();
  await drawInParts(renderer, scene, camera);
  await drained(renderer);
}

/** Parts in which a scene is drawn first, at most. */
const mostParts = 16;

/** Draws what is seen once, in parts and onto a single pixel: what is drawn for the first time is uploaded and set up then. */
async function drawInParts(renderer: WebGLRenderer, scene: Object3D, camera: Camera): Promise<void> {
  const things: { thing: Object3D; layers: number }[] = [];
  scene.traverseVisible((thing) => 'material' in thing && things.push({ thing, layers: thing.layers.mask }));
  const size = Math.ceil(things.length / mostParts);
  try {
    for (const { thing } of things) thing.layers.disableAll();
    for (let i = 0; i < things.length && !renderer.getContext().isContextLost(); i += size) {
      const part = things.slice(i, i + size);
      for (const { thing, layers } of part) thing.layers.mask = layers;
      // As it is now: the window may have changed its size in between.
      const viewport = renderer.getViewport(new Vector4());
      renderer.setViewport(0, 0, 1, 1);
      renderer.render(scene, camera);
      renderer.setViewport(viewport);
      for (const { thing } of part) thing.layers.disableAll();
      await pause();
    }
  } finally {
    for (const { thing, layers } of things) thing.layers.mask = layers;
  }
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
