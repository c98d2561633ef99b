import type { Document, Material, Mesh, Node, Primitive, Scene } from '@gltf-transform/core';
import { indexRows, type Column } from '../../shapes/mesh/rows';
import { pickRows } from '../../shapes/mesh/build';
import { createAccessor, setIndices, values } from './accessor';
import { anchorsOf, layoutOf } from './joinNumbers';
import { mappingKey } from './materialVariants';
import { cofactor, determinant, inverse, linearPart, multiply, transformDirection, transformPoint, type Matrix } from './matrix';

/**
 * Fewest draw calls: meshes that nothing moves apart become one mesh, and of its triangles those with one
 * material one primitive, whose equal vertices are welded. Nodes that are left empty by it go, unless
 * something else hangs on them. `nodes`: those of one model; `top`: what stands above all of them; `kept`: nodes that
 * stay apart with what hangs on them. Method: as
 * `anchorsOf` and `layoutOf` tell, which readers use to foresee it.
 */
export function joinMeshes(document: Document, nodes: readonly Node[], top: Scene | Node, name: string, kept?: ReadonlySet<Node>): void {
  const anchorOf = anchorsOf(document, kept);
  // What is in no scene, or in another one, is not shown, and must not come to be.
  const shown = new Set<Node>();
  top.traverse((node) => shown.add(node));
  const groups = new Map<string, { under: Node | null; members: Node[] }>();
  for (const node of nodes) {
    if (!node.getMesh() || !shown.has(node)) continue;
    const { key, under } = anchorOf(node);
    const group = groups.get(key);
    if (group) group.members.push(node);
    else groups.set(key, { under, members: [node] });
  }
  const welded = new Map<Mesh, Mesh>();
  for (const { under, members } of groups.values()) {
    const [first] = members as [Node];
    const mesh = first.getMesh()!;
    if (members.length === 1) {
      // Copies that move each on its own go on sharing one mesh.
      if (!welded.has(mesh))
        welded.set(
          mesh,
          meshOf(
            document,
            mesh,
            mesh.listPrimitives().map((p) => [p, null]),
          ),
        );
      first.setMesh(welded.get(mesh)!);
      continue;
    }
    const isSkinned = first.getSkin() !== null;
    // A node that is kept has the mesh itself, where it had one.
    const own = under && kept?.has(under) && members.includes(under) ? under : null;
    const target = isSkinned ? first : (own ?? document.createNode(name));
    if (target !== first && target !== own) (under ?? top).addChild(target);
    const home = isSkinned ? null : inverse(target.getWorldMatrix());
    const parts = members.flatMap((n) =>
      n
        .getMesh()!
        .listPrimitives()
        .filter((p) => isTriangles(p) || n === target)
        .map((p): [Primitive, Matrix | null] => [p, home && multiply(home, n.getWorldMatrix())]),
    );
    const joined = meshOf(document, mesh, parts).setName(name);
    for (const node of members) if (node !== target) leave(document, node);
    target.setMesh(joined);
    for (const node of members) if (node !== target) dropEmpty(node);
  }
}

const isTriangles = (p: Primitive) => p.getMode() === 4;

/** Takes a node's triangles off it; points and lines stay. */
function leave(document: Document, node: Node): void {
  const rest = node
    .getMesh()!
    .listPrimitives()
    .filter((p) => !isTriangles(p));
  node.setMesh(null);
  if (!rest.length) {
    node.setSkin(null);
    return;
  }
  const mesh = document.createMesh(node.getName());
  for (const p of rest) mesh.addPrimitive(p);
  node.setMesh(mesh);
}

/** A node without anything goes, and those above it that only held it. */
function dropEmpty(node: Node): void {
  for (let at: Node | null = node; at;) {
    const above: Node | null = at.getParentNode();
    const isHeld = at.listParents().some((p) => !['Root', 'Scene', 'Node'].includes(p.propertyType));
    const isEmpty = !at.getMesh() && !at.getCamera() && !at.getSkin() && !at.listChildren().length && !at.listExtensions().length;
    if (!isEmpty || isHeld || Object.keys(at.getExtras()).length) return;
    at.dispose();
    at = above;
  }
}

/**
 * A mesh like another one, of these primitives, each moved by a matrix; those with one layout and one material, in
 * every variant, become one.
 */
function meshOf(document: Document, like: Mesh, parts: readonly (readonly [Primitive, Matrix | null])[]): Mesh {
  const out = like.clone();
  for (const p of out.listPrimitives()) out.removePrimitive(p);
  const numbers = new Map<Material | null, number>();
  const numberOf = (material: Material | null) => {
    if (!numbers.has(material)) numbers.set(material, numbers.size);
    return numbers.get(material)!;
  };
  const kinds = new Map<Material | null, Map<string, (readonly [Primitive, Matrix | null])[]>>();
  for (const part of parts) {
    const [primitive] = part;
    if (!isTriangles(primitive)) {
      out.addPrimitive(primitive);
      continue;
    }
    const layouts = kinds.get(primitive.getMaterial()) ?? new Map<string, (readonly [Primitive, Matrix | null])[]>();
    kinds.set(primitive.getMaterial(), layouts);
    // Volumes are measured in the space of their node.
    const isVolume = primitive.getMaterial()?.getExtension('KHR_materials_volume');
    const layout = `${layoutOf(primitive, primitive.listSemantics())}${isVolume ? ` ${layouts.size}` : ''} ${mappingKey(primitive, numberOf)}`;
    layouts.set(layout, [...(layouts.get(layout) ?? []), part]);
  }
  for (const layouts of kinds.values()) for (const list of layouts.values()) out.addPrimitive(joined(document, list));
  return out;
}

function joined(document: Document, parts: readonly (readonly [Primitive, Matrix | null])[]): Primitive {
  const [[first]] = parts as [readonly [Primitive, Matrix | null]];
  const counts = parts.map(([p]) => p.getAttribute('POSITION')!.getCount());
  const total = counts.reduce((sum, n) => sum + n, 0);
  const semantics = first.listSemantics();
  const columns = semantics.map((name) => column(name, parts, counts, total, (p) => p));
  const targets = first
    .listTargets()
    .map((target, t) => target.listSemantics().map((name) => column(name, parts, counts, total, (p) => p.listTargets()[t]!)));
  const corners = parts.reduce((sum, [p]) => sum + p.getIndices()!.getCount(), 0);
  const vertexOf = new Uint32Array(corners);
  let [at, base] = [0, 0];
  parts.forEach(([p, m], i) => {
    const index = p.getIndices()!.getArray()!;
    const turn = m !== null && determinant(m) < 0;
    for (let k = 0; k < index.length; k++) vertexOf[at + (turn ? k - (k % 3) + ((3 - (k % 3)) % 3) : k)] = base + index[k]!;
    at += index.length;
    base += counts[i]!;
  });
  const { rows, index } = indexRows([...columns, ...targets.flat()], total);
  // Vertices that no triangle uses stay behind.
  const place = new Int32Array(rows.length).fill(-1);
  const used: number[] = [];
  const written = vertexOf.map((v) => {
    const row = index[v]!;
    if (place[row]! < 0) place[row] = used.push(rows[row]!) - 1;
    return place[row]!;
  });
  const picked = Uint32Array.from(used);
  const out = setIndices(document, first.clone(), written, picked.length);
  semantics.forEach((name, i) => out.setAttribute(name, accessorOf(document, columns[i]!, picked)));
  first.listTargets().forEach((target, t) => {
    out.removeTarget(target);
    const copy = target.clone();
    target.listSemantics().forEach((name, i) => copy.setAttribute(name, accessorOf(document, targets[t]![i]!, picked)));
    out.addTarget(copy);
  });
  return out;
}

interface Joined extends Column {
  data: Float32Array | Uint32Array | Uint16Array | Uint8Array | Int32Array;
  isNormalized: boolean;
}

type HasAttributes = { getAttribute(name: string): ReturnType<Primitive['getAttribute']> };

/**
 * One attribute of all parts, moved. Of one kind they stay as they are; of several they become floats, joints
 * 16 bits.
 */
function column(
  name: string,
  parts: readonly (readonly [Primitive, Matrix | null])[],
  counts: readonly number[],
  total: number,
  from: (p: Primitive) => HasAttributes,
): Joined {
  const accessors = parts.map(([p]) => from(p).getAttribute(name)!);
  const [head] = accessors as [(typeof accessors)[number]];
  const width = head.getElementSize();
  const isMoved = /^(POSITION|NORMAL|TANGENT)$/.test(name) && parts.some(([, m]) => m !== null);
  const Kind = head.getArray()!.constructor as new (n: number) => Joined['data'];
  const isOneKind = accessors.every((a) => a.getArray()!.constructor === Kind && a.getNormalized() === head.getNormalized());
  const keep = isOneKind && !isMoved;
  const data = keep ? new Kind(total * width) : name.startsWith('JOINTS_') ? new Uint16Array(total * 4) : new Float32Array(total * width);
  let base = 0;
  accessors.forEach((a, i) => {
    const m = parts[i]![1];
    const source = keep || name.startsWith('JOINTS_') ? a.getArray()! : values(a);
    data.set(source, base * width);
    if (isMoved && m) move(name, m, source, data as Float32Array, base, counts[i]!, width);
    base += counts[i]!;
  });
  return { data, width, isNormalized: keep && head.getNormalized() };
}

function move(name: string, m: Matrix, from: ArrayLike<number>, to: Float32Array, base: number, count: number, width: number): void {
  const sign = determinant(m) < 0 ? -1 : 1;
  const directions = name === 'NORMAL' ? cofactor(m) : linearPart(m);
  for (let v = 0; v < count; v++) {
    const o = (base + v) * width;
    if (name === 'POSITION') transformPoint(m, from, v * width, to, o);
    else transformDirection(directions, from, v * width, to, o, name === 'NORMAL' ? sign : 1);
    if (name === 'TANGENT') to[o + 3] = from[v * width + 3]! * sign;
  }
}

function accessorOf(document: Document, { data, width, isNormalized }: Joined, rows: Uint32Array) {
  const type = (['SCALAR', 'VEC2', 'VEC3', 'VEC4'] as const)[width - 1]!;
  return createAccessor(document, type, pickRows(data, rows, width)).setNormalized(isNormalized);
}
