/** How a frame comes about: while the camera moves, when it has come to rest, and when it has rested for a while. */
export type Pace = 'moving' | 'resting' | 'settled';

/** Milliseconds that a frame may take. */
const goal: Record<Pace, number> = { moving: 60, resting: 350, settled: 1200 };
/** Triangles that are drawn in any case, and at most. */
const bounds = [20_000, 8_000_000] as const;
/** Frames of fewer say more of the screen than of their triangles. */
const telling = 10_000;

/** How much can be drawn in time on this machine, learned from the frames that it draws. */
export class FramePace {
  /** Triangles a millisecond. A software renderer draws a few hundred, a graphics card a hundred thousand. */
  private readonly rates: Record<Pace, number> = { moving: 1500, resting: 1500, settled: 1500 };
  private isWatching = false;

  budget(pace: Pace): number {
    return Math.max(bounds[0], Math.min(bounds[1], this.rates[pace] * goal[pace]));
  }

  /** Not even little is drawn in time while the camera moves: fewer pixels help. */
  get isSlow(): boolean {
    return this.budget('moving') === bounds[0];
  }

  /** Times the frame whose commands were just given, and calls back once it is drawn. */
  watch(gl: WebGL2RenderingContext, pace: Pace, triangles: number, onDrawn: () => void): void {
    if (this.isWatching || triangles < telling) return;
    const sync = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
    if (!sync) return;
    this.isWatching = true;
    gl.flush();
    const start = performance.now();
    const look = () => {
      if (!gl.isContextLost()) {
        const status = gl.clientWaitSync(sync, 0, 0);
        if (status === gl.TIMEOUT_EXPIRED) return void setTimeout(look, 3);
        gl.deleteSync(sync);
        this.learn(pace, triangles / Math.max(1, performance.now() - start));
      }
      this.isWatching = false;
      onDrawn();
    };
    setTimeout(look, 1);
  }

  /** Slower at once, faster by and by. What is learned of a frame at rest is true of every one at rest. */
  private learn(pace: Pace, rate: number): void {
    const before = this.rates[pace];
    const now = rate < before ? rate : (before + rate) / 2;
    if (pace === 'moving') this.rates.moving = now;
    else this.rates.resting = this.rates.settled = now;
  }
}
