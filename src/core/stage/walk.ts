/** Where a visitor stands on the stage, and where they look. */
export interface Visitor {
  /** Metres over the ground. */
  x: number;
  z: number;
  /** Radians about the vertical, counter-clockwise seen from above; 0 looks along -Z. */
  yaw: number;
  /** Radians up. */
  pitch: number;
  /** Where they walk to by themselves. */
  goal: readonly [x: number, z: number] | null;
}

/** What is asked of the visitor, each from -1 to 1. */
export interface Steps {
  ahead: number;
  /** To the right. */
  aside: number;
  /** To the left. */
  turn: number;
}

/** Metres from the ground to the eyes. */
export const eyeHeight = 1.7;
/** Metres a second. */
const pace = 3.2;
/** Radians a second. */
const turning = 1.6;
/** Metres at which a goal is reached. */
const close = 0.05;

/** The visitor some seconds later. Steps end the way to a goal. */
export function walked(visitor: Visitor, { ahead, aside, turn }: Steps, seconds: number): Visitor {
  const yaw = visitor.yaw + turn * turning * seconds;
  if (ahead || aside) {
    const length = pace * seconds * (ahead && aside ? Math.SQRT1_2 : 1);
    const [sin, cos] = [Math.sin(yaw), Math.cos(yaw)];
    // Ahead is (-sin, -cos) over the ground, and the right of it (cos, -sin).
    const x = visitor.x + (-sin * ahead + cos * aside) * length;
    const z = visitor.z + (-cos * ahead - sin * aside) * length;
    return { ...visitor, x, z, yaw, goal: null };
  }
  if (!visitor.goal) return turn ? { ...visitor, yaw } : visitor;
  const [dx, dz] = [visitor.goal[0] - visitor.x, visitor.goal[1] - visitor.z];
  const away = Math.hypot(dx, dz);
  const step = Math.min(away, pace * seconds);
  const isThere = away - step <= close;
  return {
    ...visitor,
    x: isThere ? visitor.goal[0] : visitor.x + (dx / away) * step,
    z: isThere ? visitor.goal[1] : visitor.z + (dz / away) * step,
    yaw,
    goal: isThere ? null : visitor.goal,
  };
}

/** The steepest look up or down, radians. */
const steepest = 1.45;
export const looked = (visitor: Visitor, left: number, up: number): Visitor => ({
  ...visitor,
  yaw: visitor.yaw + left,
  pitch: Math.max(-steepest, Math.min(steepest, visitor.pitch + up)),
});

/** A place from which one has something in view: so many metres before it on the visitor's side, looking there. */
export function before(visitor: Visitor, [x, , z]: readonly number[], metres: number): Visitor {
  const [dx, dz] = [x! - visitor.x, z! - visitor.z];
  const away = Math.hypot(dx, dz);
  const share = away > metres ? (away - metres) / away : 0;
  const yaw = away > 1e-6 ? Math.atan2(-dx, -dz) + 0 : visitor.yaw;
  return { ...visitor, x: visitor.x + dx * share, z: visitor.z + dz * share, yaw, pitch: 0, goal: null };
}
