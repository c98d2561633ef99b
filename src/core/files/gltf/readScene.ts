import { limits } from '../../ground/limits';
import { MathUtils, type mat4, type vec3, type vec4 } from '@gltf-transform/core';
import { FileError, parseJson } from '../../ground/bytes/errors';
import { identity, multiply, type Matrix } from './matrix';

interface NodeJson {
  name?: unknown;
  children?: unknown;
  matrix?: unknown;
  translation?: unknown;
  rotation?: unknown;
  scale?: unknown;
  extras?: unknown;
}

/**
 * The stage that a GLB of `writeScene` holds, as a stage file says it, but not yet checked: each node that says of which
 * model it is, where it stands in the file, also where another program moved it. Reads the JSON of the file alone. Throws
 * `FileError` where the file is no GLB, holds no stage, or where something was tilted or stretched.
 */
export function stageInGlb(file: string, bytes: Uint8Array): unknown {
  const json = jsonOf(file, bytes) as { scene?: unknown; scenes?: unknown; nodes?: unknown };
  const scenes = Array.isArray(json.scenes) ? (json.scenes as { nodes?: unknown; extras?: { stage?: unknown } }[]) : [];
  const scene = scenes[typeof json.scene === 'number' ? json.scene : 0];
  const said = scene?.extras?.stage;
  if (!scene || typeof said !== 'object' || said === null)
    throw new FileError(
      file,
      'it holds no stage. A model comes in under Gather; a stage is a GLB or a stage.json that was saved from here.',
    );
  const nodes = Array.isArray(json.nodes) ? (json.nodes as NodeJson[]) : [];
  const placements: { said: unknown; number: number }[] = [];
  let visited = 0;
  const add = (said: unknown, number: unknown) => {
    if (placements.push({ said, number: typeof number === 'number' && number >= 0 ? number : Infinity }) > limits.nodes)
      throw new FileError(file, `it has more than ${limits.nodes.toLocaleString('en')} placements.`);
  };
  const visit = (index: unknown, above: Matrix, depth: number): void => {
    const node = typeof index === 'number' ? nodes[index] : undefined;
    // One that hangs below several others is met as often as these are: what doubles at each level has no end.
    if (++visited > limits.nodes) throw new FileError(file, `it has more than ${limits.nodes.toLocaleString('en')} nodes.`);
    if (!node || depth > limits.nodeDepth) throw new FileError(file, 'its nodes do not fit together.');
    const matrix = multiply(above, localOf(file, node));
    const extras = (node.extras ?? {}) as { model?: unknown; coloring?: unknown; number?: unknown; placements?: unknown };
    if (Array.isArray(extras.placements)) for (const one of extras.placements as unknown[]) add(...numberOf(one));
    else if (typeof extras.model === 'string' && typeof extras.coloring === 'string')
      add(
        {
          name: node.name,
          model: extras.model,
          coloring: extras.coloring,
          ...standingOf(file, typeof node.name === 'string' ? node.name : `node ${String(index)}`, matrix),
        },
        extras.number,
      );
    else for (const child of Array.isArray(node.children) ? node.children : []) visit(child, matrix, depth + 1);
  };
  for (const index of Array.isArray(scene.nodes) ? scene.nodes : []) visit(index, identity, 0);
  // Where what stands there several times is one node, numbers say the order; what has none came later.
  placements.sort((a, b) => (a.number === b.number ? 0 : a.number - b.number));
  return { ...said, placements: placements.map((p) => p.said) };
}

/** What is said of a placement, and which of the stage's it is. */
function numberOf(one: unknown): [said: unknown, number: unknown] {
  if (typeof one !== 'object' || one === null) return [one, undefined];
  const { number, ...said } = one as { number?: unknown };
  return [said, number];
}

const [magic, jsonChunk] = [0x46546c67, 0x4e4f534a];

function jsonOf(file: string, bytes: Uint8Array): unknown {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20 || view.getUint32(0, true) !== magic || view.getUint32(16, true) !== jsonChunk)
    throw new FileError(file, 'it is no GLB of the second version.');
  const length = view.getUint32(12, true);
  if (20 + length > bytes.length) throw new FileError(file, 'it is cut short. Save it again.');
  const json = parseJson(file, new TextDecoder().decode(bytes.subarray(20, 20 + length)), 'its contents cannot be read');
  return typeof json === 'object' && json !== null ? json : {};
}

function localOf(file: string, { matrix, translation, rotation, scale }: NodeJson): mat4 {
  const numbers = <T extends readonly number[]>(value: unknown, usual: T): T => {
    if (value === undefined) return usual;
    if (!Array.isArray(value) || value.length !== usual.length || !value.every((v) => Number.isFinite(v)))
      throw new FileError(file, 'a node stands nowhere.');
    return value as unknown as T;
  };
  if (matrix !== undefined) return numbers<mat4>(matrix, [...identity]);
  const [move, turn, size] = [
    numbers<vec3>(translation, [0, 0, 0]),
    numbers<vec4>(rotation, [0, 0, 0, 1]),
    numbers<vec3>(scale, [1, 1, 1]),
  ];
  return MathUtils.compose(move, turn, size, [...identity]);
}

/** How far a placement may be from upright and alike in all directions, of its size. */
const slack = 1e-3;

/** Place, turn and size of a node. Throws where it is tilted, stretched or mirrored. */
function standingOf(file: string, name: string, m: Matrix): { at: number[]; turn: number; scale: number } {
  const scale = Math.hypot(m[4]!, m[5]!, m[6]!);
  const close = (a: number, b: number) => Math.abs(a - b) <= slack * Math.max(1e-6, scale);
  const turn = (Math.atan2(m[8]!, m[10]!) * 180) / Math.PI;
  const isUpright = close(m[4]!, 0) && close(m[5]!, scale) && close(m[6]!, 0);
  // About the vertical, X is a quarter turn before Z: a mirrored node has it behind.
  const isAlike =
    close(m[0]!, m[10]!) && close(m[2]!, -m[8]!) && close(m[1]!, 0) && close(m[9]!, 0) && close(Math.hypot(m[8]!, m[10]!), scale);
  if (!isUpright || !isAlike)
    throw new FileError(
      file,
      `“${name}” is tilted, stretched or mirrored. A placement turns about the vertical and is sized alike in all directions.`,
    );
  const fine = (v: number, steps: number) => Math.round(v * steps) / steps + 0;
  return {
    at: [m[12]!, m[13]!, m[14]!].map((v) => fine(v, 1000)),
    turn: fine(((turn % 360) + 360) % 360, 100) % 360,
    scale: fine(scale, 1000),
  };
}
